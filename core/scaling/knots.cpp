#include "core/scaling/knots.h"

#include <algorithm>
#include <bitset>
#include <cmath>
#include <glpk.h>
#include <limits>
#include <memory>
#include <numeric>

namespace vicegrip::scaling {
namespace {

using Curve = std::span<const Sample>;

constexpr size_t kExactSamples = 512; ///< beyond this the exact answer would be felt while typing
constexpr size_t kPlacesPerSegment = 24; ///< of a linear program's rows
constexpr double kNear = 1e-4; ///< of a tolerance: it is not halved further

/// Walks away from `start` while any straight line from there can stay within `off` of every sample passed, and tells
/// of each sample whose own chord does.
template <class Tell> void reach(Curve curve, size_t start, double off, Tell tell)
{
    double least = -std::numeric_limits<double>::infinity(), most = -least;
    const auto [x0, y0] = curve[start];
    for (size_t j = start + 1; j < curve.size(); ++j) {
        const double run = 1 / (curve[j].x - x0), rise = curve[j].y - y0;
        const double slope = rise * run;
        if (slope >= least && slope <= most)
            tell(j);
        least = std::max(least, (rise - off) * run);
        most = std::min(most, (rise + off) * run);
        if (least > most)
            return;
    }
}

/// The farthest chord each time; empty when more than `segments` of them are needed.
std::vector<size_t> farthest(Curve curve, size_t segments, double off)
{
    std::vector<size_t> knots = {0};
    while (knots.back() + 1 < curve.size()) {
        if (knots.size() > segments)
            return {};
        size_t far = knots.back() + 1;
        reach(curve, knots.back(), off, [&](size_t j) { far = j; });
        knots.push_back(far);
    }
    return knots;
}

/// A way of exactly `segments` chords within `off`; empty when there is none. Fewer would not do: a knot more on the
/// curve may bend a chord that was near enough without it.
std::vector<size_t> exactly(Curve curve, size_t segments, double off)
{
    using Places = std::bitset<kExactSamples>;
    std::vector<Places> chords(curve.size()); // of each place, where a chord may go
    for (size_t i = 0; i + 1 < curve.size(); ++i)
        reach(curve, i, off, [&](size_t j) { chords[i].set(j); });
    std::vector<Places> after(segments + 1); // so many chords, the places that are reached
    after[0].set(0);
    for (size_t k = 0; k < segments; ++k)
        for (size_t i = k; i < curve.size(); ++i)
            if (after[k][i])
                after[k + 1] |= chords[i];
    std::vector<size_t> knots = {curve.size() - 1};
    if (!after[segments][knots.front()])
        return {};
    for (size_t k = segments; k-- > 0;) {
        size_t i = k;
        while (!after[k][i] || !chords[i][knots.back()])
            ++i;
        knots.push_back(i);
    }
    std::ranges::reverse(knots);
    return knots;
}

/// Halves the tolerance down to where `place` finds nothing any more. `knots` are the best so far.
template <class Place> void tighten(Curve curve, std::vector<size_t>& knots, Place place)
{
    double most = worstOff(curve, knots), least = 0;
    while (most - least > kNear * most && most > 1e-12) {
        const double off = std::midpoint(least, most);
        auto better = place(off);
        if (better.empty()) {
            least = off;
            continue;
        }
        knots = std::move(better);
        most = std::min(off, worstOff(curve, knots)); // often well below what was asked
    }
}

std::vector<size_t> evenKnots(size_t samples, size_t count)
{
    std::vector<size_t> knots;
    for (size_t i = 0; i < count; ++i)
        knots.push_back(i * (samples - 1) / (count - 1));
    return knots;
}

/// An ECU that has so many points gets so many: those left over go into the middle of the widest gaps.
void fillUp(std::vector<size_t>& knots, size_t count)
{
    while (knots.size() < count) {
        size_t widest = 1;
        for (size_t i = 1; i < knots.size(); ++i)
            if (knots[i] - knots[i - 1] > knots[widest] - knots[widest - 1])
                widest = i;
        knots.insert(knots.begin() + static_cast<std::ptrdiff_t>(widest),
                     std::midpoint(knots[widest - 1], knots[widest]));
    }
}

} // namespace

double worstOff(Curve curve, const std::vector<size_t>& knots)
{
    double worst = 0;
    for (size_t k = 1; k < knots.size(); ++k) {
        const Sample &a = curve[knots[k - 1]], &b = curve[knots[k]];
        const double slope = (b.y - a.y) / (b.x - a.x);
        for (size_t i = knots[k - 1] + 1; i < knots[k]; ++i)
            worst = std::max(worst, std::abs(a.y + slope * (curve[i].x - a.x) - curve[i].y));
    }
    return worst;
}

std::vector<size_t> bestKnots(Curve curve, size_t count)
{
    auto knots = evenKnots(curve.size(), count);
    tighten(curve, knots, [&](double off) { return farthest(curve, count - 1, off); });
    fillUp(knots, count);

    const auto places = evenKnots(curve.size(), std::min(curve.size(), kExactSamples)); // every n-th
    std::vector<Sample> fewer;
    for (size_t p : places)
        fewer.push_back(curve[p]);
    if (count <= fewer.size()) {
        // One look whether anything is to be gained: on a plain bend the farthest chords are the answer already.
        auto exact = exactly(fewer, count - 1, worstOff(curve, knots) * (1 - kNear));
        if (!exact.empty()) {
            tighten(fewer, exact, [&](double off) { return exactly(fewer, count - 1, off); });
            for (size_t& k : exact)
                k = places[k];
            if (worstOff(curve, exact) < worstOff(curve, knots))
                knots = std::move(exact);
        }
    }
    return knots;
}

std::vector<double> bestValues(Curve curve, const std::vector<size_t>& knots)
{
    const std::unique_ptr<glp_prob, decltype(&glp_delete_prob)> problem(glp_create_prob(), glp_delete_prob);
    glp_prob* p = problem.get();
    glp_set_obj_dir(p, GLP_MIN);
    const int values = static_cast<int>(knots.size()), off = values + 1;
    glp_add_cols(p, off);
    for (int k = 1; k <= values; ++k)
        glp_set_col_bnds(p, k, GLP_FR, 0, 0);
    glp_set_col_bnds(p, off, GLP_LO, 0, 0);
    glp_set_obj_coef(p, off, 1);

    const double zero = curve.front().y, span = curve.back().y - zero; // scaled to 0..1 for the solver's tolerances
    const auto addRow = [&](std::initializer_list<std::pair<int, double>> terms, int bound, double limit) {
        std::vector<int> columns = {0};
        std::vector<double> factors = {0};
        for (const auto& [column, factor] : terms) {
            columns.push_back(column);
            factors.push_back(factor);
        }
        const int row = glp_add_rows(p, 1);
        glp_set_row_bnds(p, row, bound, limit, limit);
        glp_set_mat_row(p, row, static_cast<int>(terms.size()), columns.data(), factors.data());
    };
    for (size_t k = 1; k < knots.size(); ++k) {
        const int left = static_cast<int>(k), right = left + 1;
        const size_t from = knots[k - 1], width = knots[k] - from, steps = std::min(width, kPlacesPerSegment);
        for (size_t i = 0; i <= steps; ++i) {
            const Sample& s = curve[from + i * width / steps];
            const double share = (s.x - curve[from].x) / (curve[knots[k]].x - curve[from].x);
            const double y = (s.y - zero) / span;
            addRow({{left, 1 - share}, {right, share}, {off, -1}}, GLP_UP, y);
            addRow({{left, 1 - share}, {right, share}, {off, 1}}, GLP_LO, y);
        }
        addRow({{left, -1}, {right, 1}}, GLP_LO, 0); // towards the curve's end
    }
    glp_smcp how;
    glp_init_smcp(&how);
    how.msg_lev = GLP_MSG_OFF;
    how.meth = GLP_DUALP;
    std::vector<double> out;
    const bool solved = glp_simplex(p, &how) == 0 && glp_get_status(p) == GLP_OPT;
    for (size_t k = 0; k < knots.size(); ++k) // an unsolved program leaves the knots on the curve
        out.push_back(solved ? zero + span * glp_get_col_prim(p, static_cast<int>(k) + 1) : curve[knots[k]].y);
    return out;
}

} // namespace vicegrip::scaling
