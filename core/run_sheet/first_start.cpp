#include "core/base/phrase.h"
#include "core/run_sheet/made.h"
#include "core/timing_light/timing_light.h"

#include <algorithm>

/// The first start: fuel and spark on, leaks again, oil, charging, and whether sparks come where they are commanded.
namespace vicegrip::run_sheet {
namespace {

using analysis::Stage;
using job::Condition;

constexpr double kLeastIdle_rpm = 500, kMostIdle_rpm = 1800; ///< cold to warm (typical)
constexpr double kIdleOil_pa = 100e3; ///< of an engine that idles (typical)
constexpr double kPoured = 0.03; ///< of ethanol: what two sensors may differ by (typical)

/// A fuel that the calibration is not ready for ends in a holed piston.
void fuelReady(Made& made)
{
    const auto& tank = made.job().tank;
    Line& line = made.add("fuel ready", By::Eyes, phrase("The map that is loaded is for the fuel in the tank"));
    line.how = phrase("Ask the tuner which map is in the unit and what it wants. Until his is loaded, keep to the fuel "
                      "tuned for.");
    line.caution =
        phrase("Never run a fuel that the calibration is not ready for, ethanol blends above all: it can hole "
               "a piston.");
    line.holds = true;
    line.subjects = {"ECU"};
    if (!tank || made.sensing("flex") == nullptr)
        return;
    const auto percent = [](double share) { return units::formatNumber(share * 100, 0) + " %"; };
    line.source = phrase("the calibration is ready for {} ethanol", percent(tank->readyFor));
    if (tank->baseline && *tank->baseline > tank->readyFor + kPoured)
        line.barred = phrase("the sensor showed {} ethanol, and the calibration is ready for {}",
                             percent(*tank->baseline), percent(tank->readyFor));
}

void runs(Made& made)
{
    const job::Circuit* crank = made.crank();
    if (crank == nullptr)
        return;
    Line& line = made.valued("runs", *crank, Condition::Running, phrase("It runs by itself"), kLeastIdle_rpm / 60,
                             kMostIdle_rpm / 60, phrase("500 to 1,800 rpm from cold to warm: typical"));
    line.how = phrase("Without the pedal, if it will. Let it idle: no revving before there is oil pressure.");
    line.remedy =
        phrase("Turns and does not fire: fuel pressure, then spark on the first cylinder, then where the wheel's "
               "gap stands at top dead centre. Stops when the key springs back: a feed that only lives on the "
               "starter.");
    line.caution = phrase("Turning parts and hot parts: hands off.");
    for (const char* before : {"fuel ready", "together"})
        line.after.emplace_back(before);
}

void oilRuns(Made& made)
{
    Line& line = made.oil("oil runs", Condition::Running, phrase("Oil pressure within five seconds"), kIdleOil_pa,
                          phrase("{} and more at idle: typical", gaugeText(kIdleOil_pa)));
    line.remedy = phrase("Key off at once. Nothing else counts before it has oil pressure.");
    line.holds = true;
    line.after.emplace_back("runs");
}

/// A light at two speeds and more, and what it says.
void light(Made& made, const job::Circuit& crank)
{
    std::vector<timing_light::Seen> seen;
    for (const job::LightReading& r : crank.trigger ? crank.trigger->light : std::vector<job::LightReading>())
        seen.push_back({r.rpm, r.commanded_deg, r.seen_deg});
    const auto lock = timing_light::lockOf(seen);
    const bool stands = lock && timing_light::stands(*lock);
    Line& line = made.work("light", phrase("Sparks come where they are commanded"), Stage::Trigger,
                           stands ? proof::State::Done
                           : lock ? proof::State::Failing
                                  : proof::State::Untouched,
                           stands ? std::string()
                           : lock ? phrase("the light shows them elsewhere")
                                  : phrase("{} of 2 readings of a timing light", std::to_string(seen.size())));
    line.circuit = crank.id;
    line.how = phrase("Trigger, Light: timing locked in the unit, a light at the wheel, two speeds or more.");
    line.remedy = lock ? timing_light::todo(*lock, timing_light::kMostDelay_s) : std::string();
    line.caution =
        phrase("A strobe makes turning parts look still: hands and leads clear. Ignition voltage: no touching.");
    line.after.emplace_back("leaks running");
}

/// The first start rests on all that was seen on the starter, and on every circuit that the engine cannot run without.
std::vector<std::string> beforeStart(Made& made)
{
    std::vector<std::string> out;
    for (const Line& line : made.lines()) {
        const job::Circuit* c = job::find(made.job(), line.circuit);
        if (line.section == Section::Cranking || (c != nullptr && c->want == job::Want::Required))
            out.push_back(line.id);
    }
    return out;
}

void together(Made& made)
{
    Line& line = made.add("together", By::Eyes, phrase("Everything is back on, everybody stands clear"));
    for (std::string& before : beforeStart(made))
        line.after.push_back(std::move(before));
    line.how = phrase("Fuses and plugs of injectors and coils in, plug leads home, air pipes on, tools off the engine. "
                      "Neutral or park, brake on. One person at the key, one with the extinguisher.");
    line.caution =
        phrase("Exhaust is poison: doors open. Fans start by themselves. Key off at any knock, at any drop of "
               "fuel, and without oil pressure after five seconds.");
    line.holds = line.today = true;
}

} // namespace

void firstStart(Made& made)
{
    made.begin(Section::FirstStart);
    fuelReady(made);
    together(made);
    runs(made);
    oilRuns(made);
    Line& leaks = made.add("leaks running", By::Eyes, phrase("No fuel anywhere, engine running"), {"runs", "oil runs"});
    leaks.how =
        phrase("The same joints again, a lamp and a dry cloth, and the return: now it has heat and vibration. Coolant "
               "and oil too.");
    leaks.caution =
        phrase("One drop: key off. Hot and turning parts: hands, sleeves and the cloth clear of belts and fans.");
    leaks.remedy = phrase("Key off, let it cool, relieve the pressure into a rag, mend.");
    leaks.subjects = made.fuelSubjects();
    leaks.holds = true;
    if (Line* line =
            made.metered("charging", phrase("The alternator charges"), made.network().atPosts(Condition::Running));
        line != nullptr) {
        line->how = phrase("On the posts themselves, lights and fans off, then on.");
        line->remedy =
            phrase("No more than at rest: the alternator's own plug, its lamp, its belt. Over 15 V: its regulator; key "
                   "off, before it cooks the battery.");
        line->after.emplace_back("runs");
    }
    if (const job::Circuit* crank = made.crank(); crank != nullptr && !made.keepsWheel(*crank))
        light(made, *crank);
}

} // namespace vicegrip::run_sheet
