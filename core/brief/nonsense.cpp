#include "core/base/phrase.h"
#include "core/brief/atmosphere.h"
#include "core/brief/banks.h"
#include "core/brief/driven_needs.h"
#include "core/brief/firing_order.h"
#include "core/brief/needs.h"
#include "core/units/units.h"

#include <algorithm>

/// Facts of a brief that cannot be.
namespace vicegrip::brief {

std::vector<Nonsense> nonsense(const job::Brief& b)
{
    std::vector<Nonsense> out;
    const auto wrong = [&](bool is, const char* field, std::string sentence) {
        if (is)
            out.push_back({field, std::move(sentence)});
    };
    const auto metres = [](double m) { return units::format(m, units::Dimension::Length, "m", 0); };
    const auto outside = [](double v, double low, double high) { return !(v >= low && v <= high); };
    wrong(outside(b.cylinders, 1, 16), "cylinders", phrase("an engine has 1 to 16 cylinders"));
    const double each_l = b.displacement_m3 * 1e3 / std::max(b.cylinders, 1);
    wrong(outside(each_l, 0.02, 2.5), "displacement_l",
          phrase("that is {} l a cylinder: expected 0.02 to 2.5 l", units::formatNumber(each_l, 3)));
    wrong(outside(b.target_pa, 0, 600e3), "target_kpa",
          phrase("boost is 0 to {} above the barometer: a vacuum is no target", pressureText(600e3)));
    wrong(b.boosted() && b.target_pa <= 0, "target_kpa",
          phrase("a boosted engine has a target above {}", pressureText(0)));
    wrong(outside(b.overshoot_pa, 0, 200e3), "overshoot_kpa",
          phrase("overshoot is 0 to {} above the target", pressureText(200e3)));
    wrong(
        outside(b.altitude_m, kLowest_m, kHighest_m), "altitude_m",
        phrase("expected {} to {}, from the lowest shore to the highest road", metres(kLowest_m), metres(kHighest_m)));
    if (!b.firingOrder.empty())
        if (const auto order = checkEachOnce(b.firingOrder, b.cylinders); !order)
            wrong(true, "firing_order", order.error().sentence);
    wrong(!b.firingOrder.empty() && b.ignition == job::Ignition::WastedSpark && b.firingOrder.size() % 2 != 0,
          "firing_order", phrase("an odd number of cylinders has no companions to waste a spark on"));
    if (const auto banks = checkBanks(b.banks, b.cylinders); !banks)
        wrong(true, "banks", banks.error().sentence);
    wrong(b.injectors != 0 && (b.injectors < 0 || b.injectors > kMostInjectors ||
                               (b.injectors > b.cylinders && b.injectors != 2 * b.cylinders)),
          "injectors",
          phrase("{} injectors for {} cylinders: expected one each, two each, or fewer that feed several; {} at most",
                 std::to_string(b.injectors), std::to_string(b.cylinders), std::to_string(kMostInjectors)));
    wrong(outside(b.fans, 0, 3), "fans", phrase("a car has up to three fans"));
    wrong(outside(b.injector_ohm, 0.3, 30), "injector_ohm", phrase("an injector has 0.3 to 30 Ω"));
    wrong(outside(b.fuel_pa, 50e3, 2000e3), "fuel_kpa",
          phrase("a fuel rail holds {}", units::rangeText(pressureText(50e3), pressureText(2000e3))));
    for (const std::string& id : b.watch)
        wrong(findFunction({id}) == nullptr, "watch", phrase("there is nothing called \"{}\" to watch", id));
    return out;
}

} // namespace vicegrip::brief
