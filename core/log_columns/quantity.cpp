#include "core/log_columns/quantity.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>

namespace vicegrip::log_columns {
namespace {

using enum Quantity;

constexpr auto kNamed =
    std::to_array<QuantityName>({{Other, "nothing", key("nothing that is looked at")},
                                 {EngineSpeed, "engine-speed", key("engine speed")},
                                 {Throttle, "throttle", key("throttle")},
                                 {SecondThrottle, "throttle-2", key("second track of the throttle")},
                                 {Pedal, "pedal", key("pedal")},
                                 {SecondPedal, "pedal-2", key("second track of the pedal")},
                                 {Manifold, "manifold", key("manifold pressure")},
                                 {Charge, "charge", key("charge pressure, before the throttle")},
                                 {AskedPressure, "asked-pressure", key("pressure that is asked for")},
                                 {Mixture, "mixture", key("mixture")},
                                 {AskedMixture, "asked-mixture", key("mixture that is asked for")},
                                 {Correction, "correction", key("correction of closed loop")},
                                 {Gear, "gear", key("gear")},
                                 {RoadSpeed, "road-speed", key("road speed")},
                                 {Battery, "battery", key("battery")},
                                 {Supply, "supply", key("supply of the sensors")},
                                 {IntakeAir, "intake-air", key("intake air temperature")},
                                 {Coolant, "coolant", key("coolant temperature")},
                                 {OilTemp, "oil-temp", key("oil temperature")},
                                 {GearboxTemp, "gearbox-temp", key("gearbox temperature")},
                                 {OilPressure, "oil-pressure", key("oil pressure")},
                                 {Ethanol, "ethanol", key("ethanol content")},
                                 {Consumer, "consumer", key("something that is on or off")}});

} // namespace

std::span<const QuantityName> quantities()
{
    return kNamed;
}

const QuantityName& nameOf(Quantity quantity)
{
    return *std::ranges::find(kNamed, quantity, &QuantityName::quantity);
}

std::optional<Quantity> quantityOf(std::string_view name)
{
    const auto* const it = std::ranges::find(kNamed, name, &QuantityName::name);
    return it == kNamed.end() ? std::nullopt : std::optional(it->quantity);
}

} // namespace vicegrip::log_columns
