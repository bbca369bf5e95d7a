#include "core/analysis/analysis.h"

#include "core/analysis/tasks.h"
#include "core/electrics/readings.h"
#include "core/findings/checks.h"
#include "core/findings/harness_checks.h"
#include "core/findings/pin_checks.h"
#include "core/findings/scale_checks.h"
#include "core/throttle/limits.h"

#include <algorithm>
#include <cmath>
#include <future>

namespace vicegrip::analysis {

/// The car under a condition, solved; or why it could not be.
struct Car
{
    std::optional<electrics::Electrics> solved;
    std::string trouble;
};

namespace {

using job::Condition;
using proof::CircuitView;
using proof::State;
using proof::StationKind;

constexpr int kCurvePoints = 256;

Car carFor(const job::Job& job, Condition condition)
{
    auto built = electrics::build(job, {.condition = condition, .surroundings = job.surroundings});
    if (!built)
        return {std::nullopt, built.error().sentence};
    return {std::move(*built), {}};
}

void addScaling(CircuitView& view, const job::Job& job, const Car& car, const job::Circuit& circuit)
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
State meterState(const CircuitView& view)
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
State scaleState(const CircuitView& view)
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

} // namespace

/// What one drawing is worth whoever measures in it: it stays while the drawing does.
struct Drawn
{
    explicit Drawn(std::shared_ptr<const job::Job> of) : job(std::move(of)), wiring(*job)
    {
        for (const job::Circuit& circuit : job->circuits)
            paths.push_back(wiring.paths(circuit));
        auto beside = std::async(std::launch::async, [&] { // neither needs the other
            off = carFor(*job, Condition::BatteryOff);
            findings::checkHarness(harness, *job);
        });
        keyOn = carFor(*job, Condition::KeyOn);
        beside.get();
        trouble = keyOn.trouble.empty() ? off.trouble : keyOn.trouble;
        findings::checkDrawing(power, *job, wiring, keyOn.solved ? &*keyOn.solved : nullptr, trouble);
    }

