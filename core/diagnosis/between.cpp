#include "core/diagnosis/between.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <functional>
#include <optional>

namespace vicegrip::diagnosis {
namespace {

constexpr auto kQuantity = Prediction::Kind::Quantity;

/// A size that was solved, with what it shows.
struct Known
{
    double size = 0;
    const Solved* of = nullptr;
};

/// Each series: where it stands in the list, and its sizes that were solved, with the sound car for none at all.
struct Series
{
    size_t first = 0, end = 0;
    std::vector<Known> known;

    /// The neighbours of a size: the one below comes first.
    [[nodiscard]] std::vector<Known>::const_iterator above(double size) const
    {
        return std::ranges::upper_bound(known, size, {}, &Known::size);
    }
};

std::vector<Series> seriesOf(const std::vector<Suspect>& suspects, const std::vector<Solved>& solved)
{
    std::vector<Series> out;
    for (size_t first = 0; first < suspects.size(); ++first) {
        if (suspects[first].series.empty())
            continue;
        Series& s = out.emplace_back(Series{first, first + 1, {{0, &solved.front()}}});
        while (s.end < suspects.size() && suspects[s.end].series == suspects[first].series)
            ++s.end;
        for (size_t i = first; i < s.end; ++i)
            if (!solved[i].shows.empty())
                s.known.push_back({suspects[i].size, &solved[i]});
        std::ranges::sort(s.known, {}, &Known::size);
        first = s.end - 1;
    }
    return out;
}

/// (a + b r) / (1 + c r) through three points, at r; no value where they make none, or one that leaves the two it lies
/// between.
std::optional<double> onCurve(const std::array<double, 3>& r, const std::array<double, 3>& v, double at)
{
    Eigen::Matrix3d m;
    for (int i = 0; i < 3; ++i)
        m.row(i) << 1, r[i], -v[i] * r[i];
    const Eigen::Vector3d abc = m.fullPivLu().solve(Eigen::Vector3d(v[0], v[1], v[2]));
    const double out = (abc[0] + abc[1] * at) / (1 + abc[2] * at);
    const auto [least, most] = std::minmax(v[1], v[2]);
    const double slack = 1e-9 * (std::abs(least) + std::abs(most));
    return out >= least - slack && out <= most + slack ? std::optional(out) : std::nullopt;
}

/// What a size between two shows, at one spot.
Prediction between(const Prediction& none, const Known& below, const Known& above, double size, size_t spot, bool probe)
{
    const Prediction &low = below.of->shows[spot], &high = above.of->shows[spot];
    const double share = (size - below.size) / (above.size - below.size);
    if (low.kind != kQuantity || high.kind != kQuantity)
        return share > 0.5 ? high : low;
    const bool third = none.kind == kQuantity && below.size != 0 && above.size != 0;
    const auto exact =
        third ? onCurve({0, below.size, above.size}, {none.value, low.value, high.value}, size) : std::nullopt;
    Prediction out = low;
    out.value = exact.value_or(std::lerp(low.value, high.value, share));
    const double gone = high.value == low.value ? share : (out.value - low.value) / (high.value - low.value);
    out.car = std::lerp(low.car, high.car, gone);
    // The ECU's table bends, its converter ends: as far as the curve knows nothing of it (found by solving them).
    constexpr double kBends = 0.05;
    out.own = std::hypot(std::lerp(low.own, high.own, gone), probe ? 0 : kBends * (high.value - low.value));
    return out;
}

bool switches(const Solved& low, const Solved& high)
{
    return low.powered != high.powered ||
           !std::ranges::equal(low.shows, high.shows, {}, &Prediction::kind, &Prediction::kind);
}

/// Whether what the ECU reports moves.
bool moves(const Solved& low, const Solved& high, const std::vector<Spot>& spots)
{
    constexpr double kMoves = 2; // sigma
    for (size_t i = 0; i < spots.size(); ++i) {
        const Prediction &l = low.shows[i], &h = high.shows[i];
        if (spots[i].place.station.kind != proof::StationKind::Probe &&
            std::abs(l.value - h.value) > kMoves * std::max(l.sigma(), h.sigma()))
            return true;
    }
    return false;
}

/// Steps between sizes are even as hands would find them: half of one to each side, as a standard deviation of what is
/// even over that width, and some more so that neighbours overlap.
void grow(std::vector<Solved>& solved, const Series& s, size_t spots)
{
    constexpr double kOfStep = 0.35;
    for (size_t k = s.first; k < s.end; ++k)
        for (size_t i = 0; i < spots; ++i) {
            const size_t before = k > s.first ? k - 1 : k, after = k + 1 < s.end ? k + 1 : k;
            const Prediction &low = solved[before].shows[i], &high = solved[after].shows[i];
            if (after > before && low.kind == kQuantity && high.kind == kQuantity)
                solved[k].shows[i].grown = kOfStep * (high.value - low.value) / static_cast<double>(after - before);
        }
}

} // namespace

std::vector<size_t> needSolving(const std::vector<Suspect>& suspects, const std::vector<Spot>& spots,
                                const std::vector<Solved>& solved)
{
    std::vector<size_t> out;
    for (const Series& s : seriesOf(suspects, solved))
        for (size_t k = s.first, since = 0; k < s.end; ++k) {
            since = solved[k].shows.empty() ? since + 1 : 0;
            if (since == 0)
                continue;
            const auto above = s.above(suspects[k].size);
            const Solved &low = *std::prev(above)->of, &high = *above->of;
            if (switches(low, high) || (since % 2 == 0 && moves(low, high, spots)))
                out.push_back(k);
        }
    return out;
}

void fillBetween(const std::vector<Suspect>& suspects, const std::vector<Spot>& spots, std::vector<Solved>& solved)
{
    for (const Series& s : seriesOf(suspects, solved)) {
        for (size_t k = s.first; k < s.end; ++k) {
            if (!solved[k].shows.empty())
                continue;
            const auto above = s.above(suspects[k].size);
            for (size_t i = 0; i < spots.size(); ++i)
                solved[k].shows.push_back(between(solved.front().shows[i], *std::prev(above), *above, suspects[k].size,
                                                  i, spots[i].place.station.kind == proof::StationKind::Probe));
        }
        grow(solved, s, spots.size());
    }
}

} // namespace vicegrip::diagnosis
