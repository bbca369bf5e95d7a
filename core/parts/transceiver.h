#pragma once

/// What a CAN transceiver shows a meter while nobody speaks. The pair rests at 2 V to 3 V against its ground and each
/// wire is held there by 15 kOhm to 45 kOhm (ISO 11898-2 allows 5 to 50 kOhm; from memory); without power it lets go.
namespace vicegrip::parts {

inline constexpr double kQuiet_v = 2.5, kQuietTolerance_v = 0.5;
inline constexpr double kBias_ohm = 30e3, kBiasTolerance = 0.5;

/// The resistance that closes each end of a bus, Ohm, and that of a bus whose two ends are closed (ISO 11898-2, from
/// memory).
inline constexpr double kTerminator_ohm = 120, kClosedBus_ohm = 60;
inline constexpr double kClosedWithin =
    0.1; ///< what still passes for it: two that are 10 % off, or a long pair (typical)
inline constexpr double kTerminatorTolerance = 0.05; ///< of one inside a unit (typical)

} // namespace vicegrip::parts
