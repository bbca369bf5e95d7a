#include "core/brief/range.h"

#include "core/base/phrase.h"
#include "core/brief/atmosphere.h"
#include "core/electrics/electrics.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::brief {
namespace {

using units::Dimension;

constexpr double kOverrun_pa = 18e3; ///< deep vacuum at overrun (typical)
constexpr double kHotIdleOil_pa = 80e3, kHotOil_pa = 400e3, kColdOil_pa = 700e3; ///< gauge (typical)
constexpr double kFuelRipple = 0.1; ///< of the rail pressure, on top (typical)
constexpr double kLeastHeadroom = 0.04; ///< of the span above the highest mark, below which an adder of nothing is left

bool isAbsolute(const job::FunctionId& f)
{
    const Function* function = findFunction(f);
    return function != nullptr && function->kind == parts::PartUse::ManifoldPressure;
}

std::vector<PressureMark> airMarks(const job::FunctionId& f, const job::Brief& b, double barometer_pa)
{
    const PressureMark barometer{"barometer", barometer_pa, phrase("key on, engine off")};
    if (f.value == "baro")
        return {{phrase("pass road"), barometer_pa * 0.7, phrase("about 2900 m above home")}, barometer};
    std::vector<PressureMark> out;
    if (f.value == "map") {
        out.push_back({"overrun", kOverrun_pa, phrase("throttle shut at speed, typical; fuel is cut"), false});
        out.push_back({phrase("idle"), kIdle_pa, phrase("warm, typical")});
    }
    out.push_back(barometer);
    if (b.boosted()) {
        const double target = barometer_pa + b.target_pa;
        out.push_back(
            {"target", target, phrase("{} barometer + {}", pressureText(barometer_pa), pressureText(b.target_pa))});
        out.push_back(
            {"overshoot", target + b.overshoot_pa, phrase("{} above the target", pressureText(b.overshoot_pa))});
    }
    return out;
}

double outputShare(const parts::Part& s, double full)
{
    const auto span = parts::spanOf(s);
    return span ? std::abs(span->high_v - span->low_v) / full
                : 0.4; // a resistive sensor on a pull-up uses about this much of the span (typical)
}

void rate(Candidate& c, const std::vector<PressureMark>& marks, bool absolute)
{
    const auto lowest = std::ranges::find_if(marks, &PressureMark::mustRead);
    const auto blind = std::ranges::find_if(
        marks, [&](const PressureMark& m) { return m.mustRead && (m.pa > c.sensor.high || m.pa < c.sensor.low); });
    c.reads = blind == marks.end();
    if (!c.reads) {
        const bool above = blind->pa > c.sensor.high;
        const PressureMark& worst = above ? marks.back() : *blind;
        c.verdict =
            above ? phrase("Too short: tops out {} below {}.", pressureText(worst.pa - c.sensor.high), worst.name)
                  : phrase("Does not reach down to {}, by {}.", worst.name, pressureText(c.sensor.low - worst.pa));
        return;
    }
    const double span = c.sensor.high - c.sensor.low;
    if (c.overVolts)
        c.verdict = phrase("Its output goes beyond what the input reads: it would need a divider.");
    else if (c.headroom_pa < kLeastHeadroom * span)
        c.verdict = phrase("Reads it all, with {} to spare: nothing is left for a later turn of the screw.",
                           pressureText(c.headroom_pa));
    else if (absolute)
        c.verdict = phrase("Reads it all; {} of headroom, and at {} its tolerance is worth {} % of the pressure.",
                           pressureText(c.headroom_pa), lowest->name, units::formatNumber(100 * c.errorAtLowest, 1));
    else
        c.verdict = phrase("Reads it all; {} of headroom.", pressureText(c.headroom_pa));
}

/// Those that read everything first; of these, ones with headroom first, then the finest; of the others, the longest.
bool before(const Candidate& a, const Candidate& b)
{
    const auto group = [](const Candidate& c) {
        return !c.reads ? 3 : c.overVolts ? 2 : c.headroom_pa < kLeastHeadroom * (c.sensor.high - c.sensor.low) ? 1 : 0;
    };
    if (group(a) != group(b))
        return group(a) < group(b);
    if (!a.reads)
        return a.headroom_pa > b.headroom_pa;
    return a.pa_per_count < b.pa_per_count;
}

/// Whether the firmware can use an input for it.
bool takes(const parts::EcuInput& input, const job::FunctionId& function)
{
    return input.functions.empty() || std::ranges::find(input.functions, function.value) != input.functions.end();
}

std::string splitText(const job::Job& job, const Advice& advice)
{
    if (!job.brief || !job.brief->boosted())
        return phrase("One sensor: without boost a short span reads the manifold finely from overrun to wide open.");
    const auto best = std::ranges::find_if(advice.ranking, &Candidate::reads);
    if (best == advice.ranking.end())
        return phrase("No single sensor of the library reads it all: one of a bar after the throttle for vacuum, a "
                      "long one before it for boost.");
    constexpr double kCoarse = 0.1; ///< of the pressure at idle: more than mixture can be off (typical)
    const std::string lowest = std::ranges::find_if(advice.marks, &PressureMark::mustRead)->name;
    if (best->errorAtLowest > kCoarse)
        return phrase("One each side of the throttle: at {} the tolerance of the long span alone is {} % of the "
                      "pressure. A short one after the throttle reads vacuum, the long one before it reads boost.",
                      lowest, units::formatNumber(100 * best->errorAtLowest, 1));
    return phrase("One sensor does both: its tolerance is {} % of the pressure at {}. A second one before the throttle "
                  "helps where the plate is driven by wire.",
                  units::formatNumber(100 * best->errorAtLowest, 1), lowest);
}

} // namespace

