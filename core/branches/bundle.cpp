#include "core/branches/bundle.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <random>

namespace vicegrip::branches {
namespace {

struct Disc
{
    double r = 0, x = 0, y = 0, vx = 0, vy = 0;
};

/// Without std::hypot's care for what over- or underflows: these are radii apart, and it is most of the work.
double length(double x, double y)
{
    return std::sqrt(x * x + y * y);
}

/// Pushes discs apart and inward from a wall of radius `wall`; returns the largest overlap left, as a share of a
/// radius. The steps are those of the fast inertial relaxation engine (Bitzek et al. 2006): speed along the force,
/// stopped when it goes uphill.
double relax(std::vector<Disc>& discs, double wall, int steps)
{
    constexpr double kGrow = 1.1, kShrink = 0.5, kStart = 0.1, kMost = 0.45;
    double dt = kStart, mix = kStart;
    int uphill = 0;
    double worst = 0;
    std::vector<std::array<double, 2>> force(discs.size());
    for (int step = 0; step < steps; ++step) {
        std::ranges::fill(force, std::array<double, 2>{});
        worst = 0;
        for (size_t i = 0; i < discs.size(); ++i) {
            const Disc& a = discs[i];
            const double out = length(a.x, a.y), beyond = out + a.r - wall;
            if (beyond > 0 && out > 0) {
                force[i][0] -= beyond * a.x / out;
                force[i][1] -= beyond * a.y / out;
                worst = std::max(worst, beyond / a.r);
            }
            for (size_t j = i + 1; j < discs.size(); ++j) {
                const Disc& b = discs[j];
                const double dx = b.x - a.x, dy = b.y - a.y, reach = a.r + b.r;
                if (std::abs(dx) >= reach || std::abs(dy) >= reach)
                    continue;
                const double apart = length(dx, dy), overlap = reach - apart;
                if (overlap <= 0)
                    continue;
                const double ux = apart > 0 ? dx / apart : 1, uy = apart > 0 ? dy / apart : 0;
                force[i][0] -= overlap * ux;
                force[i][1] -= overlap * uy;
                force[j][0] += overlap * ux;
                force[j][1] += overlap * uy;
                worst = std::max(worst, overlap / std::min(a.r, b.r));
            }
        }
        if (worst < 1e-4)
            break;
        double power = 0, speed = 0, push = 0;
        for (size_t i = 0; i < discs.size(); ++i) {
            power += force[i][0] * discs[i].vx + force[i][1] * discs[i].vy;
            speed += discs[i].vx * discs[i].vx + discs[i].vy * discs[i].vy;
            push += force[i][0] * force[i][0] + force[i][1] * force[i][1];
        }
        const double along = push > 0 ? std::sqrt(speed / push) : 0;
        uphill = power < 0 ? 0 : uphill + 1;
        for (size_t i = 0; i < discs.size(); ++i) {
            Disc& d = discs[i];
            if (power < 0)
                d.vx = d.vy = 0;
            d.vx = (1 - mix) * d.vx + mix * along * force[i][0] + dt * force[i][0];
            d.vy = (1 - mix) * d.vy + mix * along * force[i][1] + dt * force[i][1];
            d.x += dt * d.vx;
            d.y += dt * d.vy;
        }
        if (power < 0) {
            dt *= kShrink;
            mix = kStart;
        } else if (uphill > 5) {
            dt = std::min(dt * kGrow, kMost);
            mix *= 0.99;
        }
    }
    return worst;
}

/// The wall these discs need once they are spread until none overlap.
double wallOf(const std::vector<Disc>& discs)
{
    double spread = 1, wall = 0;
    for (size_t i = 0; i < discs.size(); ++i)
        for (size_t j = i + 1; j < discs.size(); ++j) {
            const double apart = std::hypot(discs[i].x - discs[j].x, discs[i].y - discs[j].y);
            spread = std::max(spread, (discs[i].r + discs[j].r) / std::max(apart, 1e-9));
        }
    for (const Disc& d : discs)
        wall = std::max(wall, spread * std::hypot(d.x, d.y) + d.r);
    return wall;
}

void spread(std::vector<Disc>& discs)
{
    double most = 1;
    for (size_t i = 0; i < discs.size(); ++i)
        for (size_t j = i + 1; j < discs.size(); ++j)
            most = std::max(most, (discs[i].r + discs[j].r) /
                                      std::max(std::hypot(discs[i].x - discs[j].x, discs[i].y - discs[j].y), 1e-9));
    for (Disc& d : discs) {
        d.x *= most;
        d.y *= most;
    }
}

/// Next size of a list that is at least `least`; 0 when none is.
template <size_t N> double nextSize(const std::array<double, N>& sizes_mm, double least_m)
{
    const auto it = std::ranges::lower_bound(sizes_mm, least_m * 1e3);
    return it == sizes_mm.end() ? 0 : *it * 1e-3;
}

} // namespace

Packing pack(const std::vector<double>& diameters_m)
{
    Packing out;
    out.centres.resize(diameters_m.size());
    std::vector<size_t> order;
    double area = 0, largest = 0;
    for (size_t i = 0; i < diameters_m.size(); ++i)
        if (diameters_m[i] > 0) {
            order.push_back(i);
            area += diameters_m[i] * diameters_m[i] / 4;
            largest = std::max(largest, diameters_m[i] / 2);
        }
    if (order.empty())
        return out;
    // Lengths in largest radii, so that the relaxation's steps suit wires of any thickness.
    std::vector<Disc> best;
    double bestWall = 0;
    const int starts = order.size() == 1 ? 1 : order.size() <= 20 ? 8 : order.size() <= 40 ? 2 : 1;
    std::mt19937 random(7); // NOLINT(bugprone-random-generator-seed,cert-msc51-cpp): the same bundle, the same answer
    std::uniform_real_distribution<double> anywhere(-1, 1);
    for (int start = 0; start < starts; ++start) {
        std::vector<Disc> discs;
        const double guess = std::sqrt(area) / largest;
        for (size_t i : order)
            discs.push_back({diameters_m[i] / 2 / largest, guess * anywhere(random), guess * anywhere(random), 0, 0});
        if (order.size() == 1)
            discs.front().x = discs.front().y = 0;
        // From a wall that is too tight to one that fits, halving the step between.
        double tight = std::max(1.0, guess), wide = 1.7 * guess + 1;
        relax(discs, wide, 200);
        for (int round = 0; round < 10; ++round) {
            const double wall = (tight + wide) / 2;
            std::vector<Disc> tried = discs;
            for (Disc& d : tried)
                d.vx = d.vy = 0;
            const double worst = relax(tried, wall, 300);
            const double needed = wallOf(tried);
            if (best.empty() || needed < bestWall) {
                best = tried;
                bestWall = needed;
            }
            if (worst < 2e-3) {
                wide = wall;
                discs = std::move(tried);
            } else {
                tight = wall;
            }
        }
    }
    spread(best);
    out.diameter_m = 2 * bestWall * largest;
    for (size_t i = 0; i < order.size(); ++i)
        out.centres[order[i]] = {best[i].x * largest, best[i].y * largest};
    return out;
}

Dressing dress(double packed_m)
{
    // Usual sizes in mm (typical): sleeves by nominal bore, two-to-one shrink as supplied, grommets by bore with the
    // hole they sit in.
    static constexpr std::array<double, 14> kSleeves = {3, 4, 5, 6, 8, 10, 12, 14, 16, 20, 25, 32, 40, 50};
    static constexpr std::array<double, 12> kShrinks = {2.4, 3.2, 4.8, 6.4, 9.5, 12.7, 19, 25.4, 32, 38, 51, 76};
    static constexpr std::array<double, 10> kGrommets = {4, 6, 8, 10, 13, 16, 20, 25, 32, 40};
    constexpr double kGoesOver = 1.1, kGrips = 0.9, kRim = 1.35;
    Dressing out;
    out.bundle_m = packed_m * kLooseness;
    out.sleeve_m = nextSize(kSleeves, out.bundle_m);
    const double supplied = nextSize(kShrinks, out.bundle_m * kGoesOver);
    if (supplied / 2 <= out.bundle_m * kGrips) {
        out.shrinkSupplied_m = supplied;
        out.shrinkRecovered_m = supplied / 2;
    }
    out.hole_m = nextSize(kGrommets, out.sleeve_m > 0 ? out.sleeve_m : out.bundle_m);
    out.wall_m = out.hole_m * kRim;
    return out;
}

} // namespace vicegrip::branches
