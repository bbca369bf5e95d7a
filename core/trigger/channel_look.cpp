#include "core/trigger/channel_look.h"

#include "core/base/phrase.h"
#include "core/trigger/periods.h"

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>

namespace vicegrip::trigger {
namespace {

/// Stretches between edges, without the part next to them.
template <class Take> void eachPlateau(std::span<const Edge> edges, double step_s, std::size_t samples, Take take)
{
    constexpr double kEdge = 0.2; // of a plateau, at each end
    for (std::size_t i = 0; i + 1 < edges.size(); ++i) {
        const double from = edges[i].time_s, wide = edges[i + 1].time_s - from;
        const auto first = static_cast<std::size_t>(std::ceil((from + kEdge * wide) / step_s)),
                   last = std::min(samples, static_cast<std::size_t>((from + (1 - kEdge) * wide) / step_s));
        if (first + 2 < last)
            take(i, first, last);
    }
}

/// Of the edges that a report goes by.
std::optional<double> ownSmear(const Report& report)
{
    const std::vector<std::size_t> first = afterGaps(report.wheel, report.trailing);
    if (!report.errors || first.empty())
        return std::nullopt;
    double out = 0;
    for (const std::size_t t : first)
        out = std::max(out, std::hypot(report.errors->off_deg[t], report.errors->scatter_deg[t]));
    return out;
}

/// Of edges that nothing can be followed by, where the other kind knows where the wheel stands: they keep a distance
/// before each of its edges, but for the first after a gap.
std::optional<double> smearBeside(const Report& smeared, const Report& by)
{
    const std::vector<double> steps = stepsOf(by.wheel, by.trailing);
    const double usual = medianOf(steps);
    constexpr double kGap = 1.5;
    std::vector<double> usually, inGaps;
    std::size_t at = 0;
    for (std::size_t i = 0; i + 1 < by.times_s.size(); ++i) {
        while (at < smeared.times_s.size() && smeared.times_s[at] <= by.times_s[i])
            ++at;
        const int tooth = by.followed.tooth[i];
        if (tooth < 0 || at >= smeared.times_s.size() || smeared.times_s[at] >= by.times_s[i + 1])
            continue;
        const double step = steps[static_cast<std::size_t>(tooth)];
        const double before = (by.times_s[i + 1] - smeared.times_s[at]) / (by.times_s[i + 1] - by.times_s[i]) * step;
        (step > kGap * usual ? inGaps : usually).push_back(before);
    }
    if (usually.empty() || inGaps.empty())
        return std::nullopt;
    const double due = medianOf(std::move(usually));
    double square = 0;
    for (const double before : inGaps)
        square += (before - due) * (before - due);
    return std::sqrt(square / static_cast<double>(inGaps.size()));
}

/// A Hall signal: how far each plateau goes towards the other level.
std::optional<NoiseMargin> plateauNoise(std::span<const float> volts, const Look& look, double step_s)
{
    // From its own thirds: the levels it is at are as far beyond the thresholds as these are apart.
    const double apart = look.levels.high_v - look.levels.low_v, high = look.levels.high_v + apart,
                 low = look.levels.low_v - apart;
    double worst = 0;
    bool any = false;
    eachPlateau(look.edges, step_s, volts.size(), [&](std::size_t edge, std::size_t first, std::size_t last) {
        const auto here = volts.subspan(first, last - first);
        const auto [least, most] = std::ranges::minmax_element(here);
        worst = std::max(worst, look.edges[edge].rising ? high - *least : *most - low);
        any = true;
    });
    return any ? std::optional(NoiseMargin{std::max(0.0, worst), 2 * apart}) : std::nullopt;
}

/// How far samples are from the cubic through them.
double offCubic(std::span<const float> volts)
{
    const auto n = static_cast<Eigen::Index>(volts.size());
    Eigen::MatrixX4d a(n, 4);
    Eigen::VectorXd b(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const double x = 2.0 * static_cast<double>(i) / static_cast<double>(n - 1) - 1;
        a.row(i) << 1, x, x * x, x * x * x;
        b(i) = static_cast<double>(volts[static_cast<std::size_t>(i)]);
    }
    return (b - a * a.householderQr().solve(b)).cwiseAbs().maxCoeff();
}

/// A coil: what it does in the middle of its gaps, where teeth are far, but for what these still make there, which is
/// smooth. The wrong edge puts the gaps elsewhere.
std::optional<NoiseMargin> gapNoise(std::span<const float> volts, const Look& look, double step_s)
{
    const Report& by = isEdgeWrong(look) ? *look.other : look.report;
    const std::vector<double> steps = stepsOf(by.wheel, by.trailing);
    const double usual = medianOf(steps);
    constexpr double kGap = 1.8, kMiddle = 0.25; // of a tooth's step, to each side
    constexpr std::size_t kLeast = 8, kMost = 4096, kEnough = 500;
    double worst = 0;
    std::size_t seen = 0;
    for (std::size_t i = 0; i + 1 < by.times_s.size() && seen < kEnough; ++i) {
        const int tooth = by.followed.tooth[i];
        if (tooth < 0 || steps[static_cast<std::size_t>(tooth)] < kGap * usual)
            continue;
        const double wide = by.times_s[i + 1] - by.times_s[i], middle = by.times_s[i] + wide / 2,
                     reach = kMiddle * wide * usual / steps[static_cast<std::size_t>(tooth)];
        const auto first = static_cast<std::size_t>((middle - reach) / step_s),
                   last = std::min({volts.size(), static_cast<std::size_t>((middle + reach) / step_s), first + kMost});
        if (last < first + kLeast)
            continue;
        worst = std::max(worst, offCubic(volts.subspan(first, last - first)));
        ++seen;
    }
    return seen > 0 ? std::optional(NoiseMargin{worst, look.levels.high_v}) : std::nullopt;
}

/// How wide teeth look in degrees, and where: from its beginning to its end, by how long that takes of the step.
void addWidths(Look& look, const Falls& falls)
{
    const Report& r = look.report;
    const std::vector<double> edges = edgesOf(r.wheel, r.trailing), steps = stepsOf(r.wheel, r.trailing);
    const std::vector<double> others = timesOf(look.edges, !r.rising);
    std::vector<double> angles, widths;
    for (std::size_t i = 0; i + 1 < r.times_s.size(); ++i) {
        const int tooth = r.followed.tooth[i];
        if (tooth < 0)
            continue;
        const auto other = std::ranges::upper_bound(others, r.times_s[i]);
        if (other == others.end() || *other >= r.times_s[i + 1])
            continue;
        const auto t = static_cast<std::size_t>(tooth);
        const double share = (*other - r.times_s[i]) / (r.times_s[i + 1] - r.times_s[i]);
        const double own = r.wheel.teeth[t].to_deg - r.wheel.teeth[t].from_deg;
        angles.push_back(edges[t]);
        // From a leading edge to the trailing one is the tooth; from a trailing one on it is what lies between.
        widths.push_back((r.trailing ? -1 : 1) * share * steps[t] - (r.trailing ? 0 : own));
    }
    if (!isFine(r.wheel) || angles.size() < 4 * r.wheel.teeth.size())
        return;
    std::vector<double> usualSteps, usualAngles;
    const double usual = medianOf(steps);
    for (std::size_t i = 0; i < angles.size(); ++i) {
        const auto at = std::ranges::find(edges, angles[i]) - edges.begin();
        if (steps[static_cast<std::size_t>(at)] < 1.5 * usual) {
            usualAngles.push_back(angles[i]);
            usualSteps.push_back(widths[i]);
        }
    }
    look.once = onceATurn(usualAngles, usualSteps, r.wheel.turn_deg);
    if (look.once) // both its edges move
        look.runOut_m = look.once->amplitude / falls.narrows_deg_m;
}

void addPeaks(Look& look, std::span<const float> volts, double step_s, const Falls& falls)
{
    const Report& r = look.report;
    const std::vector<double> edges = edgesOf(r.wheel, r.trailing), steps = stepsOf(r.wheel, r.trailing);
    std::vector<double> angles, peaks;
    constexpr double kMost_s = 1;
    for (std::size_t i = 1; i + 1 < r.times_s.size(); ++i) {
        const int tooth = r.followed.tooth[i];
        if (tooth < 0 || r.followed.tooth[i - 1] < 0)
            continue;
        const auto first = static_cast<std::size_t>(r.times_s[i - 1] / step_s),
                   last = std::min(volts.size(), static_cast<std::size_t>(r.times_s[i + 1] / step_s) + 1);
        if (last <= first || static_cast<double>(last - first) * step_s > kMost_s)
            continue;
        const auto [least, most] = std::ranges::minmax_element(volts.subspan(first, last - first));
        const double peak = std::min(static_cast<double>(*most), -static_cast<double>(*least));
        const double before = steps[(static_cast<std::size_t>(tooth) + steps.size() - 1) % steps.size()];
        const double speed_deg_s = before / (r.times_s[i] - r.times_s[i - 1]);
        if (!look.leastPeak_v || peak < *look.leastPeak_v) {
            look.leastPeak_v = peak;
            look.leastPeak_rpm = speed_deg_s * kMinute_s / kCrankTurn_deg;
        }
        angles.push_back(edges[static_cast<std::size_t>(tooth)]);
        peaks.push_back(peak / speed_deg_s); // volts follow the speed
    }
    if (!isFine(r.wheel) || angles.size() < 2 * r.wheel.teeth.size())
        return;
    look.once = onceATurn(angles, peaks, r.wheel.turn_deg);
    look.runOut_m = runOutOf(angles, peaks, falls.decay_m, r.wheel.turn_deg);
}

Result<Look> reported(Look look, const Known& known)
{
    auto report = reportOn(look.edges, known);
    if (!report)
        return tl::make_unexpected(report.error());
    look.report = std::move(*report);
    Known otherwise = known;
    otherwise.rising = !look.report.rising;
    otherwise.wheel = look.report.wheel; // the same metal
    if (auto other = reportOn(look.edges, otherwise))
        look.other = std::move(*other);
    look.smear_deg = ownSmear(look.report);
    if (look.other) {
        look.otherSmear_deg = ownSmear(*look.other);
        if (!look.smear_deg)
            look.smear_deg = smearBeside(look.report, *look.other);
        if (!look.otherSmear_deg)
            look.otherSmear_deg = smearBeside(*look.other, look.report);
    }
    return look;
}

} // namespace

Result<Look> lookAt(std::span<const float> volts, double step_s, const Known& known, bool coil, const Falls& falls)
{
    const auto levels = coil ? coilLevels(volts) : levelsOf(volts);
    if (!levels)
        return fail(ErrorCode::Range, coil ? phrase("it is no coil's: its volts do not go above and below zero")
                                           : phrase("it stands still"));
    Look look;
    look.coil = coil;
    look.levels = *levels;
    look.edges = edgesIn(volts, *levels, step_s);
    auto out = reported(std::move(look), known);
    if (!out)
        return out;
    out->noise = coil ? gapNoise(volts, *out, step_s) : plateauNoise(volts, *out, step_s);
    if (coil)
        addPeaks(*out, volts, step_s, falls);
    else
        addWidths(*out, falls);
    return out;
}

Result<Look> lookAtChanges(std::span<const double> changes_s, std::span<const float> volts, const Known& known,
                           const Falls& falls)
{
    const auto levels = levelsOf(volts);
    if (!levels)
        return fail(ErrorCode::Range, phrase("it stands still"));
    Look look;
    look.levels = *levels;
    look.edges = edgesOfChanges(changes_s, volts, *levels);
    auto out = reported(std::move(look), known);
    if (out)
        addWidths(*out, falls);
    return out;
}

bool looksLikeCoil(std::span<const float> volts)
{
    const auto levels = levelsOf(volts);
    if (!levels || !coilLevels(volts))
        return false;
    constexpr std::size_t kAsked = 1 << 20;
    constexpr double kAtLevels = 0.93; // of a signal with two levels more
    const std::size_t stride = volts.size() / kAsked + 1;
    std::size_t at = 0, all = 0;
    for (std::size_t i = 0; i < volts.size(); i += stride, ++all)
        at += static_cast<double>(volts[i]) < levels->low_v || static_cast<double>(volts[i]) > levels->high_v ? 1 : 0;
    return static_cast<double>(at) < kAtLevels * static_cast<double>(all);
}

std::vector<std::size_t> afterGaps(const Wheel& wheel, bool trailing)
{
    const std::vector<double> steps = stepsOf(wheel, trailing);
    const double usual = medianOf(steps);
    constexpr double kGap = 1.5;
    std::vector<std::size_t> out;
    for (std::size_t t = 0; t < steps.size(); ++t)
        if (steps[t] > kGap * usual)
            out.push_back((t + 1) % steps.size());
    return out;
}

bool isEven(const Wheel& wheel, bool trailing)
{
    constexpr double kAlike = 0.05, kGap = 1.5;
    const std::vector<double> steps = stepsOf(wheel, trailing);
    const double usual = medianOf(steps);
    return std::ranges::all_of(steps,
                               [&](double s) { return s > kGap * usual || std::abs(s - usual) <= kAlike * usual; });
}

bool isFine(const Wheel& wheel)
{
    constexpr double kFine_deg = 12;
    const std::vector<double> steps = stepsOf(wheel, false);
    return steps.size() > 1 && medianOf(steps) <= kFine_deg && isEven(wheel, false);
}

bool isEdgeWrong(const Look& look)
{
    constexpr double kLeast_deg = 0.3, kFarWorse = 2.5;
    return look.otherSmear_deg &&
           look.smear_deg.value_or(kCrankTurn_deg) > std::max(kLeast_deg, kFarWorse * *look.otherSmear_deg);
}

} // namespace vicegrip::trigger
