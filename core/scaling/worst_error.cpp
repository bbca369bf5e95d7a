#include "core/scaling/worst_error.h"

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>

namespace vicegrip::scaling {
namespace {

constexpr int kPlaces = 16, kFormulaPieces = 32;

struct Place
{
    double value = 0, error = -1;
};

class ErrorAlong
{
  public:
    ErrorAlong(const Table& table, const Transfer& transfer) : m_table(table), m_transfer(transfer) {}

    [[nodiscard]] Place at(double value) const
    {
        return {value, std::abs(lookUp(m_table, m_transfer.reading(value)) - value)};
    }

    /// The highest place between two values, the ends included.
    [[nodiscard]] Place worstBetween(double low, double high) const
    {
        std::vector<Place> places;
        for (int i = 0; i <= kPlaces; ++i)
            places.push_back(at(std::lerp(low, high, static_cast<double>(i) / kPlaces)));
        constexpr double kNear = 0.7; // of the highest: a lobe that may be higher between two places
        Place worst = *std::ranges::max_element(places, {}, &Place::error);
        const double worthIt = kNear * worst.error;
        for (size_t i = 1; i + 1 < places.size(); ++i) {
            const bool lobe = places[i].error >= places[i - 1].error && places[i].error >= places[i + 1].error;
            if (!lobe || places[i].error < worthIt)
                continue;
            const Place top = climbed(places[i - 1].value, places[i], places[i + 1].value);
            if (top.error > worst.error)
                worst = top;
        }
        return worst;
    }

  private:
    /// One top between two neighbours that are lower.
    [[nodiscard]] Place climbed(double low, Place top, double high) const
    {
        std::uintmax_t steps = 24;
        const auto [value, lowest] =
            boost::math::tools::brent_find_minima([&](double x) { return -at(x).error; }, low, high, 24, steps);
        return -lowest > top.error ? at(value) : top;
    }

    const Table& m_table;
    const Transfer& m_transfer;
};

Place worstOf(const Table& table, const Transfer& transfer, const job::ScalingSpec& spec, double low, double high)
{
    std::vector<double> cuts = {low, high};
    const auto cut = [&](double value) {
        if (value > low && value < high)
            cuts.push_back(value);
    };
    for (const double kink : transfer.kinks())
        cut(kink);
    if (table.formula)
        for (int i = 1; i < kFormulaPieces; ++i)
            cut(std::lerp(low, high, static_cast<double>(i) / kFormulaPieces));
    const auto [first, last] = std::minmax({transfer.reading(low), transfer.reading(high)});
    for (const TablePoint& p : table.points)
        if (!table.formula && p.reading > first && p.reading < last)
            cut(transfer.value(p.reading, low, high));
    if (last > transfer.fullScale())
        cut(transfer.value(transfer.fullScale(), spec.low, spec.high));
    std::ranges::sort(cuts);
    const ErrorAlong along(table, transfer);
    Place worst;
    for (size_t i = 1; i < cuts.size(); ++i)
        if (const Place there = along.worstBetween(cuts[i - 1], cuts[i]); there.error > worst.error)
            worst = there;
    return worst;
}

} // namespace

void findWorst(Table& table, const Transfer& transfer, const job::ScalingSpec& spec)
{
    const Place worst = worstOf(table, transfer, spec, spec.low, spec.high);
    table.worstError = worst.error;
    table.worstAt = worst.value;
    table.worstAtReading = transfer.reading(worst.value);
}

double worstBetween(const Table& table, const Transfer& transfer, const job::ScalingSpec& spec, double low, double high)
{
    return worstOf(table, transfer, spec, low, high).error;
}

} // namespace vicegrip::scaling
