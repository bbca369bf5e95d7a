#include "core/base/phrase.h"
#include "core/review/rules.h"

#include <algorithm>

/// A closed-loop correction that follows an offset of the manifold sensor: fuel is taken in proportion to the pressure,
/// so one that reads d too low is made up for by the share d / p, which is great at idle and small at load. The two
/// parts, a share everywhere and an offset, are told apart by least squares of correction against 1 / p.
namespace vicegrip::review {

using log_columns::Quantity;

namespace {

constexpr double kClosedLoop_k = 273.15 + 71; // closed loop from there on (common practice)
constexpr std::size_t kEnough = 200;
constexpr double kOffset_pa = 1000, kShare = 0.05; // what is worth a sentence
constexpr double kSpread = 1.5; // the greatest pressure over the least
constexpr double kExplains = 0.5; // of the variance

} // namespace

void correction(const Rows& rows, Findings& out)
{
    const auto column = rows.column(Quantity::Correction), pressure = rows.column(Quantity::Manifold),
               speed = rows.column(Quantity::EngineSpeed), coolant = rows.column(Quantity::Coolant);
    if (!column || !pressure || !speed)
        return;
    const auto c = rows.held(*column), p = rows.held(*pressure), n = rows.held(*speed);
    const auto warm = coolant ? rows.held(*coolant) : std::span<const float>();
    const auto& mp = rows.meanings()[*pressure];
    // A factor about 1, a share that is added, or that in percent: no factor and no share is above 2.
    constexpr double kNoFactor = 2;
    double sum = 0, count = 0, greatest = 0;
    for (const float v : c)
        if (!std::isnan(v)) {
            sum += v;
            count += 1;
            greatest = std::max<double>(greatest, std::abs(v));
        }
    const bool percent = rows.meanings()[*column].unit == "%" || greatest > kNoFactor;
    const double scale = percent ? 0.01 : 1, middle = sum / std::max(count, 1.0) * scale;
    const double zero = middle > 0.5 ? 1 : 0;
    double k = 0, sx = 0, sy = 0, sxx = 0, sxy = 0, syy = 0, least = INFINITY, most = 0;
    Stretch shown{rows.log().rows(), 0};
    for (std::size_t i = 0; i < c.size(); ++i) {
        const double pa = mp.toSi(p[i]), y = c[i] * scale - zero;
        if (!(n[i] > 0) || !(pa > 10e3) || std::isnan(y))
            continue;
        if (coolant && !(rows.meanings()[*coolant].toSi(warm[i]) >= kClosedLoop_k))
            continue;
        const double x = 1 / pa;
        k += 1;
        sx += x;
        sy += y;
        sxx += x * x;
        sxy += x * y;
        syy += y * y;
        least = std::min(least, pa);
        most = std::max(most, pa);
        shown = {std::min(shown.first, i), i};
    }
    if (k < kEnough)
        return;
    const double under = k * sxx - sx * sx, mean = sy / k;
    const double slope = under > 0 ? (k * sxy - sx * sy) / under : 0;
    const double variance = k * syy - sy * sy;
    const double explained = variance > 0 ? slope * slope * under / variance : 0;
    Finding f{Rule::CorrectionFollows, Weight::Doubtful, {*column, *pressure}, {}, 0, {}, {}, {}};
    keep(f, shown);
    const auto share = [](double s) { return units::formatNumber(s * 100, 1) + " %"; };
    if (most > kSpread * least && explained > kExplains && std::abs(slope) > kOffset_pa) {
        const double rest = (sy - slope * sx) / k;
        f.what =
            phrase("{} follows the manifold pressure as if that read {} too {}: {} at {}, {} at {}", rows.name(*column),
                   log_columns::pressureDifferenceText(std::abs(slope)), slope > 0 ? phrase("low") : phrase("high"),
                   share(rest + slope / least), units::format(least, units::Dimension::AbsolutePressure, "kPa", 0),
                   share(rest + slope / most), units::format(most, units::Dimension::AbsolutePressure, "kPa", 0));
        f.todo =
            phrase("An offset of the sensor, its ground or its table, and no fault of the fuel map: read the circuit's "
                   "ground in Meter, and the barometer at key on");
        out.push_back(std::move(f));
    } else if (std::abs(mean) > kShare) {
        f.what = phrase("{} is {} in the mean, whatever the load", rows.name(*column), share(mean));
        f.todo =
            phrase("A share that is the same everywhere is fuel pressure, injector data or the mixture sensor's scale, "
                   "before it is the map");
        out.push_back(std::move(f));
    }
}

} // namespace vicegrip::review
