#include "core/base/phrase.h"
#include "core/review/rules.h"

#include <algorithm>

/// Oil and gearbox over a drive: on the move and in traffic. A gearbox stands at about 60 °C cruising and at 70 to 80
/// °C in traffic, measured in the pan (common practice, no source).
namespace vicegrip::review {

using log_columns::Quantity;

namespace {

constexpr double kCruise_mps = 60 / 3.6, kTraffic_mps = 30 / 3.6;
constexpr double kLeastOfEither_s = 60; // of either
constexpr double kLast_s = 300, kStillRises = 0.5 / 60; // K a second
constexpr double kHotGearbox_k = 273.15 + 100, kHotOil_k = 273.15 + 120; // typical

struct TrendMean
{
    double sum = 0, seconds = 0;
    [[nodiscard]] double value() const { return sum / seconds; }
};

/// The slope of the last minutes, K/s, by least squares.
double lastSlope(const Rows& rows, std::size_t column)
{
    const auto held = rows.held(column);
    const auto& time = rows.log().time_s;
    const double from = rows.log().seconds() - kLast_s;
    double n = 0, st = 0, sv = 0, stt = 0, stv = 0;
    for (std::size_t i = static_cast<std::size_t>(std::ranges::lower_bound(time, from) - time.begin()); i < held.size();
         ++i) {
        if (std::isnan(held[i]))
            continue;
        const double t = time[i] - from, v = rows.meanings()[column].toSi(held[i]);
        n += 1;
        st += t;
        sv += v;
        stt += t * t;
        stv += t * v;
    }
    const double under = n * stt - st * st;
    return under > 0 ? (n * stv - st * sv) / under : 0;
}

void trend(const Rows& rows, Quantity quantity, double hot_k, Findings& out)
{
    const auto column = rows.column(quantity);
    if (!column || rows.log().seconds() < kLast_s)
        return;
    const auto held = rows.held(*column);
    const auto& m = rows.meanings()[*column];
    const auto road = rows.column(Quantity::RoadSpeed);
    const auto speed = road ? rows.held(*road) : std::span<const float>();
    TrendMean cruise, traffic;
    double hottest = -INFINITY;
    std::size_t at = 0;
    for (std::size_t i = 1; i < held.size(); ++i) {
        if (std::isnan(held[i]))
            continue;
        const double k = m.toSi(held[i]), dt = std::min(rows.log().time_s[i] - rows.log().time_s[i - 1], 1.0);
        if (k > hottest) {
            hottest = k;
            at = i;
        }
        if (!road)
            continue;
        const double v = rows.meanings()[*road].toSi(speed[i]);
        TrendMean* mean = v > kCruise_mps ? &cruise : v < kTraffic_mps ? &traffic : nullptr;
        if (mean != nullptr) {
            mean->sum += k * dt;
            mean->seconds += dt;
        }
    }
    if (!std::isfinite(hottest))
        return;
    const auto shown = [](double k) { return units::format(k, units::Dimension::Temperature, "°C", 0); };
    Finding f{Rule::Trend, Weight::Fine, {*column}, {}, 0, {}, {}, {}};
    keep(f, {at > 0 ? at - 1 : 0, at});
    f.what = phrase("{}: {} at its hottest", rows.name(*column), shown(hottest));
    if (cruise.seconds >= kLeastOfEither_s)
        f.what += ", " + phrase("{} cruising", shown(cruise.value()));
    if (traffic.seconds >= kLeastOfEither_s)
        f.what += ", " + phrase("{} in traffic", shown(traffic.value()));
    const double slope = lastSlope(rows, *column);
    if (slope > kStillRises && hottest > hot_k) {
        f.weight = Weight::Doubtful;
        f.what += ", " + phrase("and still rising at the end");
        f.todo = phrase("Let it cool before more is asked of it: cooler, its flow and its air");
    } else if (hottest > hot_k) {
        f.weight = Weight::Doubtful;
        f.todo = phrase(
            "Hotter than is usual: look at the cooler, and whether the sensor stands in the line and not in the pan");
    }
    out.push_back(std::move(f));
}

} // namespace

void trends(const Rows& rows, Findings& out)
{
    trend(rows, Quantity::GearboxTemp, kHotGearbox_k, out);
    trend(rows, Quantity::OilTemp, kHotOil_k, out);
}

} // namespace vicegrip::review
