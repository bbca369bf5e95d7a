#include "core/trigger/cam.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace vicegrip::trigger {
namespace {

constexpr double kSame_deg = 12; // edges that come so close to one another are one that moves

/// The crank's angle at the times of its edges, turn after turn; a stretch ends where it was lost.
struct Stretch
{
    std::vector<double> times_s, angles_deg;
};

std::vector<Stretch> stretchesOf(const Report& crank)
{
    const std::vector<double> edges = edgesOf(crank.wheel, crank.trailing);
    std::vector<Stretch> out;
    int before = -1;
    double turns_deg = 0;
    for (std::size_t i = 0; i < crank.times_s.size(); ++i) {
        const int tooth = crank.followed.tooth[i];
        if (tooth >= 0) {
            if (before < 0 || tooth != (before + 1) % static_cast<int>(edges.size())) {
                out.emplace_back();
                turns_deg = 0;
            } else if (tooth <= before) {
                turns_deg += crank.wheel.turn_deg;
            }
            out.back().times_s.push_back(crank.times_s[i]);
            out.back().angles_deg.push_back(edges[static_cast<std::size_t>(tooth)] - edges.front() + turns_deg);
        }
        before = tooth;
    }
    return out;
}

/// Where a time lies between two edges, by a parabola through the three nearest: across the gap a compression bends the
/// speed.
double angleAt(const Stretch& s, double time_s)
{
    const auto next = std::ranges::upper_bound(s.times_s, time_s) - s.times_s.begin();
    const auto first = std::clamp<std::ptrdiff_t>(next - 2, 0, static_cast<std::ptrdiff_t>(s.times_s.size()) - 4);
    double angle = 0; // Lagrange, four points
    for (std::ptrdiff_t i = first; i < first + 4; ++i) {
        double share = 1;
        for (std::ptrdiff_t k = first; k < first + 4; ++k)
            if (k != i)
                share *= (time_s - s.times_s[static_cast<std::size_t>(k)]) /
                         (s.times_s[static_cast<std::size_t>(i)] - s.times_s[static_cast<std::size_t>(k)]);
        angle += share * s.angles_deg[static_cast<std::size_t>(i)];
    }
    return angle;
}

/// Angles that come again and again, modulo a turn.
std::vector<std::vector<double>> gathered(std::vector<double> angles_deg, double turn_deg)
{
    for (double& a : angles_deg) {
        a = std::fmod(a, turn_deg);
        if (a < 0)
            a += turn_deg;
    }
    std::ranges::sort(angles_deg);
    std::vector<std::vector<double>> out;
    for (const double a : angles_deg)
        if (out.empty() || a - out.back().back() > kSame_deg)
            out.push_back({a});
        else
            out.back().push_back(a);
    if (out.size() > 1 && out.front().front() + turn_deg - out.back().back() <= kSame_deg) { // it lies across the end
        for (const double a : out.front())
            out.back().push_back(a + turn_deg);
        out.erase(out.begin());
    }
    return out;
}

/// Each turn of the crank that was seen whole has edges; those of one parity are the same.
double nearestTooth(const Report& crank, double angle_deg, int& tooth)
{
    const std::vector<double> edges = edgesOf(crank.wheel, crank.trailing);
    double nearest = std::numeric_limits<double>::max();
    for (std::size_t t = 0; t < edges.size(); ++t)
        if (const double off = std::abs(std::remainder(edges[t] - edges.front() - angle_deg, crank.wheel.turn_deg));
            off < nearest) {
            nearest = off;
            tooth = static_cast<int>(t);
        }
    return nearest;
}

CamEdge edgeOf(const std::vector<double>& angles, const Report& crank)
{
    CamEdge out;
    out.times = angles.size();
    double sum = 0, square = 0;
    for (const double a : angles)
        sum += a;
    const double mean = sum / static_cast<double>(angles.size());
    for (const double a : angles)
        square += (a - mean) * (a - mean);
    out.angle_deg = std::fmod(mean, kCamTurn_deg);
    out.scatter_deg = std::sqrt(square / static_cast<double>(angles.size()));
    out.toTooth_deg = nearestTooth(crank, out.angle_deg, out.tooth);
    return out;
}

} // namespace

Result<CamBeside> camBeside(const Report& crank, std::span<const double> cam_s)
{
    if (crank.wheel.onCam() || !crank.followed.placed)
        return fail(ErrorCode::Range, phrase("the wheel beside it must be the crank's, and tell where a turn begins"));
    std::vector<double> best;
    double longest = 0;
    for (const Stretch& s : stretchesOf(crank)) { // the turn's parity is only the same within one
        if (s.times_s.size() < 4 || s.angles_deg.back() - s.angles_deg.front() <= longest)
            continue;
        longest = s.angles_deg.back() - s.angles_deg.front();
        best.clear();
        for (const double t : cam_s)
            if (t >= s.times_s.front() && t <= s.times_s.back())
                best.push_back(angleAt(s, t));
    }
    if (longest < 2 * kCrankTurn_deg || best.empty())
        return fail(ErrorCode::Range, phrase("no edge of the cam fell into turns of the crank that were followed"));
    const auto twoTurns = gathered(best, kCamTurn_deg);
    const double seen = longest / kCamTurn_deg;
    CamBeside out;
    for (const auto& angles : twoTurns) {
        if (angles.back() - angles.front() > 3 * kSame_deg)
            return fail(ErrorCode::Range, phrase("the cam's edges come at no angle of the crank that repeats: another "
                                                 "shaft, or a loose belt"));
        if (static_cast<double>(angles.size()) >= seen / 2) // else once, by noise
            out.edges.push_back(edgeOf(angles, crank));
    }
    if (out.edges.empty())
        return fail(ErrorCode::Range, phrase("the cam's edges come at no angle of the crank that repeats: another "
                                             "shaft, or a loose belt"));
    std::ranges::sort(out.edges, {}, &CamEdge::angle_deg);
    if (out.edges.front().angle_deg >= kCrankTurn_deg) // the first turn is the one with the first edge
        for (CamEdge& e : out.edges)
            e.angle_deg -= kCrankTurn_deg;
    out.tellsTurn = std::ranges::any_of(out.edges, [&](const CamEdge& e) {
        return std::ranges::none_of(out.edges, [&](const CamEdge& other) {
            return std::abs(std::remainder(e.angle_deg + kCrankTurn_deg - other.angle_deg, kCamTurn_deg)) < kSame_deg;
        });
    });
    return out;
}

} // namespace vicegrip::trigger
