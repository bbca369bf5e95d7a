#include "core/analysis/analysis.h"

#include "core/analysis/judging.h"
#include "core/analysis/tasks.h"
#include "core/base/phrase.h"
#include "core/bus/bus.h"
#include "core/electrics/readings.h"
#include "core/feeds/feeds.h"
#include "core/findings/back_feed.h"
#include "core/findings/brief_checks.h"
#include "core/findings/bus_checks.h"
#include "core/findings/checks.h"
#include "core/findings/feed_checks.h"
#include "core/findings/harness_checks.h"
#include "core/findings/lead_checks.h"
#include "core/findings/pin_checks.h"
#include "core/findings/scale_checks.h"
#include "core/findings/shared_checks.h"
#include "core/throttle/limits.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <future>
#include <mutex>

namespace vicegrip::analysis {

using job::Condition;

/// The car under a condition, solved; or why it could not be.
struct Car
{
    Car(const job::Job& job, Condition condition);

    std::optional<electrics::Electrics> solved;
    std::string trouble;

    std::mutex probing; ///< circuits share grounds and splices: readings are kept, for one thread at a time
    std::optional<electrics::Readings> readings;
};

Car::Car(const job::Job& job, Condition condition)
{
    auto built = electrics::build(job, {.condition = condition, .surroundings = job.surroundings});
    if (!built) {
        trouble = built.error().sentence;
        return;
    }
    solved = std::move(*built);
}

namespace {

using proof::CircuitView;
using proof::State;
using proof::StationKind;

/// The circuit's table and what follows from it; what the table was made from.
std::optional<scaling::Transfer> addScaling(CircuitView& view, const job::Job& job, const Car& car,
                                            const job::Circuit& circuit)
{
    if (job::actuatorOf(job, circuit) != nullptr) {
        view.tableTrouble = phrase("the ECU drives it, and reads nothing");
        view.scale = State::NotNeeded;
        return std::nullopt;
    }
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (circuit.input.empty()) {
        view.tableTrouble = phrase("the sensor has no seat on the ECU");
        return std::nullopt;
    }
    if (sensor != nullptr && parts::signalOf(*sensor) != parts::SignalKind::Voltage && !parts::countsValue(*sensor)) {
        view.tableTrouble = parts::signalOf(*sensor) == parts::SignalKind::Frequency
                                ? phrase("its teeth stand for no value: a trigger pattern reads them")
                                : phrase("the signal is on or off, and needs no table");
        view.scale = State::NotNeeded;
        return std::nullopt;
    }
    const auto transfer = car.solved ? scaling::Transfer::of(job, *car.solved, circuit) : std::nullopt;
    if (!transfer || sensor == nullptr) {
        view.tableTrouble = car.solved ? phrase("the sensor is on no ECU input") : car.trouble;
        return transfer;
    }
    const auto [low, high] = std::pair(circuit.scaling.low, circuit.scaling.high);
    view.travel = {high - low, transfer->reading(high) - transfer->reading(low)};
    view.thresholds = scaling::faultThresholds(*transfer, circuit.scaling);
    if (circuit.limits && throttle::takesLimits(*sensor)) {
        view.table = throttle::tableOf(*circuit.limits, *sensor, circuit.scaling);
        return transfer;
    }
    auto table = scaling::makeTable(*transfer, *sensor, circuit.scaling);
    if (table)
        view.table = std::move(*table);
    else
        view.tableTrouble = table.error().sentence;
    return transfer;
}

/// Metered when the needed places are proved with the key on; any failing or stale reading shows first.
State meterState(const CircuitView& view)
{
    std::vector<State> needed, trouble;
    for (const auto& [condition, stations] : view.stations) {
        for (const proof::Standing& s : stations) {
            if (s.place.station.kind != StationKind::Probe)
                continue;
            if (s.place.needed)
                needed.push_back(s.place.promises() ? s.state : State::Failing);
            else if (s.state == State::Failing || s.state == State::Stale)
                trouble.push_back(s.state);
        }
    }
    needed.insert(needed.end(), trouble.begin(), trouble.end());
    return proof::worst(needed);
}

/// A click or a wiggle test that was done counts like a reading; none has to be.
template <class Standing> State handsState(const std::vector<Standing>& all, const job::CircuitId& id)
{
    const auto of = std::ranges::find(all, id, &Standing::circuit);
    return of == all.end() || of->state == State::Untouched ? State::NotNeeded : of->state;
}

/// Scaled when the value has come back right from the ECU with the table it was given.
State scaleState(const CircuitView& view)
{
    if (view.scale == State::NotNeeded)
        return view.scale;
    if (!view.table)
        return State::Failing;
    for (const proof::Standing& s : proof::stations(view, Condition::KeyOn))
        if (s.place.station.kind == StationKind::Value)
            return s.state;
    return State::Untouched;
}

/// Pinned when every cavity that one of its conductors passes is done.
State pinsState(const pinning::Pins& all, const std::vector<electrics::Path>& paths)
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
    explicit Drawn(std::shared_ptr<const job::Job> of) : job(std::move(of)), wiring(*job), paths(wiring.paths())
    {
        // The others are for those who probe under them: solved when the first one asks.
        for (const Condition condition : {Condition::BatteryOff, Condition::Cranking, Condition::Running})
            others[condition] = std::async(std::launch::deferred, [drawn = job, condition] {
                                    return std::make_shared<Car>(*drawn, condition);
                                }).share();
        auto beside = std::async(std::launch::async, [&] {
            areas = wires::chooseAreas(*job, wiring);
            findings::checkHarness(harness, *job, wiring, areas);
            findings::checkFeeds(harness, feeds::feedsOf(*job, wiring));
            findings::checkBuses(harness, *job, bus::buses(*job));
            findings::checkLeads(harness, *job);
            findings::checkShared(harness, wiring, paths);
            findings::checkRelayLoops(harness, *job);
        });
        keyOn = std::make_shared<Car>(*job, Condition::KeyOn);
        beside.get();
        if (keyOn->solved)
            findings::checkBackFeed(power, *job, wiring, *keyOn->solved);
        findings::checkDrawing(power, *job, wiring, keyOn->solved ? &*keyOn->solved : nullptr, keyOn->trouble);
    }

