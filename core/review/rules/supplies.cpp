#include "core/base/phrase.h"
#include "core/review/rules.h"

#include <algorithm>

/// Battery and sensor supply that sag.
namespace vicegrip::review {

using log_columns::Quantity;

namespace {

constexpr double kRunsByItself = 400 / 60.0; // turns a second: it runs by itself (typical)
constexpr double kCharged_v = 13.0; // of an alternator that keeps up (common practice, no source)
constexpr double kCranks_v = 9.0; // an ECU is near its least supply below (typical)
constexpr double kSag_s = 1;
constexpr double kSupplyOff = 0.01; // of a sensor supply: more is more than its tolerance (typical)

/// Stretches of at least `least_s` in which the condition holds, and the least value in them.
template <class Holds>
Finding stretchesWhere(const Rows& rows, std::size_t column, Weight weight, double least_s, Holds holds, double& least)
{
    Finding f{Rule::Sag, weight, {column}, {}, 0, {}, {}, {}};
    const auto values = rows.held(column);
    least = INFINITY;
    for (std::size_t i = 0; i < values.size(); ++i) {
        if (!holds(i, values[i]))
            continue;
        const std::size_t begin = i;
        double lowest = values[i];
        for (; i < values.size() && holds(i, values[i]); ++i)
            lowest = std::min<double>(lowest, values[i]);
        if (rows.seconds({begin, i - 1}) >= least_s) {
            keep(f, {begin, i - 1});
            least = std::min(least, lowest);
        }
    }
    return f;
}

void battery(const Rows& rows, Findings& out)
{
    const auto column = rows.column(Quantity::Battery), speed = rows.column(Quantity::EngineSpeed);
    if (!column || !speed)
        return;
    const auto turns = rows.held(*speed);
    const auto& m = rows.meanings()[*column];
    const auto& n = rows.meanings()[*speed];
    double least = 0;
    Finding low = stretchesWhere(
        rows, *column, Weight::Doubtful, kSag_s,
        [&](std::size_t i, float v) { return n.toSi(turns[i]) > kRunsByItself && m.toSi(v) < kCharged_v; }, least);
    if (low.times > 0) {
        low.what = phrase("{} falls to {} while the engine runs", rows.name(*column), rows.text(*column, least));
        low.todo = phrase("Charging does not keep up: alternator, its wire and its ground. Dead times of injectors and "
                          "coils move with it");
        out.push_back(std::move(low));
    }
    Finding cranks = stretchesWhere(
        rows, *column, Weight::Doubtful, 0,
        [&](std::size_t i, float v) {
            return turns[i] > 0 && n.toSi(turns[i]) <= kRunsByItself && m.toSi(v) < kCranks_v;
        },
        least);
    if (cranks.times > 0) {
        cranks.what = phrase("{} falls to {} under the starter", rows.name(*column), rows.text(*column, least));
        cranks.todo = phrase("Battery, its posts, and the ECU's own feed: a unit that starts anew loses sync");
        out.push_back(std::move(cranks));
    }
}

void sensorSupply(const Rows& rows, Findings& out)
{
    const auto column = rows.column(Quantity::Supply);
    if (!column)
        return;
    const auto& m = rows.meanings()[*column];
    const double nominal = rows.job().ecu.supply.volts;
    double least = 0;
    Finding f = stretchesWhere(
        rows, *column, Weight::Wrong, 0, [&](std::size_t, float v) { return m.toSi(v) < nominal * (1 - kSupplyOff); },
        least);
    if (f.times == 0)
        return;
    f.what = phrase("{} falls to {}", rows.name(*column), rows.text(*column, least));
    f.todo =
        phrase("Something on the sensor supply draws too much, or a sensor's supply wire is chafed: unplug one sensor "
               "after another");
    out.push_back(std::move(f));
}

} // namespace

void sags(const Rows& rows, Findings& out)
{
    battery(rows, out);
    sensorSupply(rows, out);
}

} // namespace vicegrip::review
