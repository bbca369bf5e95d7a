#include "core/diagnosis/between.h"

#include "core/diagnosis/sizes.h"
#include "core/electrics/electrics.h"
#include "core/scaling/table.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
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
    bool ohms = false; ///< what goes with a resistance goes along a curve; with what a sensor is off it need not

    /// One beside the two, with the same things switched on: the sound car, else the nearest.
    [[nodiscard]] const Known* third(std::vector<Known>::const_iterator above) const
    {
        const auto below = std::prev(above);
        const auto alike = [&](std::vector<Known>::const_iterator k) { return k->of->powered == below->of->powered; };
        if (!ohms)
            return nullptr;
        if (below != known.begin() && alike(known.begin()))
            return &known.front();
        if (std::next(above) != known.end() && alike(std::next(above)))
            return &*std::next(above);
        return below != known.begin() && alike(std::prev(below)) ? &*std::prev(below) : nullptr;
    }
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
        Series& s =
            out.emplace_back(Series{first, first + 1, {{0, &solved.front()}}, suspects[first].family != "drift"});
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

/// A reading at a size.
struct At
{
    double size = 0, value = 0;
};

/// (a + b r) / (1 + c r) through three points, at r; no value where they make none, or one that leaves the two it lies
/// between.
std::optional<double> onCurve(const At& below, const At& above, const At& third, double r)
{
    Eigen::Matrix3d m;
    m << 1, below.size, -below.value * below.size, //
        1, above.size, -above.value * above.size, //
        1, third.size, -third.value * third.size;
    const Eigen::Vector3d abc = m.fullPivLu().solve(Eigen::Vector3d(below.value, above.value, third.value));
    const double out = (abc[0] + abc[1] * r) / (1 + abc[2] * r);
    const auto [least, most] = std::minmax(below.value, above.value);
    const double slack = 1e-9 * (std::abs(least) + std::abs(most));
    return out >= least - slack && out <= most + slack ? std::optional(out) : std::nullopt;
}

/// Whether what is shown at a spot may leave the curve between these two.
bool bendsAt(const Series& of, size_t spot, const std::vector<Spot>& spots,
             const std::vector<std::optional<Bends>>& bends, const Solved& low, const Solved& high)
{
    if (spots[spot].place.station.kind == proof::StationKind::Probe)
        return false;
    const auto& b = bends[spot];
    return !of.ohms || !b || b->between(low.shows[b->spot].value, high.shows[b->spot].value);
}

/// What a size between two shows, at one spot. `third`: another that makes the curve; null where there is none.
Prediction between(const Known& below, const Known& above, const Known* third, double size, size_t spot, bool bends)
{
    const Prediction &low = below.of->shows[spot], &high = above.of->shows[spot];
    const double share = (size - below.size) / (above.size - below.size);
    if (low.kind != kQuantity || high.kind != kQuantity)
        return share > 0.5 ? high : low;
    std::optional<double> exact;
    if (third != nullptr && third->of->shows[spot].kind == kQuantity)
        exact = onCurve({below.size, low.value}, {above.size, high.value}, {third->size, third->of->shows[spot].value},
                        size);
    Prediction out = low;
    out.value = exact.value_or(std::lerp(low.value, high.value, share));
    const double gone = high.value == low.value ? share : (out.value - low.value) / (high.value - low.value);
    out.car = std::lerp(low.car, high.car, gone);
    // The ECU's table bends, its converter ends: as far as the curve knows nothing of it (found by solving them).
    constexpr double kBends = 0.05;
    out.own = std::hypot(std::lerp(low.own, high.own, gone), bends ? kBends * (high.value - low.value) : 0);
    return out;
}

bool switches(const Solved& low, const Solved& high)
{
    return low.powered != high.powered ||
           !std::ranges::equal(low.shows, high.shows, {}, &Prediction::kind, &Prediction::kind);
}

/// Whether what the ECU reports moves, and not along the curve.
bool moves(const Series& of, const Solved& low, const Solved& high, const std::vector<Spot>& spots,
           const std::vector<std::optional<Bends>>& bends)
{
    constexpr double kMoves = 2; // sigma
    for (size_t i = 0; i < spots.size(); ++i) {
        const Prediction &l = low.shows[i], &h = high.shows[i];
        if (bendsAt(of, i, spots, bends, low, high) &&
            std::abs(l.value - h.value) > kMoves * std::max(l.sigma(), h.sigma()))
            return true;
    }
    return false;
}

