#include "core/electrics/electrics.h"

#include <algorithm>
#include <cmath>
#include <string_view>

namespace vicegrip::electrics {
namespace {

/// An element that moves a reading by less than this share of it, or this many volts, is not what the reading rests on.
constexpr double kNoticeableShare = 1e-4, kNoticeableVolts = 2e-4, kNoticeableOhms = 2e-2;

double slopeOf(const Cause& cause, const circuit::Reading& reading)
{
    double slope = 0;
    for (const auto& share : cause.shares)
        slope += reading.sensitivity[static_cast<size_t>(share.element)] * share.slope;
    return slope;
}

Bounded bounded(const Electrics& e, const circuit::Reading& reading, const circuit::Interval& within, double noticeable)
{
    const auto& elements = e.solution.network().elements();
    Bounded out;
    out.value = reading.value;
    out.low = within.low;
    out.high = within.high;
    const double threshold = std::max(noticeable, kNoticeableShare * std::abs(reading.value));
    double squares = 0;
    std::vector<std::string_view> subjects;
    for (size_t i = 0; i < reading.sensitivity.size(); ++i) { // the bulk of an analysis: one pass over all elements
        const double slope = reading.sensitivity[i];
        if (slope == 0)
            continue;
        const circuit::Element& element = elements[i];
        const double off = slope * element.spread.standardDeviation();
        squares += off * off;
        if (std::abs(slope * element.value) > threshold && !element.label.empty())
            subjects.push_back(element.label);
    }
    std::ranges::sort(subjects);
    subjects.erase(std::unique(subjects.begin(), subjects.end()), subjects.end());
    out.subjects.assign(subjects.begin(), subjects.end());
    for (const Cause& cause : e.causes) {
        const double slope = slopeOf(cause, reading);
        squares += std::pow(slope * circuit::Spread{cause.tolerance}.standardDeviation(), 2);
    }
    out.sigma = std::sqrt(squares);
    return out;
}

} // namespace

std::optional<PulseLevels> pulseLevels(const Electrics& car, const job::Circuit& circuit,
                                       const parts::OpenCollector& output)
{
    const auto it = car.circuits.find(circuit.id);
    if (it == car.circuits.end() || !it->second.input || it->second.varied.empty() ||
        !car.units[it->second.input->unit].powered)
        return std::nullopt;
    const CircuitElements& nodes = it->second;
    const circuit::Sweep sweep(car.solution, nodes.varied,
                               {{nodes.input->converter, car.units[nodes.input->unit].ground}});
    const auto at = [&](double ohms) { return sweep.at(std::array{ohms})[0]; };
    return PulseLevels{at(output.off_ohm), at(nodes.powered ? output.on_ohm : output.off_ohm)};
}

double fullScaleVolts(const job::Job& job, const parts::EcuInput& input)
{
    const parts::Ecu* unit = job::unitOf(job, input.id);
    return input.reference == parts::Reference::Ratiometric && unit != nullptr ? unit->supply.volts : input.span_v;
}

double countVolts(const job::Job& job, const parts::EcuInput& input)
{
    return fullScaleVolts(job, input) / input.fullScale();
}

std::optional<circuit::Node> Electrics::node(const job::PointRef& point) const
{
    const auto it = nodes.find(point);
    return it == nodes.end() ? std::nullopt : std::optional(it->second);
}

namespace {

/// Looks up what is known, works out the rest together, and keeps it.
std::vector<std::optional<Bounded>> remembered(const Electrics& e, const std::vector<Leads>& leads,
                                               std::optional<double> meter_ohm)
{
    const bool inOhm = !meter_ohm;
    std::vector<circuit::Probes> unknown;
    std::vector<Bounded*> answers, waiting;
    for (const Leads& l : leads) {
        const auto red = e.node(l.red), black = e.node(l.black);
        answers.push_back(nullptr);
        if (!red || !black)
            continue;
        const auto [it, added] = e.known.try_emplace({*red, *black, inOhm});
        answers.back() = &it->second;
        if (!added)
            continue;
        unknown.push_back({*red, *black});
        waiting.push_back(&it->second);
    }
    const std::vector<circuit::Reading> readings =
        inOhm ? e.solution.ohmmeters(unknown) : e.solution.voltmeters(unknown, *meter_ohm);
    e.bounds.prepare(unknown);
    for (size_t i = 0; i < readings.size(); ++i) {
        const circuit::Interval within = inOhm ? e.bounds.ohmmeter(unknown[i], readings[i])
                                               : e.bounds.voltmeter(unknown[i], *meter_ohm, readings[i]);
        *waiting[i] = bounded(e, readings[i], within, inOhm ? kNoticeableOhms : kNoticeableVolts);
    }
    std::vector<std::optional<Bounded>> out;
    for (const Bounded* answer : answers)
        out.push_back(answer == nullptr ? std::nullopt : std::optional(*answer));
    return out;
}

} // namespace

std::vector<std::optional<Bounded>> Electrics::voltmeters(const std::vector<Leads>& leads,
                                                          const job::Meter& meter) const
{
    return remembered(*this, leads, meter.input_ohm);
}

std::vector<std::optional<Bounded>> Electrics::ohmmeters(const std::vector<Leads>& leads) const
{
    return remembered(*this, leads, std::nullopt);
}

namespace {

constexpr double kNoLoad = 1e15;

/// What the ECU takes the input for, with what moves it.
struct Seen
{
    circuit::Reading reading;
    circuit::Probes at;
    std::optional<circuit::Probes> over; ///< the unit's own supply, of a ratiometric input
    double times = 1;