std::vector<PressureMark> marksOf(const job::FunctionId& function, const job::Brief& b, double barometer_pa)
{
    if (isAbsolute(function))
        return airMarks(function, b, barometer_pa);
    const double boost = b.boosted() ? b.target_pa + b.overshoot_pa : 0;
    if (function.value == "fuel-pressure")
        return {
            {phrase("key on, not primed"), 0, phrase("no pressure")},
            {"overrun", b.fuel_pa - (barometer_pa - kOverrun_pa), phrase("the regulator follows the manifold down")},
            {"rail", b.fuel_pa, phrase("above the manifold's")},
            {phrase("full load"), (b.fuel_pa + boost) * (1 + kFuelRipple),
             phrase("rail + boost, and a tenth of ripple")}};
    if (function.value == "oil-pressure")
        return {{phrase("engine off"), 0, phrase("no pressure")},
                {phrase("hot idle"), kHotIdleOil_pa, phrase("typical")},
                {phrase("hot, at speed"), kHotOil_pa, phrase("typical")},
                {phrase("cold start"), kColdOil_pa, phrase("relief valve, typical")}};
    return {};
}

Candidate rated(const parts::Part& sensor, const std::vector<PressureMark>& marks, const parts::EcuInput& input,
                double fullScale_v, double barometer_pa)
{
    const bool absolute = sensor.measures == Dimension::AbsolutePressure;
    Candidate c;
    c.sensor = sensor;
    c.headroom_pa = sensor.high - marks.back().pa;
    c.bottom_pa = marks.front().pa - sensor.low;
    c.pa_per_count = (sensor.high - sensor.low) / (outputShare(sensor, fullScale_v) * input.fullScale());
    const auto lowest = std::ranges::find_if(marks, &PressureMark::mustRead);
    c.errorAtLowest = absolute && lowest != marks.end() ? parts::sheetTolerance(sensor) / lowest->pa : 0;
    c.overVolts = parts::mostVolts(sensor) > fullScale_v * 1.02;
    c.top_gauge_pa = absolute ? sensor.high - barometer_pa : sensor.high;
    rate(c, marks, absolute);
    return c;
}

