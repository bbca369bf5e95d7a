#include "core/brief/functions.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>

namespace vicegrip::brief {
namespace {

using enum parts::SensorKind;

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
