#include "core/brief/siting.h"

namespace vicegrip::brief {
namespace {

using parts::SensorKind;

constexpr const char* kFuelCaution =
    "Fuel: engine cool, negative battery lead off, rail pressure relieved into a rag, no flame, extinguisher at hand. "
    "Check for leaks with the pump primed before the first crank, and again running. Follow local codes; where "
    "licensed "
    "practice is required, leave it to them.";
constexpr const char* kHotCaution =
    "Hot parts and scalding fluid: let the engine cool right down before a coolant, oil or exhaust fitting is opened.";
constexpr const char* kTurningCaution = "Turning parts: keys out, engine turned by hand while the gap is set; hands, "
                                        "sleeves and leads clear before a crank.";
constexpr const char* kLiftCaution = "Under the car: stands and a wheel under the sill, never a jack alone.";

SitingCard airPressure(const std::string& function)
{
    if (function == "charge-pressure")
        return {{"Before the throttle, after the cooler: it reads what the turbine makes, whatever the plate does."},
                {},
                {},
                {}};
    if (function == "baro")
        return {{"In the cabin or high in the engine bay, its port down and open: it must feel no ram air and no fan."},
                {},
                {},
                {}};
    return {{"On the plenum, port down, so that fuel and oil drain out of it.",
             "Short hose of its own, teed into nothing: a shared hose reads what the other user does.",
             "Away from heat: the span drifts with it."},
            {},
            {},
            {}};
}

SitingCard fluidPressure(const std::string& function)
{
    if (function == "fuel-pressure")
        return {{"On the rail or its feed, after the filter: it must see what the injectors see.",
                 "On a short flexible lead, not hard on the rail: vibration breaks thin sensors.",
                 "A sensor must not block the flow in its fitting."},
                {},
                {},
                kFuelCaution};
    return {{"In the main gallery, not in a banjo's side: a pressure port is no place for temperature.",
             "Sealant or tape on a tapered thread unless it is coated; snug in aluminium.",
             "Before the intake manifold goes on: it is soon buried."},
            {},
            {},
            kHotCaution};
}

SitingCard fluidTemperature(const std::string& function)
{
    if (function == "gearbox-temp")
        return {{"In the pan: the cooler line reads far too hot at one end and too cold at the other.",
                 "About 60 °C cruising and 70 to 80 °C in traffic is usual."},
                {},
                {},
                kLiftCaution};
    if (function == "oil-temp")
        return {{"In the sump or the filter head, in moving oil, and not in a dead corner behind a plug."},
                {},
                {},
                kHotCaution};
    if (function == "fuel-temp")
        return {{"In the return or the rail; many flex-fuel sensors give it already, as their pulse width."},
                {},
                {},
                kFuelCaution};
    return {{"At the head's outlet, before the thermostat, tip in the flow: an air pocket reads cold.",
             "Not beside a heater return."},
            {},
            {},
            kHotCaution};
}

} // namespace

SitingCard sitingOf(const job::FunctionId& function)
{
    const Function* f = findFunction(function);
    if (f == nullptr)
        return {};
    switch (f->kind) {
    case SensorKind::ManifoldPressure:
        return airPressure(function.value);
    case SensorKind::FluidPressure:
        return fluidPressure(function.value);
    case SensorKind::FluidTemperature:
        return fluidTemperature(function.value);
    case SensorKind::AirTemperature:
        return {{"An open element in moving air: a closed one follows seconds late.",
                 "High readings at idle or after heat soak mean nothing; the peak at wide-open throttle counts."},
                "In the pipe or in the manifold?",
                {{"In the last bend before the throttle", "it feels the charge and not the metal"},
                 {"In the manifold, or after the cooler under the blower", "it feels what the cylinders get"}},
                {}};
    case SensorKind::FlexFuel:
        return {{"Signal ground to the ECU's sensor ground where it can be."},
                "Feed or return, lying or standing, which ground?",
                {{"Return", "low pressure, little to leak"},
                 {"Feed", "no return line needed, and it sees what the engine gets first"},
                 {"Low and lying", "always flooded: standing, it traps bubbles under load"},
                 {"Any way that fits", "it only counts what runs through it"},
                 {"ECU sensor ground, never the chassis", "one ground for all signals"},
                 {"A bolt on the head or a stud will do", "a frequency forgives an offset that a voltage would not"}},
                kFuelCaution};
    case SensorKind::AirMass:
        return {{"In a straight run, ten diameters from a bend if there is room; after the filter, before the turbine.",
                 "Everything behind it must be tight: it does not count what leaks in."},
                "Keep the meter?",
                {{"Mass air where a meter is there and reads", "it follows the engine by itself"},
                 {"Speed density once it cannot read the flow", "a saturated meter leans the engine out"}},
                {}};
    case SensorKind::Wideband:
        return {{"Bung at least 15 degrees above horizontal: condensate must run off.",
                 "Power, ground and signal ground to the same place as the ECU's: an offset becomes a mixture error."},
                {},
                {},
                kHotCaution};
    case SensorKind::ExhaustTemperature:
        return {{"A hand's width from the port, tip in the middle; in the collector it reads the mean.",
                 "Conditioner away from heat, its junction's leads not spliced with copper."},
                {},
                {},
                kHotCaution};
    case SensorKind::CrankTrigger:
    case SensorKind::CamTrigger:
        return {{"On a bracket that cannot swing, gap 1.0 to 2.5 mm over the middle of the teeth.",
                 "Prove it before whatever stands in front of it goes back on.",
                 "The sensing strip inside can be 1 to 3 mm wide: how the sensor is turned matters."},
                "Many teeth or few?",
                {{"Many, at the crank", "resolution where speed changes within a turn"},
                 {"Few are enough at the crank", "hundreds of slots behind a belt jitter with the belt"}},
                kTurningCaution};
    case SensorKind::Throttle:
        return {{"On the shaft's end, turned so that shut reads about 0.5 V and rises with opening.",
                 "Limits are calibrated after fitting, always."},
                {},
                {},
                {}};
    case SensorKind::Pedal:
        return {{"Both tracks from one plug, each with its own supply and ground where the ECU has them."},
                {},
                {},
                "Throttle by wire: wheels off the ground or the driveline open until both tracks are proved to agree."};
    case SensorKind::Speed:
        return {{"At the gearbox's output or a hub; screened lead for a coil."}, {}, {}, kLiftCaution};
    case SensorKind::Level:
        return {{"The sender that is in the tank: two wires, ground to the ECU and not to the tank."},
                {},
                {},
                kFuelCaution};
    case SensorKind::GearPosition:
        return {{"On the barrel's end; teach every gear."}, {}, {}, {}};
    case SensorKind::Switch:
        return {{"Where the pedal rests; adjust it to switch before the plate moves."}, {}, {}, {}};
    case SensorKind::Other:
        break;
    }
    return {};
}

} // namespace vicegrip::brief
