#include "core/parts/part.h"

#include "core/parts/alternative.h"

namespace vicegrip::parts {
namespace {

template <class... Kind> constexpr std::array<std::string_view, sizeof...(Kind)> namesOf(const std::variant<Kind...>*)
{
    return {Kind::kName...};
}
constexpr auto kModelNames = namesOf(static_cast<const Model*>(nullptr));

/// Range members carry the shown unit in the file, so that a person can read them: "low": 0, "unit": "°C".
template <class A> void commonFields(A& a, Part& s)
{
    a("id", s.id);
    a("name", s.name);
    a("kind", s.kind);
    a("feed", s.feed);
    a("conditioned", s.conditioned);
}

/// Values of points carry the shown unit in the file, as the range does.
template <class Convert> void convertPoints(Part& part, Convert convert)
{
    const auto each = [&](auto& m) {
        if constexpr (requires { m.points.front().value; })
            for (auto& p : m.points)
                p.value = convert(p.value);
    };
    std::visit(each, part.model);
}

} // namespace

void listFields(fields::Reader& a, Part& s)
{
    commonFields(a, s);
    a("pins", s.pins);
    readAlternative(a, s.model, kModelNames);
    if (isDriven(s)) {
        a.rest(s.extra);
        return;
    }
    std::string measures;
    a("measures", measures);
    s.measures = units::dimensionFromName(measures).value_or(units::Dimension::Temperature);
    a("unit", s.unit);
    a("low", s.low);
    a("high", s.high);
    s.low = units::fromUnit(s.low, s.measures, s.unit);
    s.high = units::fromUnit(s.high, s.measures, s.unit);
    convertPoints(s, [&](double v) { return units::fromUnit(v, s.measures, s.unit); });
    a.rest(s.extra);
}

void listFields(fields::Writer& a, Part& s)
{
    commonFields(a, s);
    if (!isDriven(s)) {
        std::string measures(units::name(s.measures));
        a("measures", measures);
        a("unit", s.unit);
        double low = fields::rounded(units::toUnit(s.low, s.measures, s.unit));
        double high = fields::rounded(units::toUnit(s.high, s.measures, s.unit));
        a("low", low);
        a("high", high);
    }
    a("pins", s.pins);
    Part shown = s;
    convertPoints(shown, [&](double v) { return fields::rounded(units::toUnit(v, s.measures, s.unit)); });
    writeAlternative(a, shown.model, kModelNames);
    a.rest(s.extra);
}

std::string cavityOf(const Part& part, PinRole role)
{
    for (const auto& [cavity, does] : part.pins)
        if (does == role)
            return cavity;
    return {};
}

namespace {

/// A kind's own answer, or what holds for all that have none. `question` ends in "-> decltype(m.answer())", so that it
/// can be asked of those alone that answer.
template <class Answer, class Question> Answer ask(const Part& part, Answer otherwise, Question question)
{
    return std::visit(
        [&](const auto& m) -> Answer {
            if constexpr (std::is_invocable_v<Question, decltype(m)>)
                return question(m);
            else
                return otherwise;
        },
        part.model);
}

/// Changes what can be changed so; false where nothing can.
template <class Change> bool change(Part& part, Change change)
{
    return std::visit(
        [&](auto& m) {
            if constexpr (std::is_invocable_v<Change, decltype(m)>) {
                change(m);
                return true;
            }
            return false;
        },
        part.model);
}

} // namespace

const KindTraits& traitsOf(const Part& part)
{
    return std::visit([](const auto& m) -> const KindTraits& { return m.kTraits; }, part.model);
}

std::optional<Drive> driveOf(const Part& part)
{
    return ask(part, std::optional<Drive>{},
               [&](const auto& m) -> decltype(std::optional<Drive>(m.drive(part))) { return m.drive(part); });
}

std::optional<double> windingOhm(const Part& part)
{
    return ask(part, std::optional<double>{},
               [](const auto& m) -> decltype(std::optional<double>(m.ohm)) { return m.ohm; });
}

Part behindResistor(Part part, double ohm)
{
    if (auto* winding = std::get_if<Winding>(&part.model))
        winding->ohm += ohm;
    return part;
}

bool isDriven(const Part& part)
{
    return traitsOf(part).driven;
}

bool isOnBus(const Part& part)
{
    return traitsOf(part).pair;
}

bool isPort(const Part& part)
{
    return ask(part, false, [](const auto& m) -> decltype(bool(m.port)) { return m.port; });
}

bool isVehicleNetwork(const Part& part)
{
    return isOnBus(part) && !isPort(part) && cavityOf(part, PinRole::Supply).empty();
}

std::string roleWords(const Part& part, PinRole role)
{
    if (isOnBus(part) && isSignal(role))
        return role == PinRole::Signal ? phrase("CAN high") : phrase("CAN low");
    return phrase(fields::enumName(role));
}

double terminatorOhm(const Part& part)
{
    return ask(part, 0.0, [](const auto& m) -> decltype(double(m.terminator_ohm)) { return m.terminator_ohm; });
}

std::vector<PinRole> signalRoles(const Part& part)
{
    std::vector<PinRole> out;
    for (const PinRole role : {PinRole::Signal, PinRole::Signal2, PinRole::Signal3, PinRole::Signal4})
        if (!cavityOf(part, role).empty())
            out.push_back(role);
    return out;
}

std::optional<PinRole> acrossFrom(const Part& part, PinRole role)
{
    if (isOnBus(part))
        return !isSignal(role)           ? std::nullopt
               : role == PinRole::Signal ? std::optional(PinRole::Signal2)
                                         : std::optional(PinRole::Signal);
    if (!isPassive(part))
        return std::nullopt;
    if (!isDriven(part))
        return role == PinRole::Signal && !cavityOf(part, PinRole::Ground).empty() ? std::optional(PinRole::Ground)
                                                                                   : std::nullopt;
    constexpr std::pair<PinRole, PinRole> kSecondWinding{PinRole::Signal3, PinRole::Signal4};
    std::pair ends{PinRole::Signal, PinRole::Signal2};
    for (const PinRole other : {PinRole::Supply, PinRole::Ground})
        if (!cavityOf(part, other).empty())
            ends.second = other;
    for (const auto& [one, other] : {ends, kSecondWinding})
        if (role == one || role == other)
            return role == one ? other : one;
    return std::nullopt;
}

bool isOnPulseWidth(PartUse use)
{
    return use == PartUse::BoostValve || use == PartUse::PurgeValve || use == PartUse::IdleValve ||
           use == PartUse::Valve;
}

bool isPassive(const Part& part)
{
    return traitsOf(part).passive;
}

SignalKind signalOf(const Part& part)
{
    return traitsOf(part).signal;
}

std::string kindWords(const Part& part)
{
    const auto span = spanOf(part);
    return phrase(traitsOf(part).words, span ? units::formatNumber(span->low_v, 1) + "–" +
                                                   units::format(span->high_v, units::Dimension::Voltage, "V", 1)
                                             : std::string());
}

ElementValues elementValues(const Part& part, double x)
{
    return ask(part, ElementValues{}, [&](const auto& m) -> decltype(m.values(part, x)) { return m.values(part, x); });
}

std::vector<double> kinksOf(const Part& part)
{
    return ask(part, std::vector<double>{}, [&](const auto& m) -> decltype(m.kinks(part)) { return m.kinks(part); });
}

ElementRange elementRange(const Part& part, double low, double high)
{
    const auto around = [&](double x) { // the part's own tolerance round the value of its varied element
        const double value = elementValues(part, x)[0];
        return ask(part, ElementRange{value, value},
                   [&](const auto& m) -> decltype(m.around(value)) { return m.around(value); });
    };
    std::vector<double> places = {high};
    for (const double kink : kinksOf(part))
        if (kink > low && kink < high)
            places.push_back(kink);
    ElementRange out = around(low);
    for (const double x : places) {
        const ElementRange there = around(x);
        out.least = std::min(out.least, there.least);
        out.most = std::max(out.most, there.most);
    }
    return out;
}

Laid lay(ElementSink& to, const Part& part, const PartState& state)
{
    return std::visit([&](const auto& m) { return m.lay(to, part, state); }, part.model);
}

void write(DeckPen& to, const Part& part, const PartState& state)
{
    std::visit([&](const auto& m) { m.write(to, part, state); }, part.model);
}

bool isBent(const Part& part)
{
    return ask(part, traitsOf(part).bent, [](const auto& m) -> decltype(m.isBent()) { return m.isBent(); });
}

std::optional<OutputSpan> spanOf(const Part& part)
{
    return ask(part, std::optional<OutputSpan>{}, [](const auto& m) -> decltype(m.span()) { return m.span(); });
}

bool setSpan(Part& part, double low_v, double high_v, double tolerance)
{
    const auto span = spanOf(part);
    return span && span->straight && change(part, [&](auto& m) -> decltype(m.setSpan(low_v, high_v, tolerance)) {
               return m.setSpan(low_v, high_v, tolerance);
           });
}

double sheetTolerance(const Part& part)
{
    const auto span = spanOf(part);
    const double share = span ? span->tolerance : curveOf(part) ? 0 : resistanceTolerance(part).value_or(0);
    return share * (part.high - part.low);
}

const ResistanceCurve* curveOf(const Part& part)
{
    return ask(part, static_cast<const ResistanceCurve*>(nullptr),
               [](const auto& m) -> decltype(&m.curve) { return &m.curve; });
}

bool setCurve(Part& part, const ResistanceCurve& curve, double tolerance)
{
    return change(part, [&](auto& m) -> decltype(void(m.curve = curve)) {
        m.curve = curve;
        m.tolerance = tolerance;
    });
}

std::optional<double> dissipationOf(const Part& part)
{
    return ask(
        part, std::optional<double>{},
        [](const auto& m) -> decltype(std::optional<double>(m.dissipation_w_per_k)) { return m.dissipation_w_per_k; });
}

bool setDissipation(Part& part, double watts)
{
    return change(part,
                  [&](auto& m) -> decltype(void(m.dissipation_w_per_k = watts)) { m.dissipation_w_per_k = watts; });
}

std::optional<double> resistanceTolerance(const Part& part)
{
    const KindTraits& traits = traitsOf(part);
    return traits.passive && traits.pulledUp
               ? ask(part, std::optional<double>{},
                     [](const auto& m) -> decltype(std::optional<double>(m.tolerance)) { return m.tolerance; })
               : std::nullopt;
}

bool setOhms(Part& part, std::vector<Resistive::Point> points, double tolerance)
{
    return change(part, [&](auto& m) -> decltype(void(m.points = points)) {
        m.points = std::move(points);
        m.tolerance = tolerance;
    });
}

std::optional<PulseOutput> pulsesOf(const Part& part)
{
    return ask(part, std::optional<PulseOutput>{}, [](const auto& m) -> decltype(m.pulses()) { return m.pulses(); });
}

bool setRates(Part& part, double low_hz, double high_hz)
{
    return change(part, [&](auto& m) -> decltype(m.setRates(low_hz, high_hz)) { return m.setRates(low_hz, high_hz); });
}

double mostHertz(const Part& part)
{
    return ask(part, part.high, [&](const auto& m) -> decltype(m.mostHertz(part)) { return m.mostHertz(part); });
}

std::optional<double> contactOhm(const Part& part)
{
    return traitsOf(part).contact
               ? ask(part, std::optional<double>{},
                     [](const auto& m) -> decltype(std::optional<double>(m.on_ohm)) { return m.on_ohm; })
               : std::nullopt;
}

bool setContact(Part& part, std::optional<double> ohm)
{
    return change(part, [&](auto& m) -> decltype(m.setContact(ohm)) { return m.setContact(ohm); });
}

bool countsValue(const Part& part)
{
    return pulsesOf(part) && part.kind != PartUse::CrankTrigger && part.kind != PartUse::CamTrigger &&
           part.measures != units::Dimension::Frequency;
}

double hertzAt(const Part& part, double value)
{
    return ask(part, 0.0, [&](const auto& m) -> decltype(m.hertz(part, value)) { return m.hertz(part, value); });
}

bool needsPullUp(const Part& part)
{
    return ask(part, traitsOf(part).pulledUp,
               [&](const auto& m) -> decltype(m.needsPullUp(part)) { return m.needsPullUp(part); });
}

double mostVolts(const Part& part)
{
    return ask(part, 0.0, [&](const auto& m) -> decltype(m.mostVolts(part)) { return m.mostVolts(part); });
}

double usualDissipation(PartUse kind)
{
    return kind == PartUse::FluidTemperature ? 10e-3 : kind == PartUse::AirTemperature ? 1e-3 : 2e-3;
}

double supplyAmps(const Part& part, double volts)
{
    return ask(part, 0.0, [&](const auto& m) -> decltype(volts / m.supplyOhm()) { return volts / m.supplyOhm(); });
}

} // namespace vicegrip::parts
