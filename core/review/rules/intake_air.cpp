#include "core/base/phrase.h"
#include "core/pulls/pulls.h"
#include "core/review/rules.h"

#include <algorithm>

/// Intake air, judged only while the throttle is wide open: at idle, and after heat has soaked in, a high reading means
/// nothing; in a pull it drops first and climbs slowly, and its peak while still wide open is what counts (common
/// practice, no source).
namespace vicegrip::review {

using log_columns::Quantity;

namespace {

constexpr double kHot_k = 273.15 + 60, kRises_k = 25; // beyond these the charge is warm enough to ask why (typical)

} // namespace

void intakeAir(const Rows& rows, Findings& out)
{
    const auto column = rows.column(Quantity::IntakeAir);
    const auto pulls = pulls::pullsOf(rows.log(), rows.meanings());
    if (!column || !pulls || pulls->all.empty())
        return;
    const auto held = rows.held(*column);
    const auto& m = rows.meanings()[*column];
    Finding f{Rule::IntakeAir, Weight::Fine, {*column}, {}, 0, {}, {}, {}};
    double hottest = 0, began = 0, rise = 0, seconds = 0;
    for (const pulls::Pull& p : pulls->all) {
        double least = INFINITY, most = -INFINITY;
        for (std::size_t i = p.first; i <= p.last; ++i) { // the peak after it has dropped
            if (std::isnan(held[i]))
                continue;
            if (held[i] < least)
                least = most = held[i];
            most = std::max<double>(most, held[i]);
        }
        if (!std::isfinite(least))
            continue;
        keep(f, {p.first, p.last});
        if (const double peak = m.toSi(most); peak > hottest) {
            hottest = peak;
            began = m.toSi(least);
            rise = peak - began;
            seconds = p.seconds;
            std::swap(f.stretches.front(), f.stretches.back());
        }
    }
    if (f.times == 0)
        return;
    const auto shown = [](double k) { return units::format(k, units::Dimension::Temperature, "°C", 0); };
    f.what = phrase("{} while wide open: {} at its peak, {} above its least, in {}", rows.name(*column), shown(hottest),
                    units::format(rise, units::Dimension::TemperatureDifference, "K", 0), secondsText(seconds));
    if (hottest > kHot_k || rise > kRises_k) {
        f.weight = Weight::Doubtful;
        f.todo =
            phrase("Above {}, or {} in one pull, the cooler, its pump or its air are asked about (typical). What it "
                   "reads at idle or after a stop says nothing",
                   shown(kHot_k), units::format(kRises_k, units::Dimension::TemperatureDifference, "K", 0));
    }
    out.push_back(std::move(f));
}

} // namespace vicegrip::review
