#include "core/brief/functions.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>

namespace vicegrip::brief {
namespace {

using enum parts::PartUse;

constexpr double celsius(double t)
{
    return t + 273.15;
}

constexpr std::array kFunctions = {
    Function{"crank", key("Crank trigger"), CrankTrigger, "hall-crank"},
    Function{"cam", key("Cam trigger"), CamTrigger, "hall-cam"},
    Function{"map", key("Manifold pressure"), ManifoldPressure, "map-1b15"},
    Function{"charge-pressure", key("Charge pressure"), ManifoldPressure, "map-3bar"},
    Function{"baro", key("Barometer"), ManifoldPressure, "map-1b15"},
    Function{"maf", key("Air mass"), AirMass, "airflow-0-5v"},
    Function{"iat", key("Intake air temp"), AirTemperature, "ntc-2k2-air", celsius(-30), celsius(120)},
    Function{"clt", key("Coolant temp"), FluidTemperature, "ntc-2k2", celsius(-30), celsius(130)},
    Function{"tps", key("Throttle"), Throttle, "pot-10k"},
    Function{"tps2", key("Throttle, second track"), Throttle, "throttle-hall-falling"},
    Function{"pedal1", key("Pedal"), Pedal, "pedal-full"},
    Function{"pedal2", key("Pedal, second track"), Pedal, "pedal-half"},
    Function{"flex", key("Fuel composition"), FlexFuel, "flex-50-150"},
    Function{"wideband", key("Wideband"), Wideband, "wideband-0-5"},
    Function{"wideband2", key("Wideband, second bank"), Wideband, "wideband-0-5"},
    Function{"fuel-pressure", key("Fuel pressure"), FluidPressure, "press-7bar"},
    Function{"oil-pressure", key("Oil pressure"), FluidPressure, "press-10bar"},
    Function{"oil-temp", key("Oil temp"), FluidTemperature, "ntc-oil", celsius(-20), celsius(150)},
    Function{"gearbox-temp", key("Gearbox temp"), FluidTemperature, "ntc-1k-hot", celsius(-20), celsius(150)},
    Function{"fuel-temp", key("Fuel temp"), FluidTemperature, "ntc-2k2", celsius(-30), celsius(80)},
    Function{"charge-coolant", key("Charge coolant temp"), FluidTemperature, "ntc-2k2", celsius(-30), celsius(100)},
    Function{"egt", key("Exhaust temp"), ExhaustTemperature, "egt-0-5v"},
    Function{"speed", key("Road speed"), Speed, "hall-speed"},
    Function{"turbo-speed", key("Turbocharger speed"), Speed, "hall-turbo"},
    Function{"fuel-level", key("Fuel level"), Level, "level-10-180"},
    Function{"gear", key("Gear position"), GearPosition, "gear-hall"},
    Function{"brake", key("Brake switch"), Switch, "switch-ground"},
    Function{"clutch", key("Clutch switch"), Switch, "switch-ground"},
    // What the ECU drives.
    Function{"inj1", key("Injector 1"), Injector, "injector-14"},
    Function{"inj2", key("Injector 2"), Injector, "injector-14"},
    Function{"inj3", key("Injector 3"), Injector, "injector-14"},
    Function{"inj4", key("Injector 4"), Injector, "injector-14"},
    Function{"inj5", key("Injector 5"), Injector, "injector-14"},
    Function{"inj6", key("Injector 6"), Injector, "injector-14"},
    Function{"inj7", key("Injector 7"), Injector, "injector-14"},
    Function{"inj8", key("Injector 8"), Injector, "injector-14"},
    Function{"inj9", key("Injector 9"), Injector, "injector-14"},
    Function{"inj10", key("Injector 10"), Injector, "injector-14"},
    Function{"inj11", key("Injector 11"), Injector, "injector-14"},
    Function{"inj12", key("Injector 12"), Injector, "injector-14"},
    Function{"inj13", key("Injector 13"), Injector, "injector-14"},
    Function{"inj14", key("Injector 14"), Injector, "injector-14"},
    Function{"inj15", key("Injector 15"), Injector, "injector-14"},
    Function{"inj16", key("Injector 16"), Injector, "injector-14"},
    Function{"ign1", key("Coil 1"), IgnitionCoil, "coil-single"},
    Function{"ign2", key("Coil 2"), IgnitionCoil, "coil-single"},
    Function{"ign3", key("Coil 3"), IgnitionCoil, "coil-single"},
    Function{"ign4", key("Coil 4"), IgnitionCoil, "coil-single"},
    Function{"ign5", key("Coil 5"), IgnitionCoil, "coil-single"},
    Function{"ign6", key("Coil 6"), IgnitionCoil, "coil-single"},
    Function{"ign7", key("Coil 7"), IgnitionCoil, "coil-single"},
    Function{"ign8", key("Coil 8"), IgnitionCoil, "coil-single"},
    Function{"ign9", key("Coil 9"), IgnitionCoil, "coil-single"},
    Function{"ign10", key("Coil 10"), IgnitionCoil, "coil-single"},
    Function{"ign11", key("Coil 11"), IgnitionCoil, "coil-single"},
    Function{"ign12", key("Coil 12"), IgnitionCoil, "coil-single"},
    Function{"ign13", key("Coil 13"), IgnitionCoil, "coil-single"},
    Function{"ign14", key("Coil 14"), IgnitionCoil, "coil-single"},
    Function{"ign15", key("Coil 15"), IgnitionCoil, "coil-single"},
    Function{"ign16", key("Coil 16"), IgnitionCoil, "coil-single"},
    Function{"fuel-pump", key("Fuel pump relay"), Relay, "relay-85-diode"},
    Function{"fan", key("Fan relay"), Relay, "relay-85-diode"},
    Function{"fan2", key("Fan relay 2"), Relay, "relay-85-diode"},
    Function{"fan3", key("Fan relay 3"), Relay, "relay-85-diode"},
    Function{"boost-valve", key("Boost valve"), BoostValve, "boost-28"},
    Function{"idle-valve", key("Idle valve"), IdleValve, "idle-10"},
    Function{"idle-stepper", key("Idle stepper"), IdleStepper, "idle-stepper-53"},
    Function{"throttle-motor", key("Throttle motor"), ThrottleMotor, "throttle-motor"},
    Function{"tachometer", key("Tachometer"), Tachometer, "tachometer-12"},
    Function{"warning-lamp", key("Warning lamp"), Lamp, "lamp-warning"},
    Function{"display", key("Display"), BusDevice, "can-display"},
    Function{"vehicle-network", key("Vehicle network"), BusDevice, "can-vehicle"},
};

} // namespace

std::span<const Function> functions()
{
    return kFunctions;
}

const Function* findFunction(const job::FunctionId& id)
{
    const auto it = std::ranges::find(kFunctions, id.value, &Function::id);
    return it == kFunctions.end() ? nullptr : &*it;
}

} // namespace vicegrip::brief
