#include "core/base/phrase.h"
#include "core/review/rules.h"

#include <algorithm>
#include <array>

/// A throttle that does not come back to 0 or reach 100, and two tracks that part. Its limits are taught after every
/// fitting (common practice).
namespace vicegrip::review {

using log_columns::Quantity;

namespace {

constexpr double kShut = 0.01, kOpen = 0.98; // of the stroke
constexpr double kForce = 0.9; // it was opened as far as it goes: a foot on the floor
constexpr double kStands_s = 0.5;
constexpr double kParts = 0.03, kParts_s = 0.1; // of the stroke (typical; a monitor by wire allows about as much)

/// The level at which a share stands longest at one end, and the rows of it.
struct Standing
{
    double at = 0;
    Stretch rows;
};

/// Where it stands still for a while: least (sign -1) or most (+1).
std::optional<Standing> standsAt(const Rows& rows, std::size_t column, double sign)
{
    const auto held = rows.held(column);
    const auto& m = rows.meanings()[column];
    std::optional<Standing> out;
    for (std::size_t begin = 0; begin < held.size();) {
        if (std::isnan(held[begin])) {
            ++begin;
            continue;
        }
        constexpr double kPlay = 0.004;
        const double level = m.toSi(held[begin]);
        std::size_t i = begin;
        while (i < held.size() && std::abs(m.toSi(held[i]) - level) <= kPlay)
            ++i;
        if (rows.seconds({begin, i - 1}) >= kStands_s && (!out || sign * (level - out->at) > 0))
            out = Standing{level, {begin, i - 1}};
        begin = i;
    }
    return out;
}

void part(const Rows& rows, Quantity first, Quantity second, Findings& out)
{
    const auto a = rows.column(first), b = rows.column(second);
    if (!a || !b)
        return;
    const auto one = rows.held(*a), two = rows.held(*b);
    const auto &ma = rows.meanings()[*a], &mb = rows.meanings()[*b];
    Finding f{Rule::TracksPart, Weight::Wrong, {*a, *b}, {}, 0, {}, {}, {}};
    double most = 0;
    const auto off = [&](std::size_t i) { return std::abs(ma.toSi(one[i]) - mb.toSi(two[i])); };
    for (std::size_t i = 0; i < one.size(); ++i) {
        if (!(off(i) > kParts))
            continue;
        const std::size_t begin = i;
        double worst = 0;
        for (; i < one.size() && off(i) > kParts; ++i)
            worst = std::max(worst, off(i));
        if (rows.seconds({begin, i - 1}) >= kParts_s) {
            keep(f, {begin, i - 1});
            most = std::max(most, worst);
        }
    }
    if (f.times == 0)
        return;
    f.what = phrase("{} and {} part by up to {} % of the stroke", rows.name(*a), rows.name(*b),
                    units::formatNumber(most * 100, 1));
    f.todo =
        phrase("A by-wire unit shuts down on it: teach both again, compare both tracks over two slow strokes in Scale, "
               "and do not drive on it");
    out.push_back(std::move(f));
}

} // namespace

void throttleEnds(const Rows& rows, Findings& out)
{
    for (const Quantity q : {Quantity::Throttle, Quantity::Pedal}) {
        const auto column = rows.column(q);
        if (!column)
            continue;
        const std::string name = rows.name(*column);
        const auto percent = [](double share) { return units::formatNumber(share * 100, 1) + " %"; };
        if (const auto low = standsAt(rows, *column, -1);
            low && (low->at > kShut || low->at < -kShut) && low->at < 0.3) {
            Finding f{Rule::ThrottleEnds, Weight::Doubtful, {*column}, {}, 0, {}, {}, {}};
            keep(f, low->rows);
            f.what = phrase("{} comes to rest at {} and not at 0", name, percent(low->at));
            f.todo = phrase("Teach its limits again, with the plates on their stop: idle control waits for 0");
            out.push_back(std::move(f));
        }
        if (const auto high = standsAt(rows, *column, 1);
            high && high->at >= kForce && (high->at < kOpen || high->at > 2 - kOpen)) {
            Finding f{Rule::ThrottleEnds, Weight::Doubtful, {*column}, {}, 0, {}, {}, {}};
            keep(f, high->rows);
            f.what = phrase("{} ends at {} and not at 100", name, percent(high->at));
            f.todo = phrase("Look whether the cable opens it wholly, then teach its limits again");
            out.push_back(std::move(f));
        }
    }
}

void tracks(const Rows& rows, Findings& out)
{
    part(rows, Quantity::Throttle, Quantity::SecondThrottle, out);
    part(rows, Quantity::Pedal, Quantity::SecondPedal, out);
}

} // namespace vicegrip::review
