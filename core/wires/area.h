#pragma once

#include "core/electrics/wiring.h"

#include <map>
#include <string>

/// How thick each wire must be, and why.
namespace vicegrip::wires {

/// What a wire's area is judged by (typical, but for what names its source).
inline constexpr double kSensorDrop_v = 5e-3; ///< along one sensor wire: 0.1 % of its 5 V
inline constexpr double kFeedDrop_v = 0.25; ///< along one wire of a feed or its return: 2 % of the battery
inline constexpr double kLeastArea_m2 = 0.5e-6; ///< what hands, clips and vibration leave whole (common practice)

inline constexpr double kUnderBonnet_k = 333.15; ///< 60 °C, in a loom that is clear of the exhaust (typical)
inline constexpr double kInsulation_k = 373.15; ///< 100 °C: class B of ISO 6722-1 (from memory)
inline constexpr double kOverload_k = 423.15; ///< 150 °C: its thermal overload, 50 K above the class (from memory)
inline constexpr double kFuseBlows = 1.35; ///< times its rating, in minutes (ISO 8820, from memory)
inline constexpr double kInLoom = 0.7; ///< of what a wire alone carries (typical)

/// The current that brings a wire alone in still air from `surroundings_k` to `wire_k`, A. The heat balance
/// I² R(T) = h pi D (T - surroundings) per metre (Joule; Newton's cooling), with h = 12 W/(m² K), convection and
/// radiation together (typical).
[[nodiscard]] double mostAmps(double area_m2, double surroundings_k, double wire_k);

/// The ISO 6722 size that carries this in a loom under the bonnet, m²; at least what hands leave whole.
[[nodiscard]] double areaToCarry(double amps);
/// The least that carries as much as the fuse before it does, and outlasts it, m².
[[nodiscard]] double areaBehind(double fuse_a);

struct AreaChoice
{
    double current_a = 0; ///< at most, everything running
    double drop_v = 0; ///< along the wire as it is drawn
    double fuse_a = 0; ///< the nearest fuse on its way to the battery; 0: none, or nobody has said
    double byDrop_m2 = 0, byHeat_m2 = 0, byFuse_m2 = 0; ///< least areas
    double area_m2 = 0; ///< the size to take, of the ISO 6722 sizes; 0: not judged
    std::string why; ///< one sentence, with the numbers

    /// Whether what is drawn is enough. A wire that is not judged is.
    [[nodiscard]] bool suffices(double drawn_m2) const { return drawn_m2 >= area_m2 * (1 - 1e-9); }
};

/// For every wire. Battery leads and straps between studs are not judged: starter and charge currents are not in the
/// drawing. Without a network there is nothing to judge by, and the map is empty.
[[nodiscard]] std::map<job::WireId, AreaChoice> chooseAreas(const job::Job& job, const electrics::Wiring& wiring);

} // namespace vicegrip::wires
