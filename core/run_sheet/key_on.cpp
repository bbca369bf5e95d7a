#include "core/base/phrase.h"
#include "core/run_sheet/made.h"
#include "core/throttle/limits.h"
#include "core/units/shown.h"

#include <algorithm>
#include <cmath>

/// Key on, engine off: the unit wakes, the pump primes, nothing leaks, and every sensor reads what it must at rest.
namespace vicegrip::run_sheet {
namespace {

using analysis::Stage;
using job::Condition;
using parts::PartUse;
using proof::State;
using units::Dimension;

constexpr double kFull = 0.98; ///< of its range, what a throttle that is right down must show (typical)

/// The unit's own feeds, at its plugs.
void feeds(Made& made)
{
    for (Line* line : made.feeds("feed ", Condition::KeyOn, key("ECU feed at {}"))) {
        line->how = phrase("Key on. Red on {}, black on {}, from behind the plug.", line->window->station.label,
                           line->window->black);
        line->remedy = phrase("Fuse, relay, key feed and grounds, in this order: Pins, Feeds shows the way.");
        line->after.emplace_back("battery");
    }
}

void fuel(Made& made)
{
    if (made.fuelSubjects().empty())
        return; // nobody has opened a fuel line
    const bool driven = std::ranges::any_of(made.job().circuits, [](const job::Circuit& c) {
        return c.function.value == "fuel-pump" && !c.output.empty();
    });
    Line& prime = made.add("prime", By::Eyes,
                           driven ? phrase("The pump runs about five seconds, and stops")
                                  : phrase("The pump primes when the key goes on"),
                           {"awake"});
    prime.how = phrase("Key off for ten seconds, then on. Listen at the tank.");
    prime.source = phrase("about five seconds: common practice, no source");
    prime.caution = phrase("Fuel under pressure: somebody at the lines with an extinguisher, somebody at the key.");
    prime.remedy = driven
                       ? phrase("Meter, Click switches the pump's output by itself and says whether its relay answers.")
                       : phrase("Its own relay and fuse, which the unit that was there before switched.");
    prime.subjects = made.fuelSubjects();
    Line& leaks = made.add("leaks primed", By::Eyes, phrase("No fuel anywhere, with the pump primed"), {"prime"});
    leaks.how = phrase("Three primings. Tank, filter, every joint of feed and return, rail, regulator, each injector, "
                       "the flex-fuel sensor: a dry cloth round each.");
    leaks.caution = phrase("One drop ends it: key off, relieve the pressure into a rag, mend, and prime again. Where "
                           "licensed practice is required, leave it to them.");
    leaks.remedy = phrase("Key off. Nothing goes on until it is dry.");
    leaks.subjects = made.fuelSubjects();
    leaks.holds = true;
}

/// What the rest is that a sensor reads with the engine off.
std::string restSource(const job::Job& job, const job::Circuit& circuit, const proof::Expectation& window)
{
    const job::Surroundings& s = job.surroundings;
    switch (circuit.rest.kind) {
    case job::RestKind::Ambient:
        return phrase("everything cold stands at the ambient, {} ± {}",
                      units::format(s.ambient_k, Dimension::Temperature, "°C", 1),
                      units::formatDifference(s.ambientTolerance_k, Dimension::Temperature, "°C", 1));
    case job::RestKind::Barometer:
        return phrase("with the engine off it reads the barometer, {} here",
                      units::format(s.barometer_pa, Dimension::AbsolutePressure, "kPa", 1));
    case job::RestKind::Value:
        break;
    }
    return phrase("{} at rest, and what sensor, wiring, input and table may be off",
                  job::readingText(window.due, window.unit));
}

void limits(Made& made, const job::Circuit& c)
{
    const auto stale = c.limits ? throttle::staleLimits(made.analysis().facts, *c.limits) : std::nullopt;
    Line& line = made.work("limits " + c.id.value, phrase("{}: its limits are taught", c.name), Stage::Scale,
                           !c.limits ? State::Untouched
                           : stale   ? State::Stale
                                     : State::Done,
                           stale.value_or(c.limits ? "" : phrase("two slow full strokes, at Scale")));
    line.circuit = c.id;
    line.how = phrase("Without them the ECU may take a shut throttle for 30 % open.");
}

void values(Made& made)
{
    const bool byWire = made.job().brief && made.job().brief->throttle == job::ThrottleKind::ByWire;
    for (const job::Circuit& c : made.job().circuits) {
        const parts::Part* sensor = job::sensorOf(made.job(), c);
        if (sensor == nullptr || c.input.empty() || job::readsWheel(made.job(), c))
            continue;
        const bool stroke = throttle::takesLimits(*sensor);
        if (stroke)
            limits(made, c);
        Line* line = made.reported("value " + c.id.value, c, Condition::KeyOn,
                                   stroke ? phrase("{} reads shut", c.name) : phrase("{} reads its place", c.name));
        if (line == nullptr)
            continue;
        line->source = restSource(made.job(), c, *line->window);
        line->after.emplace_back("awake");
        if (stroke)
            line->after.push_back("limits " + c.id.value);
        if (!stroke || line->window->station.kind != proof::StationKind::Value)
            continue;
        if (byWire && sensor->kind == PartUse::Throttle) { // no pedal opens it while the engine stands
            line->caution =
                phrase("A driven plate moves by itself, and closes hard: fingers and tools out of it as long "
                       "as the key is on.");
            continue;
        }
        Line& open =
            made.valued("open " + c.id.value, c, Condition::KeyOn, phrase("{}: right down reads open", c.name),
                        std::lerp(c.scaling.low, c.scaling.high, kFull), std::numeric_limits<double>::infinity(),
                        phrase("98 % and more with the pedal right down: typical"));
        open.how = phrase("Press the pedal right down and hold it, from the seat: cable, stop and carpet count.");
        open.remedy = phrase("The cable does not pull it open, or its limits were taught elsewhere: Scale, Strokes.");
        open.after.push_back("value " + c.id.value);
    }
}

void codes(Made& made)
{
    Line& line = made.add("codes", By::Eyes, phrase("Stored codes are the ones to be expected"), {"awake"});
    line.how =
        phrase("Read them at Links, or in the unit's own program. A unit that meets a sensor its map does not know "
               "lights its lamp: that is expected until the map is loaded, and must be gone then.");
    line.remedy = phrase("A code of a circuit that reads well here is of the map; any other is of the wiring.");
}

/// An ethanol content that the correction starts from.
void baseline(Made& made)
{
    if (made.sensing("flex") == nullptr)
        return;
    const bool known = made.job().tank && made.job().tank->baseline;
    Line& line = made.work("baseline", phrase("What the flex sensor shows on pump fuel is the baseline"), Stage::Scale,
                           known ? State::Done : State::Untouched,
                           known ? std::string() : phrase("Scale, Fuel takes it from the sensor"));
    line.how =
        phrase("Ordinary pump petrol shows 8 to 10 % in some countries: the correction must start at 100 % on it.");
}

} // namespace

void keyOn(Made& made)
{
    made.begin(Section::KeyOn);
    std::vector<std::string> before;
    for (const Line& line : made.lines())
        before.push_back(line.id);
    Line& awake = made.add("awake", By::Ecu, phrase("Key on: the ECU wakes and is heard"));
    awake.how =
        phrase("Links says over which wire. Where nothing can be heard, its own program shows that it is awake: "
               "Space says so.");
    awake.caution = phrase("Smoke, heat or a smell: key off at once, and the negative lead off.");
    awake.remedy = phrase("Feeds and grounds at its plugs, then its link.");
    awake.after = std::move(before);
    feeds(made);
    values(made);
    baseline(made);
    codes(made);
    fuel(made);
}

} // namespace vicegrip::run_sheet
