#include "core/base/phrase.h"
#include "core/brief/siting.h"

/// Where what the ECU drives goes, and what it can do to hands.
namespace vicegrip::brief {
namespace {

using parts::PartUse;

constexpr const char* kInjectorCaution = key(
    "Fuel under pressure: negative battery lead off before an injector's plug is touched, rail relieved into a rag, "
    "no flame, extinguisher at hand. Follow local codes; where licensed practice is required, leave it to them.");
constexpr const char* kSparkCaution = key(
    "Tens of kilovolts: key out and the ignition's fuse drawn while coils, leads or their plugs are handled. Pins and "
    "implants carry further: whoever bears a pacemaker stays away. Follow local codes.");
constexpr const char* kMovesCaution =
    key("It moves by itself with the key on: fingers, sleeves and tools out of it, its fuse drawn while it is wired.");
constexpr const char* kPumpCaution =
    key("The pump runs when this is bridged: no open line, no flame, extinguisher at hand. Follow local codes; where "
        "licensed practice is required, leave it to them.");

} // namespace

SitingCard drivenSiting(const job::FunctionId& function, PartUse use)
{
    switch (use) {
    case PartUse::Injector:
        return {
            {phrase("Mark each plug with its cylinder before it leaves the bench: plugs that are alike are exchanged, "
                    "and the engine runs, badly."),
             phrase(
                 "One fused feed for all of them, from the relay that the key closes; it must live while cranking.")},
            phrase("Which is cylinder 1?"),
            {{phrase("The one the engine's book counts from"), phrase("firing orders are printed for it")},
             {phrase("The one at the belt"), phrase("it is what most people mean: say which, once, on the plug")}},
            phrase(kInjectorCaution)};
    case PartUse::IgnitionCoil:
    case PartUse::IgnitionModule:
        return {{phrase("Coils with drivers return twice: power to the head they sit on, signal with the ECU's."),
                 phrase("Bare coils and their leads a hand's width from the crank sensor's lead."),
                 phrase("Of a pair that share a coil, the cylinders are half a firing order apart.")},
                {},
                {},
                phrase(kSparkCaution)};
    case PartUse::Relay:
        return {{phrase("Beside what it feeds, its contacts' wires short and thick; only its coil goes to the ECU."),
                 phrase("A coil without a diode or a resistor across it kicks: use one that has, or fit it.")},
                {},
                {},
                phrase(function.value == "fan" ? kMovesCaution : kPumpCaution)};
    case PartUse::Fan:
    case PartUse::ThrottleMotor:
        return {
            {phrase("Its own pair of wires, thick enough for the moment it starts.")}, {}, {}, phrase(kMovesCaution)};
    case PartUse::Pump:
        return {{phrase("A feed of its own from the battery over fuse and relay, and a ground of its own to metal.")},
                {},
                {},
                phrase(kPumpCaution)};
    case PartUse::Tachometer:
    case PartUse::Lamp:
        return {{phrase("In the dash; its feed dies with the key, so that nothing keeps the unit alive through it.")},
                {},
                {},
                {}};
    case PartUse::BusDevice:
        return {
            {phrase("One pair, twisted all the way, some thirty turns a metre, and untwisted for a finger's width at "
                    "a plug (common practice)."),
             phrase("One line from end to end with a terminator at each; what hangs between comes close to it.")},
            {},
            {},
            {}};
    case PartUse::IdleStepper:
        return {
            {phrase("In the bypass of the throttle, behind the filter. Its four wires in the order of its sheet: of "
                    "two that are exchanged it trembles and does not step.")},
            {},
            {},
            {}};
    default:
        return {
            {phrase("Close to what it works on, away from the exhaust, its ports marked before the hoses come off."),
             phrase("Fed over the relay that the key closes: the ECU switches its other side.")},
            {},
            {},
            {}};
    }
}

} // namespace vicegrip::brief