/// Where a table bends by more than a thousandth of what it covers, and its ends.
void addBends(std::vector<double>& volts, const scaling::Table& table)
{
    const auto& p = table.points;
    const auto [low, high] = std::ranges::minmax_element(p, {}, &scaling::TablePoint::value);
    for (size_t k = 0; k < p.size(); ++k) {
        const bool end = k == 0 || k + 1 == p.size();
        const double share = end ? 0 : (p[k].reading - p[k - 1].reading) / (p[k + 1].reading - p[k - 1].reading);
        const double off = end ? 0 : std::abs(p[k].value - std::lerp(p[k - 1].value, p[k + 1].value, share));
        if (end || table.formula || off > 1e-3 * (high->value - low->value))
            volts.push_back(p[k].reading);
    }
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

bool Bends::between(double one, double other) const
{
    const double low = std::min(one, other), high = std::max(one, other);
    const double edge = 1e-6 * std::max(std::abs(low), std::abs(high));
    return std::ranges::any_of(volts, [&](double v) { return v >= low - edge && v <= high + edge; });
}

std::vector<std::optional<Bends>> bendsOf(const analysis::Analysis& analysis, const std::vector<Spot>& spots)
{
    std::vector<std::optional<Bends>> out(spots.size());
    for (size_t i = 0; i < spots.size(); ++i) {
        const Spot& s = spots[i];
        if (s.place.station.kind == proof::StationKind::Probe)
            continue;
        const auto input = std::ranges::find_if(spots, [&](const Spot& other) {
            return other.circuit == s.circuit && other.place.condition == s.place.condition &&
                   other.place.station.kind == proof::StationKind::Input &&
                   other.place.dimension == units::Dimension::Voltage;
        });
        const job::Circuit* circuit = job::find(*analysis.job, s.circuit);
        const parts::EcuInput* of = circuit == nullptr ? nullptr : job::findInput(*analysis.job, circuit->input);
        if (input == spots.end() || of == nullptr)
            continue;
        Bends& b = out[i].emplace(Bends{static_cast<size_t>(input - spots.begin()), {}});
        b.volts = {0, electrics::fullScaleVolts(*analysis.job, *of)};
        const proof::CircuitView* view = analysis::find(analysis, s.circuit);
        if (s.place.station.kind == proof::StationKind::Value && view != nullptr && view->table)
            addBends(b.volts, *view->table);
    }
    return out;
}

namespace {

/// Where something switches off between two sizes, the decades between them say in which decade.
bool decadesFirst(const std::vector<Suspect>& suspects, const Series& s, double below, double above)
{
    return s.ohms && std::any_of(suspects.begin() + static_cast<std::ptrdiff_t>(s.first),
                                 suspects.begin() + static_cast<std::ptrdiff_t>(s.end), [&](const Suspect& of) {
                                     return of.size > below && of.size < above && isDecade(of.size);
                                 });
}

} // namespace

std::vector<size_t> needSolving(const std::vector<Suspect>& suspects, const std::vector<Spot>& spots,
                                const std::vector<std::optional<Bends>>& bends, const std::vector<Solved>& solved)
{
    std::vector<size_t> out;
    for (const Series& s : seriesOf(suspects, solved))
        for (size_t k = s.first, since = 0; k < s.end; ++k) {
            since = solved[k].shows.empty() ? since + 1 : 0;
            if (since == 0)
                continue;
            const auto above = s.above(suspects[k].size);
            const Solved &low = *std::prev(above)->of, &high = *above->of;
            const bool decades = decadesFirst(suspects, s, std::prev(above)->size, above->size);
            const bool unsure = switches(low, high) || (decades && s.third(above) == nullptr);
            if (unsure ? !decades || isDecade(suspects[k].size) : since % 2 == 0 && moves(s, low, high, spots, bends))
                out.push_back(k);
        }
    return out;
}

void fillBetween(const std::vector<Suspect>& suspects, const std::vector<Spot>& spots,
                 const std::vector<std::optional<Bends>>& bends, std::vector<Solved>& solved)
{
    for (const Series& s : seriesOf(suspects, solved)) {
        for (size_t k = s.first; k < s.end; ++k) {
            if (!solved[k].shows.empty())
                continue;
            const auto above = s.above(suspects[k].size);
            for (size_t i = 0; i < spots.size(); ++i)
                solved[k].shows.push_back(between(*std::prev(above), *above, s.third(above), suspects[k].size, i,
                                                  bendsAt(s, i, spots, bends, *std::prev(above)->of, *above->of)));
        }
        grow(solved, s, spots.size());
    }
}

} // namespace vicegrip::diagnosis
