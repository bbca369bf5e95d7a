#include "core/fuel/blend.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/units/shown.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::fuel {
namespace {

using units::Dimension;

// Standard atomic weights, abridged (IUPAC 2021), g/mol.
constexpr double kCarbon = 12.011, kHydrogen = 1.008, kOxygen = 15.999;
constexpr double kOxygenInAir = 0.2095 * 2 * kOxygen / 28.9644; ///< by mass: 20.95 % by volume, 28.9644 g/mol, ISO 2533
constexpr double kPetrolHydrogen = 1.87; ///< atoms to one of carbon (Heywood, Internal Combustion Engine Fundamentals,
                                         ///< 1988, table D.4; from memory)
constexpr double kPetrol_kg = 745, kEthanol_kg = 789;
constexpr double kNearlyThere = 0.005;

/// Air over fuel by mass of CHyOz per atom of carbon: C + (1 + y/4 - z/2) O2.
constexpr double airOf(double hydrogen, double oxygen)
{
    return (1 + hydrogen / 4 - oxygen / 2) * 2 * kOxygen / (kCarbon + hydrogen * kHydrogen + oxygen * kOxygen) /
           kOxygenInAir;
}

constexpr double kEthanolAir = airOf(3, 0.5), kPetrolAir = airOf(kPetrolHydrogen, 0);

double ethanolByMass(double byVolume)
{
    return byVolume * kEthanol_kg / density(byVolume);
}

std::string litres(double m3)
{
    return units::format(m3, Dimension::Volume, "l", 1);
}

std::string percent(double share)
{
    return units::format(share, Dimension::Ratio, "%", 0);
}

Result<void> fits(double volume_m3, double capacity_m3)
{
    constexpr double kRounding_m3 = 1e-9;
    if (capacity_m3 > 0 && volume_m3 > capacity_m3 + kRounding_m3)
        return fail(ErrorCode::Range, phrase("{} do not go into a tank of {}: {} too much", litres(volume_m3),
                                             litres(capacity_m3), litres(volume_m3 - capacity_m3)));
    return {};
}

} // namespace

Result<Fill> parseFill(std::string_view text)
{
    std::string typed = typed::trimmed(text);
    const size_t at = typed.find_last_of("eE");
    const auto expected = [&] {
        return fail(ErrorCode::Malformed,
                    phrase("\"{}\" is no fill: expected a volume and a fuel such as 20L@E10 or 25 l E85", typed));
    };
    if (at == std::string::npos || at == 0)
        return expected();
    std::string volume = typed::trimmed(typed.substr(0, at));
    if (volume.ends_with('@'))
        volume = typed::trimmed(volume.substr(0, volume.size() - 1));
    const auto content = units::parse(typed.substr(at + 1) + " %", Dimension::Ratio);
    if (!content || *content < 0 || *content > 1)
        return expected();
    return units::parseShown(volume, Dimension::Volume, "l").map([&](double m3) { return Fill{m3, *content}; });
}

double density(double ethanol)
{
    return std::lerp(kPetrol_kg, kEthanol_kg, ethanol);
}

double stoichiometric(double ethanol)
{
    return std::lerp(kPetrolAir, kEthanolAir, ethanolByMass(ethanol));
}

Correction correction(double ethanol, double baseline)
{
    const double mass = stoichiometric(baseline) / stoichiometric(ethanol);
    return {mass, mass * density(baseline) / density(ethanol)};
}

Result<Fill> blend(const std::vector<Fill>& fills, double capacity_m3)
{
    Fill out;
    for (const Fill& f : fills) {
        if (!(f.volume_m3 >= 0) || !(f.ethanol >= 0 && f.ethanol <= 1))
            return fail(ErrorCode::Range,
                        phrase("a fill needs a volume not below 0 and an ethanol share from 0 to 100 %"));
        out.ethanol += f.volume_m3 * f.ethanol;
        out.volume_m3 += f.volume_m3;
    }
    if (!(out.volume_m3 > 0))
        return fail(ErrorCode::Range, phrase("there is no fuel in it"));
    out.ethanol /= out.volume_m3;
    return fits(out.volume_m3, capacity_m3).map([&] { return out; });
}

Result<double> amountToReach(const Fill& in, double added, double target, double capacity_m3)
{
    if (std::abs(target - in.ethanol) < 1e-9)
        return 0;
    const bool up = target > in.ethanol;
    if (up ? added <= target : added >= target)
        return fail(ErrorCode::Range, phrase("E{} cannot bring {} to {}: it would need a fuel {} that",
                                             units::formatNumber(added * 100, 0), percent(in.ethanol), percent(target),
                                             (up ? phrase("above") : phrase("below"))));
    const double amount = in.volume_m3 * (target - in.ethanol) / (added - target);
    return fits(in.volume_m3 + amount, capacity_m3).map([&] { return amount; });
}

Result<Settling> Settling::of(double before, double after, double line_m3, double flow_m3_per_s, double mixing_s)
{
    if (!(line_m3 >= 0) || !(flow_m3_per_s > 0) || !(mixing_s > 0))
        return fail(ErrorCode::Range, phrase("the line's volume and the flow through it must be known and above 0"));
    Settling s;
    s.m_before = before;
    s.m_after = after;
    s.m_purge_s = line_m3 / flow_m3_per_s;
    s.m_mixing_s = mixing_s;
    return s;
}

double Settling::at(double seconds) const
{
    if (seconds <= m_purge_s)
        return m_before;
    return m_after + (m_before - m_after) * std::exp(-(seconds - m_purge_s) / m_mixing_s);
}

double Settling::settled_s() const
{
    const double distance = std::abs(m_after - m_before);
    return distance <= kNearlyThere ? 0 : m_purge_s + m_mixing_s * std::log(distance / kNearlyThere);
}

} // namespace vicegrip::fuel