Advice adviseRange(const job::FunctionId& function, const job::Job& job, const job::Circuit* circuit,
                   const parts::Library& library)
{
    Advice out;
    const Function* f = findFunction(function);
    const job::Brief brief = job.brief.value_or(job::Brief{});
    out.marks = marksOf(function, brief, job.surroundings.barometer_pa);
    if (f == nullptr || out.marks.empty())
        return out;
    const parts::EcuInput plain;
    const parts::EcuInput* input = circuit == nullptr ? nullptr : job::findInput(job, circuit->input);
    out.inputText = input == nullptr ? phrase("a 5 V input of {} bits", std::to_string(plain.bits))
                                     : phrase("{}, {} bits", input->id.value, std::to_string(input->bits));
    const parts::EcuInput& on = input == nullptr ? plain : *input;
    const bool absolute = isAbsolute(function);
    const Dimension wanted = absolute ? Dimension::AbsolutePressure : Dimension::GaugePressure;
    const parts::Part* now = circuit == nullptr ? nullptr : job::sensorOf(job, *circuit);
    const double full = input == nullptr ? on.span_v : electrics::fullScaleVolts(job, on);
    const auto consider = [&](const parts::Part& s) {
        if (s.kind != f->kind || s.measures != wanted)
            return;
        out.ranking.push_back(rated(s, out.marks, on, full, job.surroundings.barometer_pa));
        out.ranking.back().current = now != nullptr && now->id == s.id;
    };
    for (const parts::Part& s : library.parts)
        consider(s);
    for (const parts::EcuInput* i : job::inputs(job)) {
        const job::Circuit* there = job::seatedOn(job, i->id);
        if (i->inside && (there == nullptr || there == circuit) && takes(*i, function))
            consider(*i->inside);
    }
    if (now != nullptr && std::ranges::none_of(out.ranking, &Candidate::current))
        consider(*now);
    std::ranges::stable_sort(out.ranking, before);
    if (function.value == "map")
        out.split = splitText(job, out);
    return out;
}

namespace {

const parts::Part* insideOf(const job::Job& job, const parts::PartId& id)
{
    for (const parts::EcuInput* i : job::inputs(job))
        if (i->inside && i->inside->id == id)
            return &*i->inside;
    return nullptr;
}

/// What the facts say of injectors and coils decides between them; null for anything else.
const parts::Part* suggestedDriven(const Function& function, const job::Job& job, const parts::Library& library)
{
    const job::Brief brief = job.brief.value_or(job::Brief{});
    if (function.kind == parts::PartUse::IgnitionCoil)
        return parts::find(library, parts::PartId{brief.ignition == job::Ignition::WastedSpark
                                                      ? (brief.coilDriver ? "coil-driver-wasted" : "coil-wasted")
                                                      : (brief.coilDriver ? "coil-driver-4" : "coil-single")});
    if (function.kind != parts::PartUse::Injector)
        return nullptr;
    const parts::Part* nearest = nullptr;
    double least = 0;
    for (const parts::Part& p : library.parts) {
        const auto ohm = parts::windingOhm(p);
        if (p.kind != function.kind || !ohm)
            continue;
        const double off = std::abs(std::log(*ohm / brief.injector_ohm));
        if (nearest == nullptr || off < least) {
            nearest = &p;
            least = off;
        }
    }
    return nearest;
}

} // namespace

const parts::Part* suggested(const Function& function, const job::Job& job, const parts::Library& library)
{
    const job::FunctionId id{std::string(function.id)};
    const Advice advice = adviseRange(id, job, nullptr, library);
    for (const Candidate& c : advice.ranking) // what is there already needs no plug, no wire and no bracket
        if (const parts::Part* inside = insideOf(job, c.sensor.id); inside != nullptr && c.reads && !c.overVolts)
            return inside;
    for (const Candidate& c : advice.ranking)
        if (const parts::Part* bought = parts::find(library, c.sensor.id))
            return bought;
    if (const auto* driven = suggestedDriven(function, job, library))
        return driven;
    if (const auto* usual = parts::find(library, parts::PartId{std::string(function.usual)}))
        return usual;
    const auto any = std::ranges::find(library.parts, function.kind, &parts::Part::kind);
    return any == library.parts.end() ? nullptr : &*any;
}

} // namespace vicegrip::brief
