#include "core/base/phrase.h"
#include "core/parts/alternative.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"

#include <cmath>

namespace vicegrip::parts {

template <class A> void listFields(A& a, BetaCurve& c)
{
    a("r25_ohm", c.r25_ohm);
    a("beta_k", c.beta_k);
}

template <class A> void listFields(A& a, SteinhartHartCurve& c)
{
    a("a", c.a);
    a("b", c.b);
    a("c", c.c);
}

template <class A> void listFields(A& a, TableCurve::Point& p)
{
    a.scaled("celsius", p.kelvin, 1, 273.15);
    a("ohm", p.ohm);
}

template <class A> void listFields(A& a, TableCurve& c)
{
    a("points", c.points);
}

namespace {

constexpr std::array<std::string_view, 3> kCurveNames = {"beta", "steinhart_hart", "table"};

/// Curves are only followed down to here: an exponential soon leaves what a double holds.
constexpr double kColdest_k = 100;

template <class A> void ownFields(A& a, Thermistor& t)
{
    a("tolerance", t.tolerance);
    a("dissipation_w_per_k", t.dissipation_w_per_k);
}

/// The curve has a resistance above 0 at every temperature of the range, and goes one way.
Result<void> checkOver(const ResistanceCurve& curve, double low, double high)
{
    constexpr int kPlaces = 64;
    double before = 0;
    bool falls = false;
    for (int i = 0; i <= kPlaces; ++i) {
        const double at = std::lerp(low, high, static_cast<double>(i) / kPlaces);
        const double ohm = at > 0 ? ohms(curve, at) : 1;
        const std::string where = units::format(at, Dimension::Temperature, "°C", 0);
        if (!std::isfinite(ohm) || !(ohm > 0))
            return outOfRange("/thermistor", phrase("the curve has no resistance at {}", where));
        if (i == 1)
            falls = ohm < before;
        if (i > 0 && (ohm == before || (ohm < before) != falls))
            return outOfRange("/thermistor", phrase("the curve turns back at {}", where));
        before = ohm;
    }
    return {};
}

Result<void> checkCurve(const ResistanceCurve& curve)
{
    const auto* steinhart = std::get_if<SteinhartHartCurve>(&curve);
    if (steinhart != nullptr && (!(steinhart->b > 0) || !(steinhart->c >= 0)))
        return outOfRange("/thermistor/steinhart_hart",
                          phrase("b must be above 0 and c not below it: else the curve turns back"));
    const auto* table = std::get_if<TableCurve>(&curve);
    if (table == nullptr)
        return {};
    for (size_t i = 1; i < table->points.size(); ++i) {
        const std::string at = "/thermistor/table/points/" + std::to_string(i);
        if (table->points[i].kelvin <= table->points[i - 1].kelvin)
            return outOfRange(at, phrase("temperatures must rise from point to point"));
        const bool falls = table->points[1].ohm < table->points[0].ohm;
        if (table->points[i].ohm == table->points[i - 1].ohm ||
            (table->points[i].ohm < table->points[i - 1].ohm) != falls)
            return outOfRange(at, phrase("the resistance must keep falling, or keep rising, from point to point"));
    }
    return {};
}

} // namespace

void listFields(fields::Reader& a, Thermistor& t)
{
    ownFields(a, t);
    readAlternative(a, t.curve, kCurveNames);
    a.rest(t.extra);
}

void listFields(fields::Writer& a, Thermistor& t)
{
    ownFields(a, t);
    writeAlternative(a, t.curve, kCurveNames);
    a.rest(t.extra);
}

ElementValues Thermistor::values(const Part&, double x) const
{
    return {ohms(curve, std::max(x, kColdest_k))};
}

std::vector<double> Thermistor::kinks(const Part&) const
{
    std::vector<double> out;
    if (const auto* table = std::get_if<TableCurve>(&curve))
        for (const auto& p : table->points)
            out.push_back(p.kelvin);
    return out;
}

ElementRange Thermistor::around(double value) const
{
    return {value * (1 - tolerance), value * (1 + tolerance)};
}

Result<void> Thermistor::check(const Part& part) const
{
    if (part.measures != Dimension::Temperature)
        return outOfRange("/measures", phrase("a thermistor measures temperature"));
    if (auto sound = checkCurve(curve); !sound)
        return sound;
    return checkOver(curve, part.low, part.high);
}

Laid Thermistor::lay(ElementSink& to, const Part& part, const PartState& state) const
{
    const double ohm = values(part, state.value)[0];
    return {.varied = {to.resistor(to.at(PinRole::Signal), to.at(PinRole::Ground), ohm, ohm * tolerance)}};
}

void Thermistor::write(DeckPen& to, const Part&, const PartState& state) const
{
    to.resistor(to.at(PinRole::Signal), to.at(PinRole::Ground), ohms(curve, state.value));
}

void Thermistor::readLine(PartLines& lines, const Line& l, const Part&)
{
    if (l.key == "beta") {
        BetaCurve c;
        if (const auto v = lines.two(l, "2k2, 3500 K"); !v.empty()) {
            lines.quantity(l, v[0], Dimension::Resistance, "Ω", c.r25_ohm);
            lines.quantity(l, v[1], Dimension::TemperatureDifference, "K", c.beta_k);
        }
        curve = c;
    } else if (l.key == "steinhart-hart") {
        const auto v = listOf(l.value);
        SteinhartHartCurve c;
        double* const into[] = {&c.a, &c.b, &c.c};
        if (v.size() != 3)
            lines.complain(l, phrase("expected the three coefficients, such as 1.13e-3, 2.34e-4, 8.77e-8"));
        for (size_t i = 0; i < 3 && v.size() == 3; ++i)
            lines.quantity(l, v[i], Dimension::Counts, {}, *into[i]);
        curve = c;
    } else {
        TableCurve c;
        for (const auto& [kelvin, ohm] : lines.tableBelow(l, Dimension::Temperature, "°C", Dimension::Resistance, "Ω"))
            c.points.push_back({kelvin, ohm});
        curve = std::move(c);
    }
}

std::string Thermistor::lines(const Part&) const
{
    std::string out = percentLine(tolerance);
    if (const auto* b = std::get_if<BetaCurve>(&curve))
        out += "beta: " + plainNumber(b->r25_ohm) + " ohm, " + plainNumber(b->beta_k) + " K\n";
    else if (const auto* c = std::get_if<SteinhartHartCurve>(&curve))
        out += "steinhart-hart: " + units::shortest(c->a) + ", " + units::shortest(c->b) + ", " +
               units::shortest(c->c) + "\n";
    else if (const auto* table = std::get_if<TableCurve>(&curve)) {
        out += "table:\n";
        for (const auto& p : table->points)
            out += plainNumber(p.kelvin - 273.15) + "\t" + plainNumber(p.ohm) + "\n";
    }
    return out;
}

} // namespace vicegrip::parts
