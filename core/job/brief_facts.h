#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"

#include <map>
#include <string>
#include <vector>

/// The brief: what is on the engine, what is wanted of it, and what was agreed with the tuner.
namespace vicegrip::job {

/// What a circuit does for the engine: "map", "clt" (core/brief/functions.h has them all).
using FunctionId = Id<struct FunctionTag>;

enum class Aspiration { Natural, Turbo, Supercharged };
enum class Fuel {
    Petrol,
    Flex, ///< any blend of petrol and ethanol, sensed
    Ethanol ///< one ethanol blend, always the same
};
enum class ThrottleKind { Cable, ByWire };
enum class AirMethod { SpeedDensity, MassAir, Hybrid, ThrottleAngle };
enum class IdleControl { None, Valve, Stepper, Throttle };
enum class Ignition { Distributor, WastedSpark, Sequential };
enum class Gearbox { Manual, Automatic, Sequential };
enum class ChargeCooling { None, Air, Water };
enum class HarnessKind { Adapter, Tap, Full };

/// A bank of cylinders, named as the user does: which side is the first differs from maker to maker.
struct Bank
{
    std::string name;
    std::vector<int> cylinders;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Bank&) const = default;
};

/// What the user pays, in the user's money.
struct Prices
{
    double hour = 60;
    double connector = 18; ///< with terminals and seals
    double tap = 3;
    double terminal = 0.8;
    double metre = 0.9; ///< of wire
    double adapter = 140; ///< a made adapter lead
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Prices&) const = default;
};

struct Brief
{
    int cylinders = 4;
    double displacement_m3 = 2e-3;
    Aspiration aspiration = Aspiration::Natural;
    double target_pa = 0; ///< boost, gauge
    double overshoot_pa = 20e3; ///< above the target
    double altitude_m = 0;
    Fuel fuel = Fuel::Petrol;
    double fuel_pa = 300e3; ///< rail pressure above the manifold's
    ThrottleKind throttle = ThrottleKind::Cable;
    AirMethod airMethod = AirMethod::SpeedDensity;
    IdleControl idle = IdleControl::Valve;
    Ignition ignition = Ignition::WastedSpark;
    std::vector<int> firingOrder; ///< cylinders; empty: not said, and nothing is asked for that the ECU drives
    bool coilDriver = false; ///< the coils have drivers of their own
    std::vector<Bank> banks; ///< empty: one
    int injectors = 0; ///< 0: one a cylinder
    double injector_ohm = 14.5;
    int fans = 1;
    bool tachometer = true, warningLamp = false, display = false; ///< what the driver is shown
    Gearbox gearbox = Gearbox::Manual;
    ChargeCooling chargeCooling = ChargeCooling::None;
    std::vector<std::string> watch; ///< functions the driver wants to see
    HarnessKind harness = HarnessKind::Full;
    std::string tuner;
    std::string agreed;
    std::vector<std::string> drawn; ///< functions the brief has brought circuits in for
    std::vector<std::string> declined; ///< functions the user took out: they do not come back by themselves
    std::vector<std::string> kept; ///< functions nothing asks for any more that stay all the same
    std::map<std::string, std::string> answers; ///< question -> answer
    Prices prices;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Brief&) const = default;

    [[nodiscard]] bool boosted() const { return aspiration != Aspiration::Natural; }
};

} // namespace vicegrip::job
