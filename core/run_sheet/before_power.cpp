#include "core/base/phrase.h"
#include "core/feeds/feeds.h"
#include "core/run_sheet/made.h"

#include <algorithm>

/// Before any power: what can burn, fall or be shorted.
namespace vicegrip::run_sheet {
namespace {

using analysis::Stage;
using job::Condition;
using proof::State;

constexpr double kLeastBattery_v = 12.0; ///< before a start (common practice, no source)

void place(Made& made)
{
    Line& stands = made.add("stands", By::Eyes, phrase("The car stands safely, and cannot roll"));
    stands.how =
        phrase("On its wheels, in neutral or park, brake on. Where it is lifted: on stands, with a wheel under "
               "the sill, never on a jack alone.");
    stands.caution = phrase("A car that falls kills. Follow local codes for lifting gear.");
    stands.holds = stands.today = true;
    Line& fire = made.add("fire", By::Eyes, phrase("Extinguisher at hand, aired, no flame"));
    fire.how = phrase("Within reach of whoever holds the key. Doors open, or the exhaust led outside.");
    fire.caution =
        phrase("Fuel vapour burns from any spark, and exhaust kills in a closed room. Where licensed practice "
               "is required for fuel work, leave it to them.");
    fire.holds = fire.today = true;
}

/// How far a circuit's ground conductor is proved: in Ohm or in volts, at any of its places.
State groundState(const proof::CircuitView& view)
{
    std::vector<State> all;
    for (const auto& [condition, stations] : view.stations)
        for (const proof::Standing& s : stations)
            if (s.place.station.role == parts::PinRole::Ground && s.place.station.kind == proof::StationKind::Probe)
                all.push_back(s.state);
    if (all.empty())
        return State::NotNeeded;
    for (const State one : {State::Failing, State::Stale, State::Done})
        if (std::ranges::find(all, one) != all.end())
            return one;
    return State::Untouched;
}

void grounds(Made& made)
{
    std::vector<State> all;
    std::string open;
    for (const proof::CircuitView& view : made.analysis().circuits) {
        const job::Circuit* c = job::find(made.job(), view.id);
        if (c == nullptr || c->want != job::Want::Required || !job::isSeated(*c) ||
            job::sensorOf(made.job(), *c) == nullptr)
            continue;
        all.push_back(groundState(view));
        if (open.empty() && all.back() != State::Done && all.back() != State::NotNeeded)
            open = phrase("{}: its ground is {}", c->name, phrase(proof::stateName(all.back())));
    }
    if (all.empty())
        return;
    Line& line =
        made.work("grounds", phrase("Grounds of required sensors are proved"), Stage::Meter, proof::worst(all), open);
    line.how = phrase("In Ohm with the battery off will do. Both ends on clean metal, star washers in.");
}

void pinned(Made& made)
{
    int left = 0, wrong = 0;
    std::string where;
    for (const auto& [connector, pins] : made.analysis().pins)
        for (const pinning::Pin& pin : pins) {
            if (pin.state == pinning::PinState::Wrong)
                ++wrong;
            else if (!pin.wires.empty() && !pinning::isDone(pin.state))
                ++left;
            else
                continue;
            if (where.empty())
                where = job::spoken(made.job(), pin.at);
        }
    const State state = wrong > 0 ? State::Failing : left > 0 ? State::Untouched : State::Done;
    Line& line =
        made.work("pinned", phrase("Every plug is pinned and locked"), Stage::Pins, state,
                  state == State::Done ? std::string()
                                       : phrase("{} cavities to go, first {}", std::to_string(left + wrong), where));
    line.how = phrase("Counted twice, tugged, secondary locks shut, blank plugs in.");
}

void fuses(Made& made)
{
    std::string wrong;
    for (const feeds::Feed& feed : feeds::feedsOf(made.job(), made.network().wiring()))
        if (feed.isWrong && wrong.empty())
            wrong = feed.reason;
    made.work("fuses", phrase("Every feed has its fuse"), Stage::Pins, wrong.empty() ? State::Done : State::Failing,
              wrong)
        .how = phrase("Its rating from what it feeds and from the thinnest wire behind it.");
}

/// From the load side of each fuse to the battery's negative lead.
void shorts(Made& made)
{
    for (const job::Switch& s : made.job().switches) {
        if (s.kind != job::SwitchKind::Fuse)
            continue;
        Line* line = made.metered(
            "short " + s.id, phrase("{}: not shorted", s.label),
            made.network().due(Condition::BatteryOff, made.network().behind(s), job::negativePost(made.job())));
        if (line == nullptr)
            continue;
        line->window->high = std::numeric_limits<double>::infinity(); // open contacts and plugs that are off read more
        line->how = phrase("Both battery leads off, ECU plugs off. Red on {}, black on {}.",
                           line->window->station.label, line->window->black);
        line->remedy =
            phrase("Less than that is a short, or a wire on the wrong side: pull what it feeds, plug by plug, "
                   "until it opens. Power comes after that.");
    }
}

void battery(Made& made)
{
    auto due = made.network().atPosts(Condition::KeyOn);
    if (!due)
        return;
    const job::Battery& b = made.job().battery;
    due->low = kLeastBattery_v;
    due->high = b.volts + b.tolerance_v + 0.5; // fresh off a charger (typical)
    Line& line = *made.metered("battery", phrase("Battery at its posts"), std::move(due));
    line.how = phrase("Red on {}, black on {}: the posts themselves, not the clamps.", line.window->station.label,
                      line.window->black);
    line.source = phrase("at least 12 V before a start: common practice, no source");
    line.remedy = phrase("Charge it, and let it rest. A weak battery makes a good unit fail under the starter.");
    line.caution = phrase("The negative lead goes on last, and comes off first.");
}

} // namespace

void beforePower(Made& made)
{
    made.begin(Section::BeforePower);
    place(made);
    pinned(made);
    grounds(made);
    fuses(made);
    shorts(made);
    battery(made);
}

} // namespace vicegrip::run_sheet
