#include "bench/car.h"

#include "bench/turned.h"
#include "bench/wheel_signal.h"

#include "core/analysis/analysis.h"
#include "core/electrics/answering.h"
#include "core/electrics/sensor_model.h"
#include "core/fuel/flex.h"
#include "core/trigger/channel_look.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::bench {
namespace {

constexpr double kMinute_s = 60;
constexpr double kNoticed_k = 0.2, kNoticed_pa = 2e3; ///< what no sensor shows need not be solved anew

/// Within tolerance, but not on it.
job::Job asBuilt(job::Job job, unsigned seed)
{
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> within(-0.4, 0.4);
    job.ecu.supply.volts += within(random) * job.ecu.supply.tolerance_v;
    job.battery.volts += within(random) * job.battery.tolerance_v;
    return job;
}

} // namespace

Car::Car(job::Job job, faults::FaultList faults, unsigned seed)
    : m_job(std::move(job)),
      m_asBuilt(asBuilt(m_job, seed)),
      m_faults(std::move(faults)),
      m_loose(seed),
      m_ambient_k(m_job.surroundings.ambient_k),
      m_seed(seed),
      m_random(seed)
{
    (void)solve(); // without an answer there is nothing to measure, and every reading is an overload
}

void Car::takeUpTables()
{
    takeUpTables([this](const job::Circuit& c) {
        return std::ranges::any_of(m_job.proofs,
                                   [&](const job::Proof& p) { return p.circuit == c.id && p.station == "value"; });
    });
}

void Car::takeUpTables(const std::function<bool(const job::Circuit&)>& given)
{
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(m_job));
    for (const job::Circuit& circuit : m_job.circuits) {
        const auto* view = analysis::find(analysis, circuit.id);
        const auto input = job::inputIndex(m_job, circuit.input);
        const parts::Part* sensor = job::sensorOf(m_job, circuit);
        if (view->table && input && sensor != nullptr && given(circuit))
            accept(link::tableFor(*input, *view->table, sensor->measures));
    }
    for (const faults::Fault& fault : left())
        if (const auto* held = std::get_if<faults::HeldTable>(&fault))
            takeUp(*held);
}

void Car::takeUp(const faults::HeldTable& held)
{
    link::EcuTable table{job::inputIndex(m_job, held.input).value_or(0), {}, {}};
    for (const auto& p : held.points) {
        table.readings.push_back(static_cast<float>(p.volts));
        table.values.push_back(static_cast<float>(p.value));
    }
    accept(table);
}

electrics::Situation Car::situation() const
{
    job::Surroundings surroundings = m_asBuilt.surroundings;
    surroundings.ambient_k = m_ambient_k;
    electrics::Situation out{m_condition, surroundings, m_measurands, now()};
    for (const job::Circuit& c : m_job.circuits)
        if (const auto felt = m_engine.felt(m_job, c))
            out.measurands.try_emplace(c.id, *felt); // what hands hold stays
    if (m_crank_deg && !job::engineTurns(m_condition))
        out.pulling = onTooth(m_job, out.faults, *m_crank_deg);
    return out;
}

Result<void> Car::solve()
{
    m_counted_rpm.reset();
    m_solvedWith = m_engine;
    electrics::Situation is = situation();
    auto built = electrics::build(m_asBuilt, is);
    if (built && std::erase_if(is.pulling, [&](const job::CircuitId& id) { return !built->circuits[id].powered; }) > 0)
        built = electrics::build(m_asBuilt, is); // what has no supply pulls nothing
    if (!built) {
        m_electrics.reset();
        return tl::make_unexpected(built.error());
    }
    m_electrics = std::move(*built);
    m_fitted = faults::asWired(m_asBuilt, now());
    return {};
}

Result<void> Car::rewire(job::Job job, faults::FaultList faults)
{
    job::Job fitted = asBuilt(job, m_seed);
    auto built = electrics::build(fitted, {m_condition, fitted.surroundings, m_measurands, faults});
    if (!built)
        return tl::make_unexpected(built.error());
    if (job.surroundings.ambient_k != m_job.surroundings.ambient_k)
        m_ambient_k = job.surroundings.ambient_k;
    m_job = std::move(job);
    m_asBuilt = std::move(fitted);
    if (!(faults::writeFaults(faults) == faults::writeFaults(m_faults))) // another list: nobody has mended of it
        m_mends.clear();
    m_faults = std::move(faults);
    return solve();
}

Result<void> Car::practise(std::string_view faults)
{
    auto read = faults::readFaults(faults, m_job);
    if (!read)
        return tl::make_unexpected(read.error());
    return rewire(m_job, std::move(*read)).map([this] { takeUpTables([](const job::Circuit&) { return true; }); });
}

Result<void> Car::setCondition(job::Condition condition)
{
    if (condition != m_condition)
        m_engine.begin(turningOf(m_job, condition), m_ambient_k);
    m_condition = condition;
    return solve();
}

Result<void> Car::mend(std::vector<faults::Subjects> mends)
{
    const auto held = [this] {
        std::map<parts::InputId, faults::HeldTable> out;
        for (const faults::Fault& fault : left())
            if (const auto* h = std::get_if<faults::HeldTable>(&fault))
                out[h->input] = *h;
        return out;
    };
    const auto before = held();
    m_mends = std::move(mends);
    const auto after = held();
    takeUpTables([&](const job::Circuit& c) { return before.contains(c.input) && !after.contains(c.input); });
    return solve();
}

