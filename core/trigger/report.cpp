#include "core/trigger/report.h"

#include "core/base/phrase.h"
#include "core/trigger/periods.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::trigger {
namespace {

/// How much a period differs from the same one so many edges later: the middle of all, as a share.
double scatterOf(std::span<const double> times_s, std::size_t row)
{
    const std::vector<double> periods = logPeriods(times_s);
    std::vector<double> off;
    for (std::size_t i = 0; i + row < periods.size(); ++i)
        off.push_back(std::abs(periods[i + row] - periods[i]));
    return medianOf(std::move(off));
}

void addSpeeds(Report& report)
{
    const std::size_t row = report.wheel.teeth.size();
    std::vector<double> all;
    for (std::size_t i = 0; i + row < report.times_s.size(); ++i)
        if (report.followed.tooth[i] >= 0 && report.followed.tooth[i] == report.followed.tooth[i + row])
            all.push_back(kMinute_s * report.wheel.turn_deg / kCrankTurn_deg /
                          (report.times_s[i + row] - report.times_s[i]));
    if (all.empty())
        return;
    const auto [least, most] = std::ranges::minmax(all);
    report.rpmLeast = least;
    report.rpmMost = most;
    report.rpm = medianOf(std::move(all));
}

Result<Report> byOneKind(std::span<const Edge> edges, const Known& known, bool rising)
{
    Report out;
    out.rising = rising;
    out.trailing = rising == known.lowOnTooth;
    out.times_s = timesOf(edges, rising);
    if (out.times_s.empty())
        return fail(ErrorCode::Range, rising ? phrase("it has no rising edge") : phrase("it has no falling edge"));
    if (known.wheel) {
        out.wheel = *known.wheel;
    } else {
        auto found = recognise(out.times_s, known.turn_deg);
        if (!found)
            return tl::make_unexpected(found.error());
        out.wheel = std::move(found->wheel);
        out.line = std::move(found->line);
    }
    out.followed = follow(out.times_s, out.wheel, out.trailing);
    out.scatter = scatterOf(out.times_s, out.wheel.teeth.size());
    addSpeeds(out);
    out.errors = toothErrors(out.times_s, out.followed, out.wheel, out.trailing);
    return out;
}

} // namespace

std::optional<double> wheelAngle(const Report& report, double time_s)
{
    const auto next = std::ranges::upper_bound(report.times_s, time_s);
    if (next == report.times_s.begin() || next == report.times_s.end())
        return std::nullopt;
    const auto i = static_cast<std::size_t>(next - report.times_s.begin()) - 1;
    const int tooth = report.followed.tooth[i];
    if (tooth < 0)
        return std::nullopt;
    const auto t = static_cast<std::size_t>(tooth);
    const double share = (time_s - report.times_s[i]) / (report.times_s[i + 1] - report.times_s[i]);
    return std::fmod(edgesOf(report.wheel, report.trailing)[t] + share * stepsOf(report.wheel, report.trailing)[t],
                     report.wheel.turn_deg);
}

Result<Report> reportOn(std::span<const Edge> edges, const Known& known)
{
    if (known.rising)
        return byOneKind(edges, known, *known.rising);
    auto falling = byOneKind(edges, known, false), rising = byOneKind(edges, known, true);
    if (!falling || !rising)
        return falling ? std::move(falling) : std::move(rising);
    // Who is lost less often knows it better; of two that know it, the one that comes more evenly.
    const auto lost = [](const Report& r) { return r.times_s.size() - r.followed.known(); };
    constexpr std::size_t kAsGood = 4;
    const bool fallingKnows = lost(*falling) + kAsGood < lost(*rising),
               risingKnows = lost(*rising) + kAsGood < lost(*falling);
    return risingKnows || (!fallingKnows && rising->scatter < falling->scatter) ? std::move(rising)
                                                                                : std::move(falling);
}

} // namespace vicegrip::trigger
