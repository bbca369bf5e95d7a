#include "core/brief/siting.h"

#include "core/base/phrase.h"

namespace vicegrip::brief {
namespace {

using parts::PartUse;

constexpr const char* kFuelCaution =
    key("Fuel: engine cool, negative battery lead off, rail pressure relieved into a rag, no flame, extinguisher at "
        "hand. Check for leaks with the pump primed before the first crank, and again running. Follow local codes; "
        "where licensed practice is required, leave it to them.");
constexpr const char* kHotCaution = key(
    "Hot parts and scalding fluid: let the engine cool right down before a coolant, oil or exhaust fitting is opened.");
constexpr const char* kTurningCaution = key("Turning parts: keys out, engine turned by hand while the gap is set; "
                                            "hands, sleeves and leads clear before a crank.");
constexpr const char* kLiftCaution = key("Under the car: stands and a wheel under the sill, never a jack alone.");

SitingCard airPressure(const std::string& function)
{
    if (function == "charge-pressure")
        return {
            {phrase(
                "Before the throttle, after the cooler: it reads what the turbine makes, whatever the plate does.")},
            {},
            {},
            {}};
    if (function == "baro")
        return {
            {phrase(
                "In the cabin or high in the engine bay, its port down and open: it must feel no ram air and no fan.")},
            {},
            {},
            {}};
    return {{phrase("On the plenum, port down, so that fuel and oil drain out of it."),
             phrase("Short hose of its own, teed into nothing: a shared hose reads what the other user does."),
             phrase("Away from heat: the span drifts with it."),
             phrase("Inside the ECU: a hose from a full-vacuum port, short, falling to the port, through the wall in a "
                    "grommet. With boost beyond its range an external one takes over, and the hose goes.")},
            {},
            {},
            {}};
}

SitingCard fluidPressure(const std::string& function)
{
    if (function == "fuel-pressure")
        return {{phrase("On the rail or its feed, after the filter: it must see what the injectors see."),
                 phrase("On a short flexible lead, not hard on the rail: vibration breaks thin sensors."),
                 phrase("A sensor must not block the flow in its fitting.")},
                {},
                {},
                phrase(kFuelCaution)};
    return {{phrase("In the main gallery, not in a banjo's side: a pressure port is no place for temperature."),
             phrase("Sealant or tape on a tapered thread unless it is coated; snug in aluminium."),
             phrase("Before the intake manifold goes on: it is soon buried.")},
            {},
            {},
            phrase(kHotCaution)};
}

SitingCard fluidTemperature(const std::string& function)
{
    if (function == "gearbox-temp")
        return {{phrase("In the pan: the cooler line reads far too hot at one end and too cold at the other."),
                 phrase("About 60 °C cruising and 70 to 80 °C in traffic is usual.")},
                {},
                {},
                phrase(kLiftCaution)};
    if (function == "oil-temp")
        return {{phrase("In the sump or the filter head, in moving oil, and not in a dead corner behind a plug.")},
                {},
                {},
                phrase(kHotCaution)};
    if (function == "fuel-temp")
        return {{phrase("In the return or the rail; many flex-fuel sensors give it already, as their pulse width.")},
                {},
                {},
                phrase(kFuelCaution)};
    return {{phrase("At the head's outlet, before the thermostat, tip in the flow: an air pocket reads cold."),
             phrase("Not beside a heater return.")},
            {},
            {},
            phrase(kHotCaution)};
}

} // namespace

SitingCard sitingOf(const job::FunctionId& function)
{
    const Function* f = findFunction(function);
    if (f == nullptr)
        return {};
    switch (f->kind) {
    case PartUse::ManifoldPressure:
        return airPressure(function.value);
    case PartUse::FluidPressure:
        return fluidPressure(function.value);
    case PartUse::FluidTemperature:
        return fluidTemperature(function.value);
    case PartUse::AirTemperature:
        return {
            {phrase("An open element in moving air: a closed one follows seconds late."),
             phrase("High readings at idle or after heat soak mean nothing; the peak at wide-open throttle counts.")},
            phrase("In the pipe or in the manifold?"),
            {{phrase("In the last bend before the throttle"), phrase("it feels the charge and not the metal")},
             {phrase("In the manifold, or after the cooler under the blower"),
              phrase("it feels what the cylinders get")}},
            {}};
    case PartUse::FlexFuel:
        return {{phrase("Signal ground to the ECU's sensor ground where it can be.")},
                phrase("Feed or return, lying or standing, which ground?"),
                {{phrase("Return"), phrase("low pressure, little to leak")},
                 {phrase("Feed"), phrase("no return line needed, and it sees what the engine gets first")},
                 {phrase("Low and lying"), phrase("always flooded: standing, it traps bubbles under load")},
                 {phrase("Any way that fits"), phrase("it only counts what runs through it")},
                 {phrase("ECU sensor ground, never the chassis"), phrase("one ground for all signals")},
                 {phrase("A bolt on the head or a stud will do"),
                  phrase("a frequency forgives an offset that a voltage would not")}},
                phrase(kFuelCaution)};
    case PartUse::AirMass:
        return {
            {phrase("In a straight run, ten diameters from a bend if there is room; after the filter, before the "
                    "turbine."),
             phrase("Everything behind it must be tight: it does not count what leaks in.")},
            phrase("Keep the meter?"),
            {{phrase("Mass air where a meter is there and reads"), phrase("it follows the engine by itself")},
             {phrase("Speed density once it cannot read the flow"), phrase("a saturated meter leans the engine out")}},
            {}};
    case PartUse::Wideband:
        return {
            {phrase("Bung at least 15 degrees above horizontal: condensate must run off."),
             phrase(
                 "Power, ground and signal ground to the same place as the ECU's: an offset becomes a mixture error.")},
            {},
            {},
            phrase(kHotCaution)};
    case PartUse::ExhaustTemperature:
        return {{phrase("A hand's width from the port, tip in the middle; in the collector it reads the mean."),
                 phrase("Conditioner away from heat, its junction's leads not spliced with copper.")},
                {},
                {},
                phrase(kHotCaution)};
    case PartUse::CrankTrigger:
    case PartUse::CamTrigger:
        return {
            {phrase("On a bracket that cannot swing, gap 1.0 to 2.5 mm over the middle of the teeth."),
             phrase("Prove it before whatever stands in front of it goes back on."),
             phrase("The sensing strip inside can be 1 to 3 mm wide: how the sensor is turned matters.")},
            phrase("Many teeth or few?"),
            {{phrase("Many, at the crank"), phrase("resolution where speed changes within a turn")},
             {phrase("Few are enough at the crank"), phrase("hundreds of slots behind a belt jitter with the belt")}},
            phrase(kTurningCaution)};
    case PartUse::Throttle:
        return {{phrase("On the shaft's end, turned so that shut reads about 0.5 V and rises with opening."),
                 phrase("Limits are calibrated after fitting, always.")},
                {},
                {},
                {}};
    case PartUse::Pedal:
        return {{phrase("Both tracks from one plug, each with its own supply and ground where the ECU has them.")},
                {},
                {},
                phrase("Throttle by wire: wheels off the ground or the driveline open until both tracks are proved to "
                       "agree.")};
    case PartUse::Speed:
        return {{phrase("At the gearbox's output or a hub; screened lead for a coil.")}, {}, {}, phrase(kLiftCaution)};
    case PartUse::Level:
        return {{phrase("The sender that is in the tank: two wires, ground to the ECU and not to the tank.")},
                {},
                {},
                phrase(kFuelCaution)};
    case PartUse::GearPosition:
        return {{phrase("On the barrel's end; teach every gear.")}, {}, {}, {}};
    case PartUse::Switch:
        return {{phrase("Where the pedal rests; adjust it to switch before the plate moves.")}, {}, {}, {}};
    case PartUse::Other:
        return {};
    default:
        return drivenSiting(function, f->kind);
    }
}

} // namespace vicegrip::brief