/// Those that nobody has mended.
faults::FaultList Car::left() const
{
    faults::FaultList out = m_faults;
    std::erase_if(out, [&](const faults::Fault& fault) {
        const faults::Subjects touched = faults::subjectsOf(fault, m_job);
        return !touched.empty() && std::ranges::any_of(m_mends, [&](const faults::Subjects& mend) {
            return std::ranges::includes(mend, touched);
        });
    });
    return out;
}

faults::FaultList Car::now() const
{
    faults::FaultList out = left();
    out.insert(out.end(), m_loose.open().begin(), m_loose.open().end());
    return out;
}

void Car::pass(double seconds)
{
    m_engine.pass(seconds);
    const bool warmer = std::abs(m_engine.coolant_k() - m_solvedWith.coolant_k()) > kNoticed_k ||
                        std::abs(m_engine.oil_pa() - m_solvedWith.oil_pa()) > kNoticed_pa;
    if (m_loose.pass(seconds, left())) {
        (void)solve(); // as in the constructor
    } else if (warmer) {
        const auto counted = m_counted_rpm; // warmth turns no wheel
        (void)solve();
        m_counted_rpm = counted;
    }
}

Result<void> Car::areThere(const std::vector<electrics::Leads>& places) const
{
    for (const electrics::Leads& leads : places)
        for (const job::PointRef& point : {leads.red, leads.black})
            if (!m_electrics || !m_electrics->node(point))
                return fail(ErrorCode::Reference, "the car has no place \"" + point.text() + "\"");
    return {};
}

Result<void> Car::putTips(std::vector<electrics::Leads> channels)
{
    if (auto there = areThere(channels); !there)
        return there;
    m_tips = std::move(channels);
    return {};
}

Result<void> Car::putProbes(const job::PointRef& red, const job::PointRef& black)
{
    if (auto there = areThere({{red, black}}); !there)
        return there;
    m_red = red;
    m_black = black;
    return {};
}

Result<void> Car::apply(const job::CircuitId& circuit, double value)
{
    if (job::find(m_job, circuit) == nullptr)
        return fail(ErrorCode::Reference, "the car has no circuit \"" + circuit.value + "\"");
    if (!std::isfinite(value))
        return fail(ErrorCode::Range, "that is not a number");
    m_measurands[circuit] = value;
    return solve();
}

Result<void> Car::setAmbient(double kelvin)
{
    if (!(kelvin > 200 && kelvin < 400))
        return fail(ErrorCode::Range, "an ambient must lie between 200 K and 400 K");
    m_ambient_k = kelvin;
    return solve();
}

Result<void> Car::turn(double crank_deg)
{
    if (!std::isfinite(crank_deg) || job::engineTurns(m_condition))
        return fail(ErrorCode::Range, "hands turn an engine that stands still, by so many degrees");
    m_crank_deg = crank_deg;
    return solve();
}

Result<std::vector<job::CircuitId>> Car::click(const parts::OutputId& output) const
{
    if (job::findOutput(m_job, output) == nullptr)
        return fail(ErrorCode::Reference, "the ECU has no output \"" + output.value + "\"");
    if (m_condition != job::Condition::KeyOn || !m_electrics || !m_electrics->units.front().powered)
        return fail(ErrorCode::Reference, "the ECU clicks an output with the key on and the engine stopped");
    return electrics::answering(m_asBuilt, situation(), output);
}

std::vector<float> Car::seenBetween(const electrics::Leads& leads, double step_s, size_t samples)
{
    const faults::FaultList faults = now();
    return signalBetween({m_job, *m_electrics, faults, turningOf(m_job, m_condition), m_seed + ++m_captures}, leads.red,
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
    if (!m_counted_rpm)
        m_counted_rpm = counted();
    return *m_counted_rpm;
}

double Car::counted()
{
    constexpr double kLooks_s = 0.7, kStep_s = 2e-5, kKnown = 0.9;
    const auto turning = turningOf(m_job, m_condition);
    if (!turning || !m_electrics || m_electrics->units.empty() || !m_electrics->units.front().powered)
        return 0;
    for (const job::Circuit& c : m_fitted.circuits) {
        const auto wheel = c.trigger ? trigger::readWheel(c.trigger->wheel) : fail(ErrorCode::Range, {});
        const parts::Part* sensor = job::sensorOf(m_fitted, c);
        if (!wheel || sensor == nullptr || wheel->onCam() || !job::readsWheel(m_fitted, c))
            continue;
        const bool coil = parts::traitsOf(*sensor).alternating;
        const auto leads = electrics::leadsAtInput(m_job, *job::find(m_job, c.id));
        if (!leads || !areThere({*leads}))
            return 0;
        const auto seen = seenBetween(*leads, kStep_s, static_cast<size_t>(kLooks_s / kStep_s));
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

std::optional<double> Car::volts()
{
    if (!m_electrics)
        return std::nullopt;
    const auto reading = m_electrics->voltmeter(m_red, m_black, m_job.meter);
    if (!reading)
        return std::nullopt;
    return reading->value + noise(m_job.meter.voltsShare * std::abs(reading->value) / 10 + m_job.meter.volts_v / 10);
}

std::optional<double> Car::ohms()
{
    if (!m_electrics || job::isLive(m_condition))
        return std::nullopt; // a live circuit cannot be measured in Ohm
    const auto reading = m_electrics->ohmmeter(m_red, m_black);
    if (!reading || reading->value > job::kMost_ohm)
        return std::nullopt;
    return std::max(0.0, reading->value + m_job.meter.lead_ohm +
                             noise(m_job.meter.ohmsShare * reading->value / 10 + m_job.meter.ohms_ohm / 20));
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
            const auto measurand = m_measurands.find(circuit.id);
            const double value = measurand != m_measurands.end()
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

} // namespace vicegrip::bench
