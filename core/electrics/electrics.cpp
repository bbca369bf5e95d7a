#include "core/electrics/electrics.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace vicegrip::electrics {
namespace {

/// An element that moves a reading by less than this share of it, or this many volts, is not what the reading rests on.
constexpr double kNoticeableShare = 1e-4, kNoticeableVolts = 2e-4, kNoticeableOhms = 2e-2;

Bounded bounded(const Electrics& e, const circuit::Reading& reading, double noticeable)
{
    const auto& elements = e.solution.network().elements();
    Bounded out;
    out.value = reading.value;
    out.worst = reading.worstCase(e.solution.network());
    double squares = std::pow(reading.sigma(e.solution.network()), 2);
    for (const Cause& cause : e.causes) {
        double slope = 0;
        for (const auto& share : cause.shares)
            slope += reading.sensitivity[static_cast<size_t>(share.element)] * share.slope;
        out.worst += std::abs(slope) * cause.tolerance;
        squares += std::pow(slope * circuit::Spread{cause.tolerance}.standardDeviation(), 2);
    }
    out.sigma = std::sqrt(squares);
    const double threshold = std::max(noticeable, kNoticeableShare * std::abs(reading.value));
    std::set<std::string> subjects;
    for (size_t i = 0; i < reading.sensitivity.size(); ++i) {
        const circuit::Element& element = elements[i];
        if (!element.label.empty() && std::abs(reading.sensitivity[i] * element.value) > threshold)
            subjects.insert(element.label);
    }
    out.subjects.assign(subjects.begin(), subjects.end());
    return out;
}

} // namespace

double fullScaleVolts(const job::Job& job, const parts::AnalogInput& input)
{
    return input.reference == parts::Reference::Ratiometric ? job.ecu.supply.volts : input.span_v;
}

std::optional<circuit::Node> Electrics::node(const job::PointRef& point) const
{
    const auto it = nodes.find(point);
    return it == nodes.end() ? std::nullopt : std::optional(it->second);
}

namespace {

/// Looks up, or works out and keeps.
template <class Measure>
std::optional<Bounded> remembered(const Electrics& e, const job::PointRef& red, const job::PointRef& black,
                                  Measure measure, bool inOhm)
{
    const auto r = e.node(red), b = e.node(black);
    if (!r || !b)
        return std::nullopt;
    const auto [it, added] = e.known.try_emplace({*r, *b, inOhm});
    if (added)
        it->second = bounded(e, measure(*r, *b), inOhm ? kNoticeableOhms : kNoticeableVolts);
    return it->second;
}

} // namespace

std::optional<Bounded> Electrics::voltmeter(const job::PointRef& red, const job::PointRef& black,
                                            const job::Meter& meter) const
{
    return remembered(
        *this, red, black, [&](circuit::Node r, circuit::Node b) { return solution.voltmeter(r, b, meter.input_ohm); },
        false);
}

std::optional<Bounded> Electrics::ohmmeter(const job::PointRef& red, const job::PointRef& black) const
{
    return remembered(
        *this, red, black, [&](circuit::Node r, circuit::Node b) { return solution.ohmmeter(r, b); }, true);
}

std::optional<Bounded> Electrics::inputVolts(const job::Job& job, const job::Circuit& circuit) const
{
    const parts::AnalogInput* input = job::findInput(job, circuit.input);
    const auto it = circuits.find(circuit.id);
    if (!ecuGround || !ecuPowered || it == circuits.end() || !it->second.converter || input == nullptr)
        return std::nullopt;
    constexpr double kNoLoad = 1e15;
    circuit::Reading seen = solution.voltmeter(*it->second.converter, *ecuGround, kNoLoad);
    if (input->reference == parts::Reference::Ratiometric) {
        if (!knownSupply)
            knownSupply = solution.voltmeter(*ecuSupply, *ecuGround, kNoLoad);
        const circuit::Reading& full = *knownSupply;
        if (full.value <= 0)
            return std::nullopt;
        // d(k v / f) = k (dv / f - v df / f^2): the supply's own tolerance cancels.
        const double nominal = job.ecu.supply.volts;
        for (size_t i = 0; i < seen.sensitivity.size(); ++i)
            seen.sensitivity[i] = nominal * (seen.sensitivity[i] / full.value -
                                             seen.value * full.sensitivity[i] / (full.value * full.value));
        seen.value *= nominal / full.value;
    }
    return bounded(*this, seen, kNoticeableVolts);
}

double Electrics::supplyCurrent() const
{
    if (!supplySeries)
        return 0;
    const circuit::Element& series = solution.network().element(*supplySeries);
    return solution.volts(series.a, series.b) / std::max(series.value, circuit::kLeastOhms);
}

} // namespace vicegrip::electrics