    std::shared_ptr<const job::Job> job;
    electrics::Wiring wiring;
    std::vector<std::vector<electrics::Path>> paths; ///< by circuit
    Car off, keyOn;
    std::string trouble; ///< why there are no readings
    std::vector<findings::Finding> power, harness;
};

/// What one circuit of it is worth before anything is read there: table and promises. It stays while drawing and
/// circuit do.
struct Worth
{
    job::Circuit of;
    CircuitView view; ///< its table, and what follows from it
    std::vector<findings::Finding> findings; ///< of its wires and its seat
    std::vector<findings::Finding> offset; ///< of its ground
    std::map<Condition, std::vector<proof::Expectation>> promises;
};

std::string_view stageName(Stage stage)
{
    static constexpr std::string_view kNames[kStageCount] = {"Board", "Brief",   "Inputs", "Pins",    "Meter",
                                                             "Scale", "Trigger", "Start",  "Handover"};
    return kNames[static_cast<size_t>(stage)];
}

namespace {

/// Whether the two are one drawing: the same network, wires and places under the same names. What a circuit's table is
/// to be, what was read, pinned, ticked and written down may differ.
bool isSameDrawing(const job::Job& a, const job::Job& b)
{
    const auto same = [](const job::Circuit& x, const job::Circuit& y) {
        return x.id == y.id && x.name == y.name && x.function == y.function && x.device == y.device &&
               x.input == y.input && x.rest == y.rest;
    };
    return std::ranges::equal(a.circuits, b.circuits, same) && a.surroundings == b.surroundings &&
           a.battery == b.battery && a.meter == b.meter && a.wires == b.wires && a.joints == b.joints &&
           a.switches == b.switches && a.resistors == b.resistors && a.loads == b.loads && a.branches == b.branches &&
           a.devices == b.devices && a.parts == b.parts && a.ecu == b.ecu && a.expanders == b.expanders &&
           a.connectors == b.connectors;
}

/// Tables first, since the values that the ECU is to show follow from them; the ohms are worked out beside them.
void workOut(const job::Job& job, const Drawn& drawn, const std::vector<size_t>& which,
             std::vector<std::shared_ptr<const Worth>>& out)
{
    if (which.empty())
        return;
    const auto promises = [&](const Car& car, Condition condition, const std::vector<const scaling::Table*>& tables) {
        std::vector<std::vector<proof::Expectation>> made(which.size());
        if (!car.solved)
            return made;
        electrics::Readings readings(*car.solved);
        for (size_t i = 0; i < which.size(); ++i)
            made[i] = proof::expectations(job, readings, condition, job.circuits[which[i]], drawn.paths[which[i]],
                                          tables.empty() ? nullptr : tables[i]);
        return made;
    };
    auto other = std::async(std::launch::async, [&] { return promises(drawn.off, Condition::BatteryOff, {}); });
    std::vector<std::shared_ptr<Worth>> worth;
    std::vector<const scaling::Table*> tables;
    for (const size_t i : which) {
        const auto made = std::make_shared<Worth>(Worth{job.circuits[i], {}, {}, {}, {}});
        made->view.id = job.circuits[i].id;
        addScaling(made->view, job, drawn.keyOn, job.circuits[i]);
        findings::checkDrawn(made->findings, job, job.circuits[i], drawn.wiring, drawn.paths[i]);
        if (drawn.keyOn.solved)
            findings::checkGroundOffset(made->offset, job, job.circuits[i], *drawn.keyOn.solved, made->view);
        tables.push_back(made->view.table ? &*made->view.table : nullptr);
        worth.push_back(made);
    }
    auto on = promises(drawn.keyOn, Condition::KeyOn, tables);
    auto off = other.get();
    for (size_t i = 0; i < which.size(); ++i) {
        if (drawn.off.solved)
            worth[i]->promises[Condition::BatteryOff] = std::move(off[i]);
        if (drawn.keyOn.solved)
            worth[i]->promises[Condition::KeyOn] = std::move(on[i]);
        out[which[i]] = std::move(worth[i]);
    }
}

} // namespace

Analysis analyse(std::shared_ptr<const job::Job> analysed, const Analysis* before)
{
    Analysis out;
    out.job = std::move(analysed);
    const job::Job& job = *out.job;
    const Kept* known = before == nullptr || !isSameDrawing(*before->kept->drawn->job, job) ? nullptr : &*before->kept;
    auto kept = std::make_shared<Kept>();
    kept->drawn = known != nullptr ? known->drawn : std::make_shared<const Drawn>(out.job);
    kept->circuits.resize(job.circuits.size());
    std::vector<size_t> fresh;
    for (size_t i = 0; i < job.circuits.size(); ++i)
        if (known != nullptr && known->circuits[i]->of == job.circuits[i])
            kept->circuits[i] = known->circuits[i];
        else
            fresh.push_back(i);
    const Drawn& drawn = *kept->drawn;
    workOut(job, drawn, fresh, kept->circuits);
    const bool sameFacts = known != nullptr && fresh.empty();
    out.facts = sameFacts ? before->facts : job::facts(job);
    if (known != nullptr && before->job->pinned == job.pinned)
        out.pins = before->pins;
    else
        for (const job::Connector& connector : job.connectors)
            out.pins[connector.id] = pinning::pinsOf(job, connector);
    out.networkTrouble = drawn.trouble;
    const auto say = [&](const std::vector<findings::Finding>& more) {
        out.findings.insert(out.findings.end(), more.begin(), more.end());
    };
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const job::Circuit& circuit = job.circuits[i];
        CircuitView& view = out.circuits.emplace_back(kept->circuits[i]->view);
        for (const auto& [condition, promises] : kept->circuits[i]->promises)
            view.stations[condition] = proof::judge(job, out.facts, circuit.id, condition, promises);
        if (!circuit.input.empty()) { // else nothing to prove: there is no seat
            view.meter = meterState(view);
            view.scale = scaleState(view);
            view.pins = pinsState(out.pins, drawn.paths[i]);
        }
        say(kept->circuits[i]->findings);
        findings::checkCircuit(out.findings, job, circuit, view);
    }
    for (const job::Connector& connector : job.connectors)
        findings::checkPins(out.findings, job, connector, out.pins.at(connector.id));
    for (const job::Circuit& circuit : job.circuits)
        findings::checkLimits(out.findings, job, out.facts, circuit);
    say(drawn.power);
    for (const auto& worth : kept->circuits)
        say(worth->offset);
    say(drawn.harness);
    findings::sort(out.findings);
    out.tasks = tasksOf(out);
    out.kept = std::move(kept);
    return out;
}

const proof::CircuitView* find(const Analysis& analysis, const job::CircuitId& id)
{
    for (const CircuitView& v : analysis.circuits)
        if (v.id == id)
            return &v;
    return nullptr;
}

} // namespace vicegrip::analysis
