#pragma once

#include <optional>
#include <span>
#include <string_view>

namespace vicegrip::log_columns {

/// What a column is to an engine, as rules ask for it. `Other` is any number that nothing is known of.
enum class Quantity {
    Other,
    EngineSpeed,
    Throttle,
    SecondThrottle,
    Pedal,
    SecondPedal,
    Manifold,
    Charge,
    AskedPressure, ///< what the boost control asks for
    Mixture,
    AskedMixture,
    Correction, ///< of closed loop: a share that is added, or a factor about 1
    Gear,
    RoadSpeed,
    Battery,
    Supply, ///< of the sensors
    IntakeAir,
    Coolant,
    OilTemp,
    GearboxTemp,
    OilPressure,
    Ethanol,
    Consumer ///< something that is on or off
};

/// A quantity as a job names it ("asked-pressure"; "nothing" for Other), and in words, a key: `phrase` says it.
struct QuantityName
{
    Quantity quantity;
    std::string_view name;
    std::string_view words;
};

/// All of them, in their order.
[[nodiscard]] std::span<const QuantityName> quantities();
[[nodiscard]] const QuantityName& nameOf(Quantity quantity);
[[nodiscard]] std::optional<Quantity> quantityOf(std::string_view name);

} // namespace vicegrip::log_columns
