#include "core/brief/functions.h"

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
    Function{"crank", "Crank trigger", CrankTrigger, "hall-crank"},
    Function{"cam", "Cam trigger", CamTrigger, "hall-cam"},
    Function{"map", "Manifold pressure", ManifoldPressure, "map-1b15"},
    Function{"charge-pressure", "Charge pressure", ManifoldPressure, "map-3bar"},
    Function{"baro", "Barometer", ManifoldPressure, "map-1b15"},
    Function{"maf", "Air mass", AirMass, "airflow-0-5v"},
    Function{"iat", "Intake air temp", AirTemperature, "ntc-2k2-air", celsius(-30), celsius(120)},
    Function{"clt", "Coolant temp", FluidTemperature, "ntc-2k2", celsius(-30), celsius(130)},
    Function{"tps", "Throttle", Throttle, "pot-10k"},
    Function{"tps2", "Throttle, second track", Throttle, "throttle-hall-falling"},
    Function{"pedal1", "Pedal", Pedal, "pedal-full"},
    Function{"pedal2", "Pedal, second track", Pedal, "pedal-half"},
    Function{"flex", "Fuel composition", FlexFuel, "flex-50-150"},
    Function{"wideband", "Wideband", Wideband, "wideband-0-5"},
    Function{"fuel-pressure", "Fuel pressure", FluidPressure, "press-7bar"},
    Function{"oil-pressure", "Oil pressure", FluidPressure, "press-10bar"},
    Function{"oil-temp", "Oil temp", FluidTemperature, "ntc-oil", celsius(-20), celsius(150)},
    Function{"gearbox-temp", "Gearbox temp", FluidTemperature, "ntc-1k-hot", celsius(-20), celsius(150)},
    Function{"fuel-temp", "Fuel temp", FluidTemperature, "ntc-2k2", celsius(-30), celsius(80)},
    Function{"charge-coolant", "Charge coolant temp", FluidTemperature, "ntc-2k2", celsius(-30), celsius(100)},
    Function{"egt", "Exhaust temp", ExhaustTemperature, "egt-0-5v"},
    Function{"speed", "Road speed", Speed, "hall-speed"},
    Function{"turbo-speed", "Turbocharger speed", Speed, "hall-turbo"},
    Function{"fuel-level", "Fuel level", Level, "level-10-180"},
    Function{"gear", "Gear position", GearPosition, "gear-hall"},
    Function{"brake", "Brake switch", Switch, "switch-ground"},
    Function{"clutch", "Clutch switch", Switch, "switch-ground"},
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
