#include "core/electrics/readings.h"

#include "core/electrics/wiring.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <string_view>

namespace vicegrip::electrics {
namespace {

constexpr double kNoLoad = 1e15;
constexpr circuit::Interval kAnything{-std::numeric_limits<double>::infinity(),
                                      std::numeric_limits<double>::infinity()};

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
    // A slope says little of what goes from one end of its range to the other: nothing spreads more than its bounds let
    // it (Popoviciu 1935).
    out.sigma = std::min(std::sqrt(squares), (within.high - within.low) / 2);
    return out;
}

} // namespace

/// What the ECU takes the input for, with what moves it.
struct Readings::Seen
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

Readings::Readings(const Electrics& car, bool withBounds) : m_car(car), m_withBounds(withBounds) {}

circuit::Bounds& Readings::bounds()
{
    return m_bounds ? *m_bounds : m_bounds.emplace(m_car.solution);
}

/// Looks up what is known, works out the rest together, and keeps it.
std::vector<std::optional<Bounded>> Readings::remembered(const std::vector<Leads>& leads,
                                                         std::optional<double> meter_ohm)
{
    const bool inOhm = !meter_ohm;
    std::vector<circuit::Probes> unknown;
    std::vector<Bounded*> answers, waiting;
    for (const Leads& l : leads) {
        const auto red = m_car.node(l.red), black = m_car.node(l.black);
        answers.push_back(nullptr);
        if (!red || !black)
            continue;
        const auto [it, added] = m_known.try_emplace({*red, *black, inOhm});
        answers.back() = &it->second;
        if (!added)
            continue;
        unknown.push_back({*red, *black});
        waiting.push_back(&it->second);
    }
    const std::vector<circuit::Reading> readings =
        inOhm ? m_car.solution.ohmmeters(unknown) : m_car.solution.voltmeters(unknown, *meter_ohm);
    if (m_withBounds)
        bounds().prepare(unknown);
    for (size_t i = 0; i < readings.size(); ++i) {
        const circuit::Interval within = !m_withBounds ? kAnything
                                         : inOhm       ? bounds().ohmmeter(unknown[i], readings[i])
                                                       : bounds().voltmeter(unknown[i], *meter_ohm, readings[i]);
        *waiting[i] = bounded(m_car, readings[i], within, inOhm ? kNoticeableOhms : kNoticeableVolts);
    }
    std::vector<std::optional<Bounded>> out;
    for (const Bounded* answer : answers)
        out.push_back(answer == nullptr ? std::nullopt : std::optional(*answer));
    return out;
}

std::vector<std::optional<Bounded>> Readings::voltmeters(const std::vector<Leads>& leads, const job::Meter& meter)
{
    return remembered(leads, meter.input_ohm);
}

std::vector<std::optional<Bounded>> Readings::ohmmeters(const std::vector<Leads>& leads)
{
    return remembered(leads, std::nullopt);
}

std::optional<Readings::Seen> Readings::seenAt(const job::Job& job, const job::Circuit& circuit)
{
    if (!m_car.reads(job, circuit))
        return std::nullopt;
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    const InputNodes& nodes = *m_car.circuits.at(circuit.id).input;
    const size_t index = nodes.unit;
    const UnitNodes& unit = m_car.units[index];
    Seen seen{{}, {nodes.converter, unit.ground}, {}};
    seen.reading = m_car.solution.voltmeter(seen.at.red, seen.at.black, kNoLoad);
    if (input->reference != parts::Reference::Ratiometric)
        return seen;
    seen.over = {unit.supply, unit.ground};
    const auto [full_v, added] = m_supplies.try_emplace(index);
    if (added)
        full_v->second = m_car.solution.voltmeter(unit.supply, unit.ground, kNoLoad);
    const circuit::Reading& full = full_v->second;
    // d(k v / f) = k (dv / f - v df / f^2): the supply's own tolerance cancels.
    seen.times = fullScaleVolts(job, *input);
    auto& [value, sensitivity] = seen.reading;
    for (size_t i = 0; i < sensitivity.size(); ++i)
        sensitivity[i] =
            seen.times * (sensitivity[i] / full.value - value * full.sensitivity[i] / (full.value * full.value));
    value *= seen.times / full.value;
    return seen;
}

std::optional<Bounded> Readings::inputVolts(const job::Job& job, const job::Circuit& circuit)
{
    const auto seen = seenAt(job, circuit);
    return seen ? std::optional(bounded(m_car, seen->reading, m_withBounds ? seen->within(bounds()) : kAnything,
                                        kNoticeableVolts))
                : std::nullopt;
}

std::optional<circuit::Interval> Readings::inputRange(const job::Job& job, const job::Circuit& circuit,
                                                      const std::function<bool(const std::string& label)>& moves)
{
    const auto seen = seenAt(job, circuit);
    if (!seen)
        return std::nullopt;
    circuit::Moving moving;
    for (const circuit::Element& e : m_car.solution.network().elements())
        moving.push_back(moves(e.label));
    return seen->within(bounds(), moving);
}

std::vector<Share> Readings::inputShares(const job::Job& job, const job::Circuit& circuit)
{
    const auto seen = seenAt(job, circuit);
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
    const auto& elements = m_car.solution.network().elements();
    for (size_t i = 0; i < reading.sensitivity.size(); ++i)
        add(elements[i].label, reading.sensitivity[i], elements[i].spread);
    for (const Cause& cause : m_car.causes)
        add(cause.name, slopeOf(cause, reading), {cause.tolerance});
    std::vector<Share> out;
    for (auto& [subject, share] : shares) {
        share.subject = subject;
        out.push_back(std::move(share));
    }
    return out;
}

std::optional<Leads> leadsAtInput(const job::Job& job, const job::Circuit& circuit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    Leads out{job::cavityOf(job, circuit.input), job::negativePost(job)};
    if (sensor != nullptr && parts::traitsOf(*sensor).alternating) {
        const auto paths = Wiring(job).paths(circuit);
        const auto ground = std::ranges::find(paths, parts::PinRole::Ground, &Path::role);
        if (ground == paths.end() || !ground->complete)
            return std::nullopt;
        out.black = ground->points.back();
    }
    return out.red.owner.empty() || out.black.owner.empty() ? std::nullopt : std::optional(out);
}

} // namespace vicegrip::electrics