    [[nodiscard]] Car& car(Condition condition) const
    {
        return condition == Condition::KeyOn ? *keyOn : *others.at(condition).get();
    }

    std::shared_ptr<const job::Job> job;
    electrics::Wiring wiring;
    std::vector<std::vector<electrics::Path>> paths; ///< by circuit
    std::shared_ptr<Car> keyOn;
    std::map<Condition, std::shared_future<std::shared_ptr<Car>>> others;
    std::vector<findings::Finding> power, harness;
    std::map<job::WireId, wires::AreaChoice> areas;
};

/// What one circuit of it is worth before anything is read there: table, places and promises. It stays while drawing
/// and circuit do.
struct Worth
{
    job::Circuit of;
    CircuitView view; ///< its table, and what follows from it
    std::optional<scaling::Transfer> transfer;
    std::vector<findings::Finding> findings; ///< of its wires and its seat
    std::vector<findings::Finding> offset; ///< of its ground
    std::map<Condition, std::vector<proof::Place>> places; ///< at rest
    std::map<Condition, std::shared_future<std::vector<proof::Expectation>>> promises; ///< once asked for

    /// With the engine turning they are those with the key on: few read there, so they are made when somebody does.
    [[nodiscard]] std::vector<proof::Place> placesUnder(Condition condition) const
    {
        const auto at = places.find(job::engineTurns(condition) ? Condition::KeyOn : condition);
        std::vector<proof::Place> out = at == places.end() ? std::vector<proof::Place>() : at->second;
        for (proof::Place& p : out)
            if (job::engineTurns(condition)) {
                p.condition = condition;
                p.needed = false;
            }
        return out;
    }
};

std::string_view stageName(Stage stage)
{
    static constexpr std::string_view kNames[kStageCount] = {key("Board"),   key("Brief"), key("Inputs"),
                                                             key("Pins"),    key("Meter"), key("Scale"),
                                                             key("Trigger"), key("Start"), key("Handover")};
    return kNames[static_cast<size_t>(stage)];
}

namespace {

/// Whether the two are one drawing: the same network, wires and places under the same names, for the same engine. What
/// a circuit's table is to be, what was read, pinned, ticked and written down may differ.
bool isSameDrawing(const job::Job& a, const job::Job& b)
{
    const auto same = [](const job::Circuit& x, const job::Circuit& y) {
        return x.id == y.id && x.name == y.name && x.function == y.function && x.device == y.device &&
               x.input == y.input && x.output == y.output && x.rest == y.rest;
    };
    return std::ranges::equal(a.circuits, b.circuits, same) && a.surroundings == b.surroundings &&
           a.battery == b.battery && a.meter == b.meter && a.wires == b.wires && a.joints == b.joints &&
           a.switches == b.switches && a.resistors == b.resistors && a.loads == b.loads && a.branches == b.branches &&
           a.leads == b.leads && a.devices == b.devices && a.parts == b.parts && a.ecu == b.ecu &&
           a.expanders == b.expanders && a.connectors == b.connectors && a.brief == b.brief;
}

std::vector<proof::Expectation> promisesOf(const Drawn& drawn, const job::Circuit& circuit, size_t index,
                                           const std::optional<scaling::Table>& table,
                                           const std::vector<proof::Place>& places)
{
    if (places.empty())
        return {};
    Car& car = drawn.car(places.front().condition);
    if (!car.solved)
        return proof::nothingPromised(places, car.trouble);
    const std::lock_guard one(car.probing);
    if (!car.readings)
        car.readings.emplace(*car.solved);
    return proof::expectations(*drawn.job, *car.readings, circuit, drawn.paths[index], table ? &*table : nullptr,
                               places);
}

std::shared_ptr<const Worth> worthOf(const job::Job& job, const std::shared_ptr<const Drawn>& drawn, size_t index)
{
    const job::Circuit& circuit = job.circuits[index];
    const auto out = std::make_shared<Worth>();
    out->of = circuit;
    out->view.id = circuit.id;
    out->transfer = addScaling(out->view, job, *drawn->keyOn, circuit);
    findings::checkDrawn(out->findings, job, circuit, drawn->wiring, drawn->paths[index]);
    if (drawn->keyOn->solved)
        findings::checkGroundOffset(out->offset, job, circuit, *drawn->keyOn->solved, out->view);
    const auto lay = [&](Condition condition, const electrics::Electrics* car) {
        out->places[condition] =
            proof::places(job, car, condition, circuit, drawn->paths[index], out->view.table.has_value());
    };
    lay(Condition::BatteryOff, nullptr);
    if (drawn->keyOn->solved)
        lay(Condition::KeyOn, &*drawn->keyOn->solved);
    // They are asked through what they belong to, which outlives them.
    for (const Condition condition : {Condition::BatteryOff, Condition::KeyOn, Condition::Cranking, Condition::Running})
        if (drawn->keyOn->solved || !job::isLive(condition))
            out->promises[condition] =
                std::async(std::launch::deferred, [drawn, worth = out.get(), index, condition] {
                    return promisesOf(*drawn, worth->of, index, worth->view.table, worth->placesUnder(condition));
                }).share();
    return out;
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
    const Drawn& drawn = *kept->drawn;
    bool sameFacts = known != nullptr && before->job->mends == job.mends;
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const bool same = known != nullptr && known->circuits[i]->of == job.circuits[i];
        kept->circuits[i] = same ? known->circuits[i] : worthOf(job, kept->drawn, i);
        sameFacts = sameFacts && same;
    }
    out.facts = sameFacts ? before->facts : job::facts(job);
    if (known != nullptr && before->job->pinned == job.pinned) {
        out.pins = before->pins;
        kept->pinned = known->pinned;
    } else {
        out.pins = pinning::pinsOf(job);
        findings::checkPins(kept->pinned, job, out.pins);
    }
    out.networkTrouble = drawn.keyOn->trouble;
    out.clicks = clicks::standings(job, out.facts);
    out.wiggles = wiggle::standings(job, out.facts);
    out.handTurns = hand_test::standings(job, out.facts);
    out.decoded = decoded::standings(job, out.facts);
    const Judging judging(out, before);
    const auto say = [&](const std::vector<findings::Finding>& more) {
        out.findings.insert(out.findings.end(), more.begin(), more.end());
    };
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const job::Circuit& circuit = job.circuits[i];
        CircuitView& view = out.circuits.emplace_back(kept->circuits[i]->view);
        auto places = kept->circuits[i]->places;
        for (const Condition read : judging.turning(circuit.id))
            places[read] = kept->circuits[i]->placesUnder(read);
        judging.judge(view, places, i);
        if (job::isSeated(circuit)) { // else nothing to prove: there is no seat
            view.meter =
                proof::worst({meterState(view), handsState(out.clicks, circuit.id), handsState(out.wiggles, circuit.id),
                              handsState(out.handTurns, circuit.id), handsState(out.decoded, circuit.id)});
            view.scale = scaleState(view);
            view.pins = pinsState(out.pins, drawn.paths[i]);
        }
        say(kept->circuits[i]->findings);
        findings::checkCircuit(out.findings, job, circuit, view);
    }
    clicks::check(out.findings, job, out.clicks);
    wiggle::check(out.findings, job, out.wiggles);
    hand_test::check(out.findings, job, out.handTurns);
    decoded::check(out.findings, job, out.decoded);
    say(kept->pinned);
    for (const job::Circuit& circuit : job.circuits)
        findings::checkLimits(out.findings, job, out.facts, circuit);
    say(drawn.power);
    for (const auto& worth : kept->circuits)
        say(worth->offset);
    say(drawn.harness);
    findings::checkBrief(out.findings, job);
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

const std::map<job::WireId, wires::AreaChoice>& areas(const Analysis& analysis)
{
    return analysis.kept->drawn->areas;
}

std::vector<scaling::CurvePoint> curve(const Analysis& analysis, const job::CircuitId& id)
{
    for (const auto& worth : analysis.kept->circuits)
        if (worth->view.id == id)
            return worth->transfer ? scaling::curve(*worth->transfer, worth->of.scaling.low, worth->of.scaling.high)
                                   : std::vector<scaling::CurvePoint>();
    return {};
}

namespace {

/// The promises of a circuit, worked out or not; null where it has no places.
const std::shared_future<std::vector<proof::Expectation>>* promisesOf(const Analysis& analysis,
                                                                      const job::CircuitId& id, Condition condition)
{
    for (const auto& worth : analysis.kept->circuits)
        if (worth->view.id == id) {
            const auto it = worth->promises.find(condition);
            return it == worth->promises.end() ? nullptr : &it->second;
        }
    return nullptr;
}

} // namespace

const std::vector<proof::Expectation>& promises(const Analysis& analysis, const job::CircuitId& id, Condition condition)
{
    static const std::vector<proof::Expectation> kNone;
    const auto* of = promisesOf(analysis, id, condition);
    return of == nullptr ? kNone : of->get();
}

std::vector<proof::Standing> standings(const Analysis& analysis, const job::CircuitId& id, Condition condition)
{
    const CircuitView* view = find(analysis, id);
    if (view == nullptr)
        return {};
    if (view->stations.contains(condition))
        return proof::stations(*view, condition);
    for (const auto& worth : analysis.kept->circuits)
        if (worth->view.id == id)
            return proof::judge({}, {}, worth->placesUnder(condition));
    return {};
}

std::vector<proof::Judged> promised(const Analysis& analysis, const job::CircuitId& id, Condition condition)
{
    const CircuitView* view = find(analysis, id);
    if (view == nullptr)
        return {};
    return proof::judged(standings(analysis, id, condition), promises(analysis, id, condition));
}

bool isPromised(const Analysis& analysis, const job::CircuitId& id, Condition condition)
{
    const auto* of = promisesOf(analysis, id, condition);
    return of == nullptr || of->wait_for(std::chrono::seconds(0)) == std::future_status::ready;
}

} // namespace vicegrip::analysis
