#pragma once

#include "core/base/result.h"

#include <string_view>
#include <vector>

/// Mixtures of petrol and ethanol: what is in a tank, what it needs of air, and how the reading goes after a fill.
///
/// Stoichiometric ratios by composition: ethanol C2H6O and petrol CH1.87 burnt to CO2 and H2O in dry air of 23.14 %
/// oxygen by mass (atomic weights of IUPAC; air of ISO 2533). Densities at 20 °C are typical: petrol 745 kg/m³ (EN 228
/// allows 720 to 775), ethanol 789 kg/m³. Volumes are taken to add up; they shrink by less than a percent (typical).
namespace vicegrip::fuel {

struct Fill
{
    double volume_m3 = 0;
    double ethanol = 0; ///< share by volume
};

/// "20L@E10", "6.5 gal E85": a volume, then @ or a blank, then E and the ethanol in percent.
[[nodiscard]] Result<Fill> parseFill(std::string_view text);

/// Air over fuel by mass where neither is left over.
[[nodiscard]] double stoichiometric(double ethanol);
[[nodiscard]] double density(double ethanol); ///< kg/m³ at 20 °C

/// The fuel that the same air needs, against a baseline fuel.
struct Correction
{
    double mass = 1; ///< of fuel, over that of the baseline
    double volume = 1; ///< what the injectors must pass, over the baseline
};
[[nodiscard]] Correction correction(double ethanol, double baseline);

/// Everything poured together. Errors (Range): nothing in it, a volume below 0, or more than `capacity_m3` holds (0:
/// not known).
[[nodiscard]] Result<Fill> blend(const std::vector<Fill>& fills, double capacity_m3 = 0);

/// How much of a fuel with `added` ethanol brings what is in to `target`, m³. Errors (Range): that fuel cannot bring
/// it there, or not within the capacity.
[[nodiscard]] Result<double> amountToReach(const Fill& in, double added, double target, double capacity_m3);

/// How a sensor in the line sees a fill, engine idling. First the line holds the old fuel; then what the tank has by
/// then arrives, while old and new mix in it with a time constant.
class Settling
{
  public:
    /// `flow_m3_per_s` through the line, return included. Errors (Range): no flow, no line, no time to mix.
    [[nodiscard]] static Result<Settling> of(double before, double after, double line_m3, double flow_m3_per_s,
                                             double mixing_s = kMixing_s);

    [[nodiscard]] double at(double seconds) const; ///< ethanol the sensor shows
    [[nodiscard]] double purge_s() const { return m_purge_s; } ///< nothing moves before
    [[nodiscard]] double settled_s() const; ///< from then on within half a percent of the end

    /// Two minutes: a returning pump turns a tank over about so (typical, no source; sloshing is quicker, a swirl pot
    /// slower).
    static constexpr double kMixing_s = 120;

  private:
    double m_before = 0, m_after = 0, m_purge_s = 0, m_mixing_s = kMixing_s;
};

} // namespace vicegrip::fuel
