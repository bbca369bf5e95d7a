#include "bench/car.h"
#include "bench/wheel_signal.h"

#include "core/electrics/sensor_model.h"
#include "core/fuel/flex.h"
#include "core/scaling/table.h"
#include "core/trigger/channel_look.h"

#include <algorithm>
#include <cmath>
#include <utility>

/// What the car's ECU makes of its inputs, and what a scope sees.
namespace vicegrip::bench {
namespace {

constexpr double kMinute_s = 60;
constexpr double kSlowest_rpm = 100; ///< an ECU wants a gap or two within a second
/// So much faster or slower its wheel is looked at again, where the speed goes on changing, and where it has settled.
constexpr double kAnother = 1.3, kSlightly = 1.05, kSteady = 1.005;

} // namespace

std::vector<float> Car::seenBetween(const electrics::Leads& leads, double step_s, size_t samples)
{
    const faults::FaultList faults = now();
    return signalBetween({m_job, *m_electrics, faults, m_engine.turning(), m_seed + ++m_captures}, leads.red,
                         leads.black, step_s, samples);
}

Result<std::vector<std::vector<float>>> Car::scope(double step_s, size_t samples)
{
    if (m_tips.empty())
        return fail(ErrorCode::Reference, "nobody has put the scope's tips anywhere");
    if (auto there = areThere(m_tips); !there)
        return tl::make_unexpected(there.error());
    std::vector<std::vector<float>> out;
    for (const electrics::Leads& leads : m_tips)
        out.push_back(seenBetween(leads, step_s, samples));
    return out;
}

double Car::countedRpm()
{
    const auto turning = m_engine.turning();
    if (!turning || turning->rpm < kSlowest_rpm)
        return 0;
    const auto differs = [](double a, double b, double by) { return a > b * by || b > a * by; };
    const double was_rpm = std::exchange(m_last_rpm, turning->rpm);
    const bool settled = !differs(turning->rpm, was_rpm, kSteady);
    if (!m_counts || differs(turning->rpm, m_countsAt_rpm, settled ? kSlightly : kAnother)) {
        m_counts = counted() / turning->rpm;
        m_countsAt_rpm = turning->rpm;
    }
    return *m_counts * turning->rpm;
}

double Car::counted()
{
    constexpr double kLooks_turns = 3, kLeast_s = 0.3, kStep_s = 2e-5, kKnown = 0.9;
    const auto turning = m_engine.turning();
    if (!turning || !m_electrics || m_electrics->units.empty() || !m_electrics->units.front().powered)
        return 0;
    const double looks_s = std::max(kLeast_s, kLooks_turns * kMinute_s / turning->rpm);
    for (const job::Circuit& c : m_fitted.circuits) {
        const auto wheel = c.trigger ? trigger::readWheel(c.trigger->wheel) : fail(ErrorCode::Range, {});
        const parts::Part* sensor = job::sensorOf(m_fitted, c);
        if (!wheel || sensor == nullptr || wheel->onCam() || !job::readsWheel(m_fitted, c))
            continue;
        const bool coil = parts::traitsOf(*sensor).alternating;
        const auto leads = electrics::leadsAtInput(m_job, *job::find(m_job, c.id));
        if (!leads || !areThere({*leads}))
            return 0;
        const auto seen = seenBetween(*leads, kStep_s, static_cast<size_t>(looks_s / kStep_s));
        const trigger::Known known{
            .wheel = *wheel, .rising = c.trigger->edge.value_or(job::CountedEdge::Falling) == job::CountedEdge::Rising};
        const auto look = trigger::lookAt(seen, kStep_s, known, coil);
        const bool follows = look && look->report.followed.losses.empty() && !trigger::isEdgeWrong(*look) &&
                             static_cast<double>(look->report.followed.known()) >
                                 kKnown * static_cast<double>(look->report.times_s.size());
        return follows ? look->report.rpm : 0;
    }
    return turning->rpm; // of no wheel is anything said
}

/// Whether it is set to what its sensor gives: else the ECU shows nothing of it.
bool Car::makesSense(const parts::EcuInput& input) const
{
    const parts::EcuInput* set = job::findInput(m_fitted, input.id);
    return set == nullptr || std::ranges::none_of(m_fitted.circuits, [&](const job::Circuit& c) {
               const parts::Part* sensor = c.input == input.id ? job::sensorOf(m_fitted, c) : nullptr;
               return sensor != nullptr && parts::isSetOtherwise(*set, *sensor);
           });
}

std::vector<link::EcuSample> Car::samples()
{
    std::vector<link::EcuSample> out;
    if (!m_electrics)
        return out;
    std::map<int, double> hertz; // where a table turns pulses into a value
    for (const link::EcuPulses& p : pulses())
        hertz[p.input] = p.hz;
    const auto inputs = job::inputs(m_job);
    for (size_t i = 0; i < inputs.size() && i < link::kMostInputs; ++i) {
        const parts::EcuInput& input = *inputs[i];
        const auto nodes = m_electrics->inputs.find(input.id);
        if (nodes == m_electrics->inputs.end() || !m_electrics->units[nodes->second.unit].powered || !makesSense(input))
            continue;
        const electrics::UnitNodes& unit = m_electrics->units[nodes->second.unit];
        const circuit::Solution& solution = m_electrics->solution;
        const double full =
            input.reference == parts::Reference::Ratiometric ? solution.volts(unit.supply, unit.ground) : input.span_v;
        const double share = solution.volts(nodes->second.converter, unit.ground) / full;
        const double exact = share * input.fullScale() + noise(0.4);
        link::EcuSample sample;
        sample.input = static_cast<int>(i);
        sample.counts = static_cast<int>(std::clamp(std::round(exact), 0.0, static_cast<double>(input.fullScale())));
        sample.volts = sample.counts * electrics::countVolts(m_job, input);
        if (const auto table = m_tables.find(sample.input); table != m_tables.end())
            sample.value =
                link::valueAt(table->second, hertz.contains(sample.input) ? hertz[sample.input] : sample.volts);
        if (const job::Circuit* c = job::seatedOn(m_job, input.id);
            c != nullptr && job::readsWheel(m_job, *c) &&
            job::sensorOf(m_job, *c)->kind == parts::PartUse::CrankTrigger)
            sample.value = countedRpm() / kMinute_s; // turns a second: what it makes of the teeth
        out.push_back(sample);
    }
    return out;
}

std::vector<link::EcuPulses> Car::pulses()
{
    std::vector<link::EcuPulses> out;
    if (!m_electrics)
        return out;
    for (const job::Circuit& circuit : m_job.circuits) {
        const parts::Part* sensor = job::sensorOf(m_job, circuit);
        const auto index = job::inputIndex(m_job, circuit.input);
        const auto output = sensor == nullptr ? std::nullopt : parts::pulsesOf(*sensor);
        if (!output || !index || *index >= link::kMostInputs || !makesSense(*job::findInput(m_job, circuit.input)))
            continue;
        const auto levels = electrics::pulseLevels(*m_electrics, circuit, *output);
        if (!levels)
            continue; // the ECU is off
        link::EcuPulses pulses{*index, 0, 0};
        if (levels->swings()) {
            const auto measurand = m_solvedWith.measurands.find(circuit.id);
            const double value = measurand != m_solvedWith.measurands.end()
                                     ? measurand->second
                                     : electrics::atRest(circuit, m_asBuilt.surroundings).value;
            pulses.hz = parts::hertzAt(*sensor, value) * (1 + noise(2e-4));
            if (pulses.hz > 0)
                pulses.low_s = sensor->kind == parts::PartUse::FlexFuel ? fuel::pulseAt(m_ambient_k) * (1 + noise(1e-3))
                                                                        : 0.5 / pulses.hz;
        }
        out.push_back(pulses);
    }
    return out;
}

double Car::feedVolts() const
{
    if (!m_electrics || m_electrics->units.empty() || !m_electrics->units.front().powered)
        return 0;
    for (const parts::EcuPin& pin : m_job.ecu.pins)
        if (pin.role == parts::EcuPinRole::PowerFeed)
            if (const auto node = m_electrics->node(job::PointRef::fromText(pin.at)))
                return m_electrics->solution.volts(*node, m_electrics->units.front().ground);
    return 0;
}

std::vector<std::optional<double>> Car::values()
{
    std::map<int, double> shown;
    for (const link::EcuSample& s : samples())
        if (s.value)
            shown[s.input] = *s.value;
    std::vector<std::optional<double>> out;
    for (const job::Circuit& c : m_job.circuits) {
        const parts::Part* sensor = job::sensorOf(m_job, c);
        const auto input = job::inputIndex(m_job, c.input);
        const auto is = input ? shown.find(static_cast<int>(*input)) : shown.end();
        out.push_back(
            sensor == nullptr || is == shown.end() || job::readsWheel(m_job, c)
                ? std::nullopt
                : std::optional(units::fromUnit(is->second, sensor->measures, scaling::unitOf(*sensor, c.scaling))));
    }
    return out;
}

} // namespace vicegrip::bench
