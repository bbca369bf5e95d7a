#include "core/analysis/analysis.h"

#include "core/analysis/tasks.h"
#include "core/findings/checks.h"
#include "core/findings/harness_checks.h"
#include "core/throttle/limits.h"

#include <cmath>
#include <future>

namespace vicegrip::analysis {
namespace {

using job::Condition;
using proof::State;
using proof::StationKind;

constexpr int kCurvePoints = 256;

/// The car under a condition, solved; or why it could not be.
struct Car
{
    std::optional<electrics::Electrics> solved;
    std::string trouble;
};

Car carFor(const job::Job& job, Condition condition)
{
    auto built = electrics::build(job, {.condition = condition, .surroundings = job.surroundings});
    if (!built)
        return {std::nullopt, built.error().sentence};
    return {std::move(*built), {}};
}

void addScaling(proof::CircuitView& view, const job::Job& job, const Car& car, const job::Circuit& circuit)
{
    const parts::Sensor* sensor = job::sensorOf(job, circuit);
    if (circuit.input.empty()) {
        view.tableTrouble = "the sensor has no seat on the ECU";
        return;
    }
    if (sensor != nullptr && parts::signalOf(*sensor) != parts::SignalKind::Voltage && !parts::countsValue(*sensor)) {
        view.tableTrouble = parts::signalOf(*sensor) == parts::SignalKind::Frequency
                                ? "its teeth stand for no value: a trigger pattern reads them"
                                : "the signal is on or off, and needs no table";
        view.scale = State::NotNeeded;
        return;
    }
    const auto transfer = car.solved ? scaling::Transfer::of(job, *car.solved, circuit) : std::nullopt;
    if (!transfer || sensor == nullptr) {
        view.tableTrouble = car.solved ? "the sensor is on no ECU input" : car.trouble;
        return;
    }
    for (int i = 0; i <= kCurvePoints; ++i) {
        const double value =
            std::lerp(circuit.scaling.low, circuit.scaling.high, static_cast<double>(i) / kCurvePoints);
        view.curve.push_back({value, transfer->reading(value)});
    }
    view.thresholds = scaling::faultThresholds(*transfer, circuit.scaling);
    if (circuit.limits && throttle::takesLimits(*sensor)) {
        view.table = throttle::tableOf(*circuit.limits, *sensor, circuit.scaling);
        return;
    }
    auto table = scaling::makeTable(*transfer, *sensor, circuit.scaling);
    if (table)
        view.table = std::move(*table);
    else
        view.tableTrouble = table.error().sentence;
}

/// Metered when the needed places are proved with the key on; any failing or stale reading shows first.
State meterState(const proof::CircuitView& view)
{
    std::vector<State> needed, trouble;
    for (const auto& [condition, stations] : view.stations) {
        for (const proof::Judged& j : stations) {
            if (j.expectation.station.kind != StationKind::Probe)
                continue;
            if (j.expectation.needed)
                needed.push_back(j.expectation.promises() ? j.state : State::Failing);
            else if (j.state == State::Failing || j.state == State::Stale)
                trouble.push_back(j.state);
        }
    }
    needed.insert(needed.end(), trouble.begin(), trouble.end());
    return proof::worst(needed);
}

/// Scaled when the value has come back right from the ECU with the table it was given.
State scaleState(const proof::CircuitView& view)
{
    if (view.scale == State::NotNeeded)
        return view.scale;
    if (!view.table)
        return State::Failing;
    for (const proof::Judged& j : proof::stations(view, Condition::KeyOn))
        if (j.expectation.station.kind == StationKind::Value)
            return j.state;
    return State::Untouched;
}

/// Pinned when every cavity that one of its conductors passes is done.
State pinsState(const std::map<std::string, std::vector<pinning::Pin>>& all, const std::vector<electrics::Path>& paths)
{
    State state = State::Done;
    for (const electrics::Path& path : paths)
        for (const job::PointRef& place : path.points) {
            const auto connector = all.find(place.owner);
            if (connector == all.end())
                continue;
            const auto pin = std::ranges::find(connector->second, place, &pinning::Pin::at);
            if (pin != connector->second.end() && pin->state == pinning::PinState::Wrong)
                return State::Failing;
            if (pin != connector->second.end() && !pinning::isDone(pin->state))
                state = State::Untouched;
        }
    return state;
}

using Promises = std::vector<proof::Expectation>; ///< of one circuit

/// The part of an analysis that needs neither tables nor the network with the key on.
struct Beside
{
    Car off;
    std::vector<Promises> promises; ///< with the battery off; by circuit, in the job's order
    std::vector<findings::Finding> loom;
    std::map<std::string, std::vector<pinning::Pin>> pins;
    job::Facts facts;
};

Beside beside(const job::Job& job, const std::vector<std::vector<electrics::Path>>& paths)
{
    Beside out;
    out.off = carFor(job, Condition::BatteryOff);
    for (size_t i = 0; i < job.circuits.size() && out.off.solved; ++i) // nothing reaches the ECU: no table is needed
        out.promises.push_back(
            proof::expectations(job, *out.off.solved, Condition::BatteryOff, job.circuits[i], paths[i], nullptr));
    findings::checkHarness(out.loom, job);
    for (const job::Connector& connector : job.connectors)
        out.pins[connector.id] = pinning::pinsOf(job, connector);
    out.facts = job::facts(job);
    return out;
}

} // namespace

std::string_view stageName(Stage stage)
{
    static constexpr std::string_view kNames[kStageCount] = {"Board", "Brief",   "Inputs", "Pins",    "Meter",
                                                             "Scale", "Trigger", "Start",  "Handover"};
    return kNames[static_cast<size_t>(stage)];
}

Analysis analyse(std::shared_ptr<const job::Job> analysed)
{
    Analysis out;
    out.job = std::move(analysed);
    const job::Job& job = *out.job;
    const electrics::Wiring wiring(job);
    std::vector<std::vector<electrics::Path>> paths;
    for (const job::Circuit& circuit : job.circuits)
        paths.push_back(wiring.paths(circuit));
    auto other = std::async(std::launch::async, [&] { return beside(job, paths); });
    const Car keyOn = carFor(job, Condition::KeyOn);
    std::vector<Promises> promises(job.circuits.size());
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const job::Circuit& circuit = job.circuits[i];
        proof::CircuitView& view = out.circuits.emplace_back();
        view.id = circuit.id;
        addScaling(view, job, keyOn, circuit);
        if (keyOn.solved)
            promises[i] = proof::expectations(job, *keyOn.solved, Condition::KeyOn, circuit, paths[i],
                                              view.table ? &*view.table : nullptr);
    }
    Beside side = other.get();
    out.networkTrouble = keyOn.trouble.empty() ? side.off.trouble : keyOn.trouble;
    out.pins = std::move(side.pins);
    out.facts = std::move(side.facts);
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const job::Circuit& circuit = job.circuits[i];
        proof::CircuitView& view = out.circuits[i];
        const auto judged = [&](Condition condition, Promises&& made) {
            view.stations[condition] = proof::judge(job, out.facts, circuit.id, condition, std::move(made));
        };
        if (side.off.solved)
            judged(Condition::BatteryOff, std::move(side.promises[i]));
        if (keyOn.solved)
            judged(Condition::KeyOn, std::move(promises[i]));
        if (!circuit.input.empty()) { // else nothing to prove: there is no seat
            view.meter = meterState(view);
            view.scale = scaleState(view);
            view.pins = pinsState(out.pins, paths[i]);
        }
        findings::checkCircuit(out.findings, job, circuit, wiring, paths[i], view);
    }
    findings::checkJob(out.findings, {job, wiring, keyOn.solved ? &*keyOn.solved : nullptr, out.networkTrouble,
                                      out.circuits, out.pins, out.facts});
    out.findings.insert(out.findings.end(), side.loom.begin(), side.loom.end());
    findings::sort(out.findings);
    out.tasks = tasksOf(out);
    return out;
}

const proof::CircuitView* find(const Analysis& analysis, const job::CircuitId& id)
{
    for (const proof::CircuitView& v : analysis.circuits)
        if (v.id == id)
            return &v;
    return nullptr;
}

} // namespace vicegrip::analysis