    [[nodiscard]] circuit::Interval within(circuit::Bounds& bounds, const circuit::Moving& moving = {}) const
    {
        return over ? bounds.ratio(at, *over, times, reading, moving) : bounds.voltmeter(at, 0, reading, moving);
    }
};

std::optional<Seen> seenAt(const Electrics& car, const job::Job& job, const job::Circuit& circuit)
{
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    const auto it = car.circuits.find(circuit.id);
    if (it == car.circuits.end() || !it->second.input || input == nullptr || !car.units[it->second.input->unit].powered)
        return std::nullopt;
    const size_t index = it->second.input->unit;
    const UnitNodes& unit = car.units[index];
    Seen seen{{}, {it->second.input->converter, unit.ground}, {}};
    seen.reading = car.solution.voltmeter(seen.at.red, seen.at.black, kNoLoad);
    if (input->reference != parts::Reference::Ratiometric)
        return seen;
    seen.over = {unit.supply, unit.ground};
    const auto [full_v, added] = car.knownSupplies.try_emplace(index);
    if (added)
        full_v->second = car.solution.voltmeter(unit.supply, unit.ground, kNoLoad);
    const circuit::Reading& full = full_v->second;
    if (full.value <= 0)
        return std::nullopt;
    // d(k v / f) = k (dv / f - v df / f^2): the supply's own tolerance cancels.
    seen.times = fullScaleVolts(job, *input);
    auto& [value, sensitivity] = seen.reading;
    for (size_t i = 0; i < sensitivity.size(); ++i)
        sensitivity[i] =
            seen.times * (sensitivity[i] / full.value - value * full.sensitivity[i] / (full.value * full.value));
    value *= seen.times / full.value;
    return seen;
}

} // namespace

std::optional<Bounded> Electrics::inputVolts(const job::Job& job, const job::Circuit& circuit) const
{
    const auto seen = seenAt(*this, job, circuit);
    return seen ? std::optional(bounded(*this, seen->reading, seen->within(bounds), kNoticeableVolts)) : std::nullopt;
}

std::optional<circuit::Interval> Electrics::inputRange(const job::Job& job, const job::Circuit& circuit,
                                                       const std::function<bool(const std::string& label)>& moves) const
{
    const auto seen = seenAt(*this, job, circuit);
    if (!seen)
        return std::nullopt;
    circuit::Moving moving;
    for (const circuit::Element& e : solution.network().elements())
        moving.push_back(moves(e.label));
    return seen->within(bounds, moving);
}

std::vector<Share> Electrics::inputShares(const job::Job& job, const job::Circuit& circuit) const
{
    const auto seen = seenAt(*this, job, circuit);
    if (!seen)
        return {};
    const circuit::Reading& reading = seen->reading;
    std::map<std::string, Share> shares;
    const auto add = [&](const std::string& subject, double slope, const circuit::Spread& spread) {
        if (slope == 0 || spread.tolerance == 0)
            return;
        Share& s = shares[subject];
        s.worst += std::abs(slope) * spread.tolerance;
        s.sigma = std::hypot(s.sigma, slope * spread.standardDeviation());
    };
    const auto& elements = solution.network().elements();
    for (size_t i = 0; i < reading.sensitivity.size(); ++i)
        add(elements[i].label, reading.sensitivity[i], elements[i].spread);
    for (const Cause& cause : causes)
        add(cause.name, slopeOf(cause, reading), {cause.tolerance});
    std::vector<Share> out;
    for (auto& [subject, share] : shares) {
        share.subject = subject;
        out.push_back(std::move(share));
    }
    return out;
}

namespace {

double currentThrough(const circuit::Solution& solution, circuit::ElementIndex resistor)
{
    const circuit::Element& e = solution.network().element(resistor);
    return solution.volts(e.a, e.b) / std::max(e.value, circuit::kLeastOhms);
}

} // namespace

double Electrics::wireCurrent(const job::WireId& wire) const
{
    const auto it = wires.find(wire);
    return it == wires.end() ? 0 : currentThrough(solution, it->second);
}

double Electrics::supplyCurrent(size_t unit) const
{
    return unit >= units.size() ? 0 : currentThrough(solution, units[unit].supplySeries);
}

} // namespace vicegrip::electrics
