#include "core/findings/drive_checks.h"

#include "core/base/phrase.h"
#include "core/seating/drivers.h"

namespace vicegrip::findings {
namespace {

using parts::DriverKind;
using seating::Incompatibility;

struct DriveRule
{
    std::string_view rule;
    std::string why, todo;
};

DriveRule wrongDriver(const parts::Drive& drive)
{
    switch (drive.driver) {
    case DriverKind::Ignition:
        return {"coil-without-driver",
                phrase("A signal output gives milliamperes: the coil stays dead, or the output burns."),
                phrase("Put an ignition module between, take coils with drivers of their own, or an ignition output.")};
    case DriverKind::IgnitionLogic:
        return {
            "logic-coil-switched",
            phrase(
                "A switch to ground makes no voltage: the coil never fires. With a pull-up it is on while the switch "
                "is off, and burns."),
            phrase("Use a logic output.")};
    case DriverKind::PeakAndHold:
        return {"injector-low-resistance",
                phrase("A plain driver lets the full current through for as long as the injector is open, and burns."),
                phrase("Use a peak-and-hold output, or fit a resistor in series with each injector.")};
    default:
        return {"driver-kind", phrase("This output cannot switch it, whatever the firmware is told."),
                phrase("Seat it on an output of its kind: those that take it are at Inputs.")};
    }
}

DriveRule driveRuleOf(Incompatibility kind, const parts::Drive& drive)
{
    switch (kind) {
    case Incompatibility::Current:
        return {"driver-current", phrase("The output switches itself off, or burns."),
                phrase("Let the output switch a relay, or a driver module, and that the current.")};
    case Incompatibility::Frequency:
        return {"driver-frequency", phrase("Switched too slowly it is on and off, and nothing between."),
                phrase("Seat it on an output that is fast enough.")};
    case Incompatibility::Volts:
        return {"driver-volts", phrase("The signal never counts as on."),
                phrase("Use a logic output that puts out enough, or one with a pull-up.")};
    case Incompatibility::Clamp:
        return {"driver-unclamped",
                phrase("Switched off, the coil drives its current on: the voltage rises until something breaks down."),
                phrase("Take a part with a diode or a resistor across its coil, or fit one.")};
    case Incompatibility::Function:
        return {"output-function", phrase("The firmware drives something else there."),
                phrase("Seat it on an output that is free, or on the one meant for it.")};
    default:
        return wrongDriver(drive);
    }
}

} // namespace

void checkDrive(std::vector<Finding>& out, const job::Circuit& circuit, const electrics::Wiring& wiring)
{
    const job::Job& job = wiring.job();
    const parts::Part* part = job::actuatorOf(job, circuit);
    if (part == nullptr)
        return;
    const parts::EcuOutput* output = job::findOutput(job, circuit.output);
    if (output == nullptr) {
        const bool required = circuit.want == job::Want::Required;
        out.push_back({"unseated", required ? Severity::Stop : Severity::Note, circuit.id,
                       phrase("{} has no output on the ECU", circuit.name),
                       required                ? phrase("The engine cannot be run without it.")
                       : parts::isOnBus(*part) ? phrase("It hangs on no bus.")
                                               : phrase("Nothing drives it."),
                       phrase("Seat it at Inputs; why an output does not take it stands beside it.")});
        return;
    }
    const parts::Part seen = *seating::asDriven(wiring, circuit);
    const auto fits = seating::compatibility(job, circuit, seen, *output);
    if (fits.compatible())
        return;
    const DriveRule rule = driveRuleOf(fits.kind, *parts::driveOf(seen));
    out.push_back({std::string(rule.rule), Severity::Stop, circuit.id,
                   phrase("{} on output {}: {}", circuit.name, circuit.output.value, fits.reason), rule.why,
                   rule.todo});
}

} // namespace vicegrip::findings
