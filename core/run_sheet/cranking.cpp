#include "core/base/phrase.h"
#include "core/run_sheet/made.h"

#include <algorithm>

/// On the starter, without fuel and spark: speed, sync, what the battery and the unit are left with, oil.
namespace vicegrip::run_sheet {
namespace {

using analysis::Stage;
using job::Condition;

constexpr double kLeastCranking_rpm = 150, kMostCranking_rpm = 300; ///< typical
constexpr double kStarterOil_pa = 50e3; ///< what a gallery shows after some seconds of the starter (typical)
constexpr double kLeastPosts_v = 9.6; ///< of a good battery under its starter (common practice, no source)

void wheels(Made& made)
{
    for (const hand_test::Standing& s : made.analysis().handTurns) {
        const job::Circuit* c = job::find(made.job(), s.circuit);
        if (c == nullptr || !s.byHand || made.keepsWheel(*c))
            continue;
        Line& line = made.work("teeth " + c->id.value, phrase("{}: every tooth was seen by hand", c->name),
                               Stage::Trigger, s.state, s.reason);
        line.circuit = c->id;
        line.how = phrase("Trigger, By hand: tooth by tooth, a full turn, keys out.");
        line.caution = phrase("Turn it by hand only, keys out.");
        line.remedy = s.todo;
    }
}

/// A coil has no other proof than what it makes on the starter.
void captures(Made& made)
{
    for (const decoded::Standing& s : made.analysis().decoded) {
        const job::Circuit* c = job::find(made.job(), s.circuit);
        if (c == nullptr || !s.only || made.keepsWheel(*c))
            continue;
        Line& line = made.work("capture " + c->id.value, phrase("{}: its signal decodes on the starter", c->name),
                               Stage::Trigger, s.state, s.reason);
        line.circuit = c->id;
        line.after.emplace_back("no fire");
        line.how = phrase("Trigger, Capture: a scope at the input while the starter turns it.");
        line.remedy = phrase("Capture says what hands do: gap, wires exchanged, noise.");
    }
}

void turning(Made& made)
{
    const job::Circuit* crank = made.crank();
    if (crank == nullptr)
        return;
    Line& line = made.valued("crank speed", *crank, Condition::Cranking, phrase("The ECU shows the starter's speed"),
                             kLeastCranking_rpm / 60, kMostCranking_rpm / 60,
                             phrase("150 to 300 rpm on a warm battery: typical"));
    line.how =
        phrase("Starter for five seconds, no more than three times in a row. Steady is in step with the wheel; a "
               "speed that comes and goes is not.");
    line.remedy =
        phrase("Nothing: no edges, or no sync. Trigger, Capture tells which. Too slow: battery, its leads, and "
               "the engine's ground.");
    line.caution = phrase("Turning parts: hands, sleeves, leads and tools clear; nobody under the car.");
    line.after.emplace_back("no fire");
}

/// Not below this; a car whose own network cannot keep it does not start.
void keepAbove(Line& line, double least_v)
{
    line.window->low = std::max(line.window->low, least_v);
    if (line.window->low > line.window->high)
        line.barred = phrase("as drawn it keeps {} at best, and {} is due",
                             job::readingText(line.window->reading(line.window->high), line.window->unit),
                             job::readingText(line.window->reading(line.window->low), line.window->unit));
}

void volts(Made& made)
{
    if (Line* line = made.metered("crank battery", phrase("Battery while the starter turns"),
                                  made.network().atPosts(Condition::Cranking));
        line != nullptr) {
        keepAbove(*line, kLeastPosts_v);
        line->how = phrase("Meter on its lowest value (min), on the posts themselves.");
        line->source = phrase("this car's network under its starter; never below 9.6 V, which is common practice");
        line->remedy =
            phrase("Low at the posts: charge or change the battery. Low elsewhere only: its leads and grounds.");
        line->after.emplace_back("no fire");
    }
    const double least_v = made.job().ecu.least_supply_v;
    for (Line* line : made.feeds("crank feed ", Condition::Cranking, key("ECU feed at {} while the starter turns"))) {
        if (line->window->low < least_v)
            line->source = phrase("the unit is off below {}, and this car may get there",
                                  units::format(least_v, units::Dimension::Voltage, "V", 1));
        keepAbove(*line, least_v);
        line->how =
            phrase("Red on {}, black on {}, the lowest value.", line->window->station.label, line->window->black);
        line->remedy =
            phrase("A feed that goes away with the starter is on the wrong side of the key: it must stay live "
                   "in both places of the key.");
        line->after.emplace_back("no fire");
    }
}

void oilOnStarter(Made& made)
{
    if (made.sensing("oil-pressure") == nullptr)
        return;
    Line& line = made.oil("crank oil", Condition::Cranking, phrase("Oil pressure rises on the starter"), kStarterOil_pa,
                          phrase("{} within some seconds: typical", gaugeText(kStarterOil_pa)));
    line.how = phrase("Plugs out turns it easily: up to ten seconds at a time, then a minute's rest for the starter.");
    line.remedy = phrase("No pressure, no start: level, filter, pump. A fresh pump may have to be primed.");
    line.holds = true;
    line.after.emplace_back("no fire");
}

} // namespace

void cranking(Made& made)
{
    made.begin(Section::Cranking);
    wheels(made);
    Line& quiet =
        made.add("no fire", By::Eyes, phrase("No fuel and no spark: it is only turned"), {"awake", "battery"});
    quiet.how = phrase("Fuses of injectors and coils out, or all their plugs off. Gearbox in neutral or park, wheels "
                       "chocked.");
    quiet.caution =
        phrase("Turning parts: hands, sleeves, leads and tools clear. An engine that fires unasked runs over "
               "whoever is in its way.");
    quiet.holds = quiet.today = true;
    for (const hand_test::Standing& s : made.analysis().handTurns)
        if (made.has("teeth " + s.circuit.value))
            quiet.after.push_back("teeth " + s.circuit.value);
    turning(made);
    captures(made);
    volts(made);
    oilOnStarter(made);
}

} // namespace vicegrip::run_sheet
