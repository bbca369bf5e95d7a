#include "core/base/phrase.h"
#include "core/run_sheet/made.h"
#include "core/throttle/idle_air.h"
#include "core/throttle/limits.h"

#include <limits>

/// Warm: idle stop and valve, closed loop, learning; then the road, and what is logged for the tuner.
namespace vicegrip::run_sheet {
namespace {

using job::Condition;
using units::Dimension;

constexpr double kLoop_k =
    273.15 + 71; ///< coolant from which closed loop and learning work (common practice, no source)
constexpr double kHot_k = 273.15 + 110; ///< above, something is wrong (typical)
constexpr double kWarmOil_k = 273.15 + 80; ///< before a pull (common practice, no source)
constexpr double kZero = 0.005; ///< of its range: what a shut throttle may show (typical)
constexpr double kCorrection = 0.10; ///< typical
constexpr std::string_view kIdleValve = "idle valve";

const job::Circuit* throttle(const Made& made)
{
    const job::Circuit* c = made.sensing("tps");
    return c != nullptr && c->limits && throttle::takesLimits(*job::sensorOf(made.job(), *c)) ? c : nullptr;
}

/// A share that somebody reads off the unit's own program.
proof::Expectation shareBetween(double low, double high)
{
    proof::Expectation out;
    out.station.kind = proof::StationKind::Value;
    out.condition = Condition::Running;
    out.dimension = Dimension::Ratio;
    out.unit = "%";
    out.low = low;
    out.high = high;
    out.due = out.reading((low + high) / 2);
    return out;
}

/// What the idles read so far say of the stop screw.
std::string screw(const Made& made, const job::ThrottleLimits& limits)
{
    std::vector<throttle::IdleRead> reads;
    for (const job::Passed& p : made.job().passed)
        if (p.line == kIdleValve && p.reading && p.shut_v)
            reads.push_back({*p.shut_v, p.reading->si()});
    return throttle::screwTurn(reads, limits.openRest_v - limits.closedRest_v).sentence;
}

/// The stop screw lets in what the valve does not have to.
void idleStop(Made& made)
{
    if (!made.drives(parts::PartUse::IdleValve) && !made.drives(parts::PartUse::IdleStepper))
        return;
    Line& line =
        made.add(std::string(kIdleValve), By::Typed, phrase("The idle valve works in the middle of its way"), {"warm"});
    line.shows = OfProgram::IdleAir;
    line.window = shareBetween(throttle::kLeastValve, throttle::kMostValve);
    line.source = phrase("2 to 10 % open, warm, in neutral, throttle at 0 %: common practice, no source");
    line.how = phrase("As the unit's own program shows it, nothing switched on. Type it.");
    line.remedy =
        phrase("At 2 % and less the plate lets in too much: turn the stop out by an eighth of a turn. Over 10 % it "
               "lets in too little: turn it in by as much. Then Scale, Strokes zeroes the throttle where it rests "
               "now, and the valve is read again.");
    line.caution = phrase("Hot engine, turning parts: hands clear of belts and fans at the screw.");
    if (const job::Circuit* tps = throttle(made)) {
        line.subjects = {"scaling " + tps->id.value};
        line.shut_v = tps->limits->closedRest_v;
        if (const std::string turn = screw(made, *tps->limits); !turn.empty())
            line.remedy = turn;
    }
    if (made.has("zero"))
        line.after.emplace_back("zero");
}

void correction(Made& made)
{
    if (made.sensing("wideband") == nullptr)
        return;
    Line& line = made.add("closed loop", By::Typed, phrase("Closed loop stays within 10 %"), {"warm"});
    line.shows = OfProgram::Correction;
    line.window = shareBetween(-kCorrection, kCorrection);
    line.source =
        phrase("10 % either way is what a map and injectors of known size leave: typical. Below {} of coolant it means "
               "nothing: common practice, no source",
               degreesText(kLoop_k));
    line.how = phrase("The correction that the unit's own program shows at a steady idle. Type it: -3, 4.");
    line.remedy =
        phrase("More than that at idle alone is air that nobody measured, or an exhaust leak before the sensor; at "
               "every speed it is fuel pressure, injector size, or the sensor's own ground.");
}

} // namespace

void warm(Made& made)
{
    made.begin(Section::Warm);
    if (const job::Circuit* clt = made.sensing("clt")) {
        Line& line = made.valued(
            "warm", *clt, Condition::Running, phrase("Warm: coolant above {}", degreesText(kLoop_k)), kLoop_k, kHot_k,
            phrase("closed loop and learning work from {} on: common practice, no source", degreesText(kLoop_k)));
        line.how = phrase("Let it idle. The fan should come on before {}.", degreesText(kHot_k));
        line.remedy = phrase("Over {}: key off. Air in the coolant, or a fan that does not answer its output.",
                             degreesText(kHot_k));
        line.caution = phrase("Scalding coolant: no cap is opened on a warm engine.");
    }
    if (const job::Circuit* tps = throttle(made)) {
        Line& zero = made.valued(
            "zero", *tps, Condition::Running, phrase("{} still reads 0 with the foot off", tps->name),
            tps->scaling.low - kZero * (tps->scaling.high - tps->scaling.low),
            tps->scaling.low + kZero * (tps->scaling.high - tps->scaling.low), phrase("half a percent: typical"));
        zero.how = phrase("Foot off. The idle works only when the unit knows that it is shut.");
        zero.remedy = phrase("Scale, Strokes: zero it where it rests now, or teach it again.");
        if (made.has("warm"))
            zero.after.emplace_back("warm");
    }
    idleStop(made);
    correction(made);
}

void road(Made& made)
{
    made.begin(Section::Road);
    Line& rules = made.add("rules", By::Eyes, phrase("Where it will be driven, it may be"));
    rules.how =
        phrase("Local rules first: noise, emissions, insurance, a closed road or a dynamometer for pulls. Ask before "
               "anything is removed that they cover.");
    rules.caution =
        phrase("Full throttle on a public road is against the law in most places, and kills. A dynamometer, or a "
               "closed course.");
    rules.holds = rules.today = true;
    Line& pulls = made.add("pulls", By::Eyes, phrase("Two or three pulls alike are logged"), {"rules"});
    pulls.how =
        phrase("Warm, oil about {}, one gear, from about 2,500 rpm to the top, the same each time. One person drives, "
               "another looks at the log.",
               degreesText(kWarmOil_k));
    pulls.source = phrase("common practice, no source");
    pulls.caution = phrase("Knock, a lean mixture, a number that stands still: off the pedal at once.");
}

} // namespace vicegrip::run_sheet
