#include "bench/car.h"

#include "bench/turned.h"

#include "core/analysis/analysis.h"
#include "core/electrics/answering.h"
#include "core/electrics/sensor_model.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::bench {
namespace {

constexpr double kNoticed = 2e-4; ///< of a sensor's range: what it does not show need not be solved anew
constexpr double kTick_s = 0.05; ///< while the engine is brought to where hands want it

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
      m_engine(m_job),
      m_ambient_k(m_job.surroundings.ambient_k),
      m_seed(seed),
      m_random(seed)
{
    (void)changed(); // without an answer there is nothing to measure, and every reading is an overload
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

/// What sensors are at: what hands hold stays, else what the engine does to them. Hands on a throttle hold its plate:
/// the foot goes on from there. What is in the fuel line comes from the tank.
std::map<job::CircuitId, double> Car::measurands() const
{
    std::map<job::CircuitId, double> out = m_measurands;
    for (const job::Circuit& c : m_job.circuits)
        if (const auto felt = m_engine.felt(m_job, c)) {
            const bool goesOn = c.function.value == "tps" || c.function.value == "flex";
            goesOn ? out.insert_or_assign(c.id, *felt) : out.try_emplace(c.id, *felt);
        }
    return out;
}

electrics::Situation Car::situation() const
{
    job::Surroundings surroundings = m_asBuilt.surroundings;
    surroundings.ambient_k = m_ambient_k;
    electrics::Situation out{m_state, surroundings, measurands(), now()};
    out.bounded = false;
    if (m_state == job::Condition::Running)
        out.off = m_engine.off(m_job);
    if (m_crank_deg && !job::engineTurns(m_state))
        out.pulling = onTooth(m_job, out.faults, *m_crank_deg);
    return out;
}

Result<void> Car::solve()
{
    m_solvedWith = situation();
    electrics::Situation is = m_solvedWith;
    auto built = electrics::build(m_asBuilt, is);
    if (built && std::erase_if(is.pulling, [&](const job::CircuitId& id) { return !built->circuits[id].powered; }) > 0)
        built = electrics::build(m_asBuilt, is); // what has no supply pulls nothing
    if (!built) {
        m_electrics.reset();
        return tl::make_unexpected(built.error());
    }
    m_electrics = std::make_shared<const electrics::Electrics>(std::move(*built));
    return {};
}

/// The wiring is another, or its condition: what the engine can have of it as well.
Result<void> Car::changed()
{
    m_counts.reset();
    m_fitted = faults::asWired(m_asBuilt, now());
    if (job::engineTurns(m_state))
        m_engine.setWorks(worksOf(m_asBuilt, situation()));
    return solve();
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
    m_engine.become(m_job);
    return changed().map([this] { keepAsked(); });
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
    const bool same = condition == m_condition;
    m_condition = condition;
    if (!same) {
        m_engine.stop();
        m_state = condition == job::Condition::Running ? job::Condition::KeyOn : condition;
    }
    return changed().map([&] {
        constexpr double kComesUp_s = 1;
        if (!same && condition == job::Condition::Cranking)
            for (double t = 0; t < kComesUp_s; t += kTick_s)
                goOn(kTick_s, UnderBonnet::By::Starter, 1);
        keepAsked();
    });
}

/// An engine that was asked to run is started, if it does not: the key is held, for five seconds at most.
void Car::keepAsked()
{
    constexpr double kPatience_s = 5, kSettles_s = 3;
    if (m_condition != job::Condition::Running || m_state == job::Condition::Running)
        return;
    m_engine.stop();
    m_state = job::Condition::Cranking;
    (void)changed();
    for (double t = 0; t < kPatience_s && !m_engine.runs(); t += kTick_s)
        goOn(kTick_s, UnderBonnet::By::StarterAndFire, 1);
    m_state = job::Condition::Running;
    (void)changed();
    for (double t = 0; t < kSettles_s && m_state == job::Condition::Running; t += kTick_s)
        goOn(kTick_s, UnderBonnet::By::Fire, 1);
}

bool Car::feelsOtherwise() const
{
    if (m_state == job::Condition::Running && m_engine.off(m_job) != m_solvedWith.off)
        return true;
    const auto are = measurands();
    return are.size() != m_solvedWith.measurands.size() || std::ranges::any_of(are, [&](const auto& now) {
               const auto then = m_solvedWith.measurands.find(now.first);
               const parts::Part* sensor = job::sensorOf(m_job, *job::find(m_job, now.first));
               const double noticed = sensor == nullptr ? 0 : kNoticed * std::abs(sensor->high - sensor->low);
               return then == m_solvedWith.measurands.end() || std::abs(now.second - then->second) > noticed;
           });
}

/// The ECU acts on what it reads, the engine on that; one that stalls stands, and is cold by the next start.
void Car::goOn(double seconds, UnderBonnet::By by, double hurry)
{
    m_engine.setAmbient(m_ambient_k);
    m_engine.pass(seconds, readOf(m_job, values(), countedRpm()), by, hurry);
    if (m_state == job::Condition::Running && !m_engine.runs()) {
        m_engine.stop();
        m_state = job::Condition::KeyOn;
        (void)changed();
    } else if (feelsOtherwise()) {
        (void)solve();
    }
}

void Car::drive(double seconds, engine::Driver& driver)
{
    driver.act(seconds, m_engine.plant(), m_engine.moved());
    goOn(seconds, UnderBonnet::By::Fire, 1);
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
    return changed().map([this] { keepAsked(); });
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
    if (m_loose.pass(seconds, left()))
        (void)changed(); // as in the constructor
    if (m_state == job::Condition::Running)
        goOn(seconds, UnderBonnet::By::Fire, UnderBonnet::kHurry);
    else if (m_state == job::Condition::Cranking)
        goOn(seconds, UnderBonnet::By::Starter, 1);
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
    const std::string& function = job::find(m_job, circuit)->function.value;
    if (function == "flex")
        m_engine.tank().become(std::clamp(value, 0.0, 1.0));
    else if (function == "tps" && job::sensorOf(m_job, *job::find(m_job, circuit)) != nullptr)
        m_engine.restPlateAt(std::clamp(value, 0.0, 1.0));
    return solve();
}

Result<void> Car::pour(double onto_m3, const fuel::Fill& fill)
{
    constexpr double kMost_m3 = 1;
    if (!(onto_m3 >= 0 && fill.volume_m3 > 0 && onto_m3 + fill.volume_m3 <= kMost_m3 && fill.ethanol >= 0 &&
          fill.ethanol <= 1))
        return fail(ErrorCode::Range, "a fill has a volume, and a share of ethanol from 0 to 1");
    m_engine.tank().hold(onto_m3);
    m_engine.tank().pour(fill);
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
    if (!std::isfinite(crank_deg) || job::engineTurns(m_state))
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

} // namespace vicegrip::bench
