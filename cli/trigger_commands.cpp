#include "cli/printing.h"
#include "core/base/phrase.h"
#include "core/capture/capture.h"
#include "core/trigger/trigger.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
#include <iostream>

namespace vicegrip::cli {
namespace {

using units::Dimension;

std::string degrees(double deg)
{
    return units::formatNumber(deg, 2) + "°";
}

std::string millimetres(double m)
{
    return units::format(m, Dimension::Length, "mm", 2);
}

Result<const capture::Channel*> channelOf(const capture::Seen& seen, const std::string& name)
{
    if (name.empty())
        return &seen.channels.front();
    std::string all;
    for (const capture::Channel& c : seen.channels) {
        if (c.name == name)
            return &c;
        all += (all.empty() ? "" : ", ") + c.name;
    }
    return fail(ErrorCode::Range, phrase("there is no channel {}; there are: {}", name, all));
}

Result<trigger::Look> lookAtChannel(const capture::Seen& seen, const capture::Channel& c, const trigger::Known& known,
                                    bool coil)
{
    auto look = c.isOfChanges() ? trigger::lookAtChanges(c.changes_s, c.volts, known)
                                : trigger::lookAt(c.volts, seen.step_s, known, coil);
    if (look)
        return look;
    Error error = look.error();
    error.sentence = phrase("channel {}: {}", c.name, error.sentence);
    return tl::make_unexpected(error);
}

trigger::Scale scaleOf(const capture::Seen& seen, const capture::Channel& c)
{
    return seen.ofFullScale      ? trigger::Scale::FullScale
           : capture::isLogic(c) ? trigger::Scale::Logic
                                 : trigger::Scale::Volts;
}

std::string_view gradeWord(trigger::Grade grade)
{
    return grade == trigger::Grade::Good ? "right" : grade == trigger::Grade::Bad ? "wrong" : "not judged";
}

std::string causeOf(trigger::LossCause cause)
{
    switch (cause) {
    case trigger::LossCause::Missing:
        return phrase("an edge is missing");
    case trigger::LossCause::Extra:
        return phrase("an edge too many");
    case trigger::LossCause::Speed:
        return phrase("a period that no tooth explains");
    }
    return {};
}

Json asJson(const trigger::Report& report, const std::vector<trigger::Verdict>& verdicts)
{
    Json out;
    out["wheel"] = report.line.empty() ? Json() : Json(report.line);
    out["edge"] = report.rising ? "rising" : "falling";
    out["edges"] = report.times_s.size();
    out["known"] = report.followed.known();
    out["placed"] = report.followed.placed;
    out["rpm"] = report.rpm;
    out["rpm_least"] = report.rpmLeast;
    out["rpm_most"] = report.rpmMost;
    out["scatter"] = report.scatter;
    for (const trigger::Loss& l : report.followed.losses)
        out["losses"].push_back({{"time_s", l.time_s}, {"tooth", l.tooth + 1}, {"cause", causeOf(l.cause)}});
    if (report.errors)
        out["tooth_errors_deg"] = report.errors->off_deg;
    for (const trigger::Verdict& v : verdicts)
        out["verdicts"].push_back({{"what", v.what},
                                   {"is", v.is},
                                   {"limit", v.limit},
                                   {"grade", std::string(gradeWord(v.grade))},
                                   {"todo", v.todo}});
    return out;
}

void print(const trigger::Report& report, const TriggerOptions& options)
{
    std::cout << (report.line.empty() ? "wheel as said: " + options.wheel : "wheel: " + report.line) << ", by its "
              << (report.rising ? "rising" : "falling") << " edges\n";
    std::cout << report.times_s.size() << " edges, " << report.followed.known() << " of them known to be which tooth\n";
    if (!report.followed.placed)
        std::cout << "all its teeth are alike: where a turn begins is told by another signal\n";
    std::cout << units::formatNumber(report.rpm, 0) << " turns a minute, from "
              << units::formatNumber(report.rpmLeast, 0) << " to " << units::formatNumber(report.rpmMost, 0)
              << " in a turn\n";
    if (report.errors) {
        const auto worst =
            std::ranges::max_element(report.errors->off_deg, {}, [](double off) { return std::abs(off); });
        const auto tooth = worst - report.errors->off_deg.begin();
        std::cout << "worst tooth: " << tooth + 1 << ", " << degrees(std::abs(*worst)) << " of the crank "
                  << (*worst < 0 ? "early" : "late") << ", ± "
                  << degrees(report.errors->scatter_deg[static_cast<std::size_t>(tooth)]) << " from turn to turn, in "
                  << report.errors->turns << " turns\n";
    }
    for (const trigger::Loss& l : report.followed.losses)
        std::cout << "lost at " << units::formatNumber(l.time_s, 4) << " s"
                  << ", tooth " << l.tooth + 1 << ": " << causeOf(l.cause) << '\n';
}

Result<double> quantity(const std::string& typed, Dimension dimension, const char* unit, double otherwise)
{
    return typed.empty() ? Result<double>(otherwise) : units::parse(typed, dimension, unit);
}

/// "1.0-1.5mm".
Result<std::pair<double, double>> windowTyped(const std::string& typed)
{
    const std::size_t dash = typed.find('-', 1);
    if (dash == std::string::npos)
        return fail(ErrorCode::Malformed, phrase("expected a window such as 1.0-1.5mm"));
    const auto most = units::parse(typed.substr(dash + 1), Dimension::Length, "mm");
    if (!most)
        return tl::make_unexpected(most.error());
    std::string first = typed.substr(0, dash);
    if (first.find_first_not_of("0123456789., ") == std::string::npos) // its unit stands behind the second
        first += typed.substr(typed.find_last_of("0123456789") + 1);
    const auto least = units::parse(first, Dimension::Length, "mm");
    if (!least)
        return tl::make_unexpected(least.error());
    return std::pair(*least, *most);
}

} // namespace

int readTrigger(const TriggerOptions& options)
{
    trigger::Known known;
    if (!options.wheel.empty()) {
        const auto wheel = trigger::readWheel(options.wheel);
        if (!wheel)
            return refuse(wheel.error(), kUsage);
        known.wheel = *wheel;
    }
    if (!options.edge.empty())
        known.rising = options.edge == "rising";
    known.lowOnTooth = !options.highOnTooth;
    known.turn_deg = options.cam ? trigger::kCamTurn_deg : trigger::kCrankTurn_deg;
    const auto seen = capture::readCapture(options.file);
    if (!seen)
        return refuse(seen.error(), kUnreadable);
    const auto channel = channelOf(*seen, options.channel);
    if (!channel)
        return refuse(channel.error(), kUsage);
    const auto look = lookAtChannel(*seen, **channel, known, options.coil);
    if (!look)
        return refuse(look.error(), kNoAnswer);
    trigger::Wanted wanted;
    wanted.wheel = options.wheel;
    wanted.rising = known.rising;
    const auto verdicts = trigger::verdicts(*look, wanted, scaleOf(*seen, **channel));
    if (options.json) {
        std::cout << asJson(look->report, verdicts).dump(1) << '\n';
    } else {
        print(look->report, options);
        for (const trigger::Verdict& v : verdicts) {
            std::cout << gradeWord(v.grade) << ": " << v.what << ": " << v.is;
            if (!v.limit.empty())
                std::cout << " (" << v.limit << ')';
            std::cout << '\n';
            if (!v.todo.empty())
                std::cout << "       " << v.todo << '\n';
        }
    }
    const bool wrong =
        std::ranges::any_of(verdicts, [](const trigger::Verdict& v) { return v.grade == trigger::Grade::Bad; });
    return wrong ? kFindings : kFine;
}

int makeWheel(const WheelOptions& options)
{
    const auto wheel = trigger::readWheel(options.line);
    if (!wheel)
        return refuse(wheel.error(), kUsage);
    const auto gap = quantity(options.gap, Dimension::Length, "mm", trigger::Clearance{}.gap_m);
    const auto runOut = quantity(options.runOut, Dimension::Length, "mm", 0);
    const auto noise = quantity(options.noise, Dimension::Voltage, "V", 0);
    for (const Result<double>* one : {&gap, &runOut, &noise})
        if (!*one)
            return refuse(one->error(), kUsage);
    const trigger::Turning turning{options.rpm, 0, options.ripple, options.cylinders};
    const trigger::Clearance clearance{*gap, *runOut, 0};
    trigger::Disturbance disturbance;
    disturbance.noise_v = *noise;
    trigger::ReluctanceSensor reluctance;
    reluctance.volts = 8; // 0.8 V at a starter's speed and 1.2 mm (typical)
    reluctance.swapped = options.exchanged;
    const trigger::Sensed sensed =
        options.coil
            ? trigger::senseReluctance(*wheel, turning, reluctance, clearance, disturbance, options.seconds,
                                       options.rate_hz)
            : trigger::senseHall(*wheel, turning, {}, clearance, disturbance, options.seconds, options.rate_hz);
    capture::Seen seen{sensed.step_s, options.seconds, {{wheel->onCam() ? "cam" : "crank", sensed.volts, {}}}};
    if (options.out.ends_with(".vcd")) {
        const auto levels = options.coil ? trigger::coilLevels(sensed.volts) : trigger::levelsOf(sensed.volts);
        if (!levels)
            return refuse(phrase("the sensor sees no tooth at that gap"), kNoAnswer);
        const auto edges = trigger::edgesIn(sensed.volts, *levels, sensed.step_s);
        capture::Channel& c = seen.channels.front();
        c.volts.assign(1, sensed.volts.front() > static_cast<float>(levels->middle_v) ? 1.F : 0.F);
        c.changes_s.assign(1, 0);
        for (const trigger::Edge& e : edges) {
            c.changes_s.push_back(e.time_s);
            c.volts.push_back(e.rising ? 1.F : 0.F);
        }
    }
    if (const auto written = capture::writeCapture(seen, options.out); !written)
        return refuse(written.error(), kUnreadable);
    return kFine;
}

namespace {

/// Its strip over the teeth; none: nothing of it was typed.
Result<std::optional<trigger::Strip>> stripTyped(const GapOptions& options)
{
    if ((options.wheel + options.across + options.thick + options.wide + options.length + options.lies + options.beside)
            .empty())
        return std::nullopt;
    if (options.wheel.empty() || options.across.empty())
        return fail(ErrorCode::Malformed, phrase("what a strip's lie costs needs --wheel and --across"));
    const auto wheel = trigger::readWheel(options.wheel);
    if (!wheel)
        return tl::make_unexpected(wheel.error());
    trigger::Strip out;
    const auto across = units::parse(options.across, Dimension::Length, "mm");
    const auto wide = quantity(options.wide, Dimension::Length, "mm", out.wide_m);
    const auto length = quantity(options.length, Dimension::Length, "mm", out.long_m);
    const auto thick = quantity(options.thick, Dimension::Length, "mm", 0);
    const auto beside = quantity(options.beside, Dimension::Length, "mm", 0);
    const std::string degrees = options.lies.substr(0, options.lies.find_first_of("\u00B0d")); // "30°", "30 deg"
    const auto lies = quantity(degrees, Dimension::Counts, "", 0);
    for (const Result<double>* one : {&across, &wide, &length, &thick, &beside, &lies})
        if (!*one)
            return tl::make_unexpected(one->error());
    out.tooth_m = trigger::toothPitch(*wheel, *across);
    out.wide_m = *wide;
    out.long_m = *length;
    out.thick_m = *thick;
    out.beside_m = *beside;
    out.lies_deg = *lies;
    if (!(*across > 0 && *wide > 0 && *length > 0 && *thick >= 0 && *beside >= 0))
        return fail(ErrorCode::Range, phrase("a strip and a wheel are larger than 0 mm"));
    return out;
}

std::string turnSentence(const trigger::AirGap& gap, const trigger::GapTurn& turn)
{
    constexpr double kFlats = 6, kLeast_turns = 1e-6, kLeast_m = 1e-6;
    const double flats = turn.turns * kFlats;
    const std::string goes = ": " + millimetres(gap.now_m) + " to " + millimetres(turn.after_m);
    if (std::abs(gap.now_m - turn.after_m) < kLeast_m)
        return "it stands in the middle of its window: " + millimetres(gap.now_m);
    if (gap.pitch_m == 0)
        return (turn.after_m < gap.now_m ? "take " : "put ") + millimetres(std::abs(gap.now_m - turn.after_m)) +
               (turn.after_m < gap.now_m ? " off" : "") + " below its flange" + goes;
    return std::string("turn the sensor ") + (turn.turns > 0 ? "in" : "out") + " by " +
           units::formatNumber(std::abs(turn.turns), 2) + " of a turn" +
           (std::abs(flats - std::round(flats)) < kLeast_turns
                ? " (" + units::formatNumber(std::abs(flats), 0) +
                      (std::abs(std::abs(flats) - 1) < kLeast_turns ? " flat of its nut)" : " flats of its nut)")
                : std::string()) +
           goes;
}

} // namespace

int airGap(const GapOptions& options)
{
    const auto window = windowTyped(options.window);
    if (!window)
        return refuse(window.error(), kUsage);
    const auto now = units::parse(options.now, Dimension::Length, "mm");
    const auto pitch = quantity(options.pitch, Dimension::Length, "mm", 0);
    const auto runOut = quantity(options.runOut, Dimension::Length, "mm", 0);
    for (const Result<double>* one : {&now, &pitch, &runOut})
        if (!*one)
            return refuse(one->error(), kUsage);
    const auto strip = stripTyped(options);
    if (!strip)
        return refuse(strip.error(), kUsage);
    const trigger::AirGap gap{*now, window->first, window->second, *pitch, *runOut, *strip};
    const auto turn = trigger::turnFor(gap);
    if (!turn)
        return refuse(turn.error(), kUsage);
    std::cout << turnSentence(gap, *turn) << '\n';
    if (*strip && !std::isfinite(turn->seems_m))
        std::cout << "its strip senses nothing of the teeth there\n";
    else if (*strip)
        std::cout << "by how its strip lies it senses as from " << millimetres(turn->seemsNow_m) << " now, and from "
                  << millimetres(turn->seems_m) << " then\n";
    if (!turn->fits && *runOut >= window->second - window->first)
        std::cout << "the wheel runs out farther than the window is wide: at some place of its turn the gap is wrong\n";
    else if (!turn->fits)
        std::cout << "no place is right: its strip must lie along the teeth, over their middle, first\n";
    return turn->fits ? kFine : kFindings;
}

} // namespace vicegrip::cli
