#include "core/seating/drivers.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>

namespace vicegrip::seating {
namespace {

using parts::DriverKind;
using parts::OutputKind;
using units::Dimension;

std::string amps(double a)
{
    return a < 0.1 ? units::format(a, Dimension::Current, "mA", a < 0.01 ? 1 : 0)
                   : units::format(a, Dimension::Current, "A", a < 10 ? 1 : 0);
}

std::string rate(double hz)
{
    return units::formatNumber(hz, 0) + " Hz";
}

/// The kinds of output that can drive it, the one made for it first. Which side switches follows from where its other
/// end goes.
std::vector<OutputKind> driversFor(const parts::Part& part, const parts::Drive& drive)
{
    const bool fed = !parts::cavityOf(part, parts::PinRole::Supply).empty();
    switch (drive.driver) {
    case DriverKind::Switched:
        return fed ? std::vector{OutputKind::LowSide, OutputKind::HalfBridge}
                   : std::vector{OutputKind::HighSide, OutputKind::HalfBridge};
    case DriverKind::Logic: // a pull-up makes volts of a switch to ground
        return {OutputKind::Logic, OutputKind::LowSide};
    case DriverKind::Injector:
        return {OutputKind::Injector, OutputKind::PeakAndHold, OutputKind::LowSide};
    case DriverKind::PeakAndHold:
        return {OutputKind::PeakAndHold};
    case DriverKind::Ignition:
        return {OutputKind::Ignition};
    case DriverKind::IgnitionLogic:
        return {OutputKind::Logic};
    case DriverKind::Pair:
        return {OutputKind::HalfBridge};
    case DriverKind::Stepper:
        return {OutputKind::Stepper, OutputKind::HalfBridge};
    case DriverKind::Bus:
        return {OutputKind::Bus};
    }
    return {};
}

std::string wrongKind(const parts::Drive& drive)
{
    switch (drive.driver) {
    case DriverKind::Ignition:
        return phrase("a coil without a driver needs an output that carries its primary current");
    case DriverKind::IgnitionLogic:
        return phrase("a coil with its own driver needs a logic signal: a switch to ground is none");
    case DriverKind::PeakAndHold:
        return phrase("low-resistance injectors need peak and hold, or a resistor each");
    case DriverKind::Pair:
        return phrase("a motor that turns both ways needs a pair of half bridges");
    case DriverKind::Stepper:
        return phrase("a stepper needs four outputs that step together");
    case DriverKind::Bus:
        return phrase("a bus device talks over a CAN port");
    default:
        return phrase("it is no driver of this kind");
    }
}

Compatibility electrically(const parts::Drive& drive, const parts::EcuOutput& output)
{
    const bool logic = output.can(OutputKind::Logic) && drive.takesLogic();
    if (!logic && drive.amps > output.most_a)
        return {Incompatibility::Current,
                phrase("it carries {} and the part takes {}", amps(output.most_a), amps(drive.amps))};
    if (drive.most_hz > 0 && output.most_hz < drive.most_hz)
        return {Incompatibility::Frequency,
                output.most_hz > 0
                    ? phrase("it switches up to {} and the part needs {}", rate(output.most_hz), rate(drive.most_hz))
                    : phrase("it only switches on and off, and the part needs {}", rate(drive.most_hz))};
    if (drive.takesLogic() && !(logic && output.high_v >= drive.least_v) && !output.pull_up_ohm)
        return {Incompatibility::Volts,
                logic ? phrase("it puts out {} V and the part needs {} V", units::formatNumber(output.high_v, 1),
                               units::formatNumber(drive.least_v, 1))
                      : phrase("it has no pull-up that would make volts of it")};
    if (drive.kicks && !output.clamped)
        return {Incompatibility::Clamp, phrase("nothing takes the coil's kick when it switches off")};
    return {};
}

/// The circuit by which this port hangs on another unit's bus, or null.
const job::Circuit* joinedBy(const job::Job& job, const parts::EcuOutput& port)
{
    const auto pair = job::cavitiesOf(job, port.id);
    for (const job::Circuit& c : job.circuits) {
        const parts::Part* part = job::partOf(job, c);
        if (part != nullptr && parts::isPort(*part) && !c.output.empty() &&
            pair.front() ==
                job::PointRef{job::find(job, c.device)->connector, parts::cavityOf(*part, parts::PinRole::Signal)})
            return &c;
    }
    return nullptr;
}

} // namespace

std::optional<parts::Part> asDriven(const electrics::Wiring& wiring, const job::Circuit& circuit)
{
    const parts::Part* part = job::actuatorOf(wiring.job(), circuit);
    if (part == nullptr)
        return std::nullopt;
    return parts::windingOhm(*part) ? parts::behindResistor(*part, wiring.seriesOhm(circuit)) : *part;
}

Compatibility compatibility(const job::Circuit& circuit, const parts::Part& part, const parts::EcuOutput& output,
                            size_t cavities)
{
    if (!output.functions.empty() &&
        std::ranges::find(output.functions, circuit.function.value) == output.functions.end())
        return {Incompatibility::Function, phrase("the firmware uses it for {} only",
                                                  (output.name.empty() ? output.functions.front() : output.name))};
    const auto drive = parts::driveOf(part);
    if (!drive)
        return {Incompatibility::Driver, phrase("it drives, and the part is read")};
    const auto kinds = driversFor(part, *drive);
    if (std::ranges::none_of(kinds, [&](OutputKind k) { return output.can(k); }))
        return {Incompatibility::Driver, wrongKind(*drive)};
    if (cavities != parts::signalRoles(part).size())
        return {Incompatibility::Driver, phrase("it has {} cavities and the part {} signals", std::to_string(cavities),
                                                std::to_string(parts::signalRoles(part).size()))};
    if (parts::isVehicleNetwork(part) && output.functions.empty())
        return {Incompatibility::Function, phrase("the firmware does not know the vehicle's messages")};
    return electrically(*drive, output);
}

Compatibility compatibility(const job::Job& job, const job::Circuit& circuit, const parts::Part& part,
                            const parts::EcuOutput& output)
{
    if (parts::isPort(part) && job::isAtUnitOf(job, circuit, output.id))
        return {Incompatibility::Driver, phrase("it is a bus of the same unit")};
    if (output.isShared() && parts::isOnBus(part))
        if (const job::Circuit* joined = joinedBy(job, output))
            return {Incompatibility::Driver, phrase("it hangs on {} itself", joined->output.value)};
    return compatibility(circuit, part, output, job::cavitiesOf(job, output.id).size());
}

int detour(const parts::Part& part, const parts::EcuOutput& output)
{
    const auto drive = parts::driveOf(part);
    const auto kinds = drive ? driversFor(part, *drive) : std::vector<OutputKind>{};
    const auto first = std::ranges::find_if(kinds, [&](OutputKind k) { return output.can(k); });
    return static_cast<int>(first - kinds.begin());
}

std::vector<std::string> capabilities(const parts::EcuOutput& output)
{
    std::vector<std::string> out;
    for (const OutputKind kind : output.drives)
        out.push_back(phrase(fields::enumName(kind)));
    if (output.isShared()) {
        out.push_back(output.terminator_ohm > 0 ? phrase("terminated") : phrase("no terminator"));
        return out;
    }
    out.push_back(output.can(OutputKind::Logic) ? units::formatNumber(output.high_v, 0) + " V" : amps(output.most_a));
    if (output.most_hz > 0)
        out.push_back(phrase("to {}", rate(output.most_hz)));
    if (output.pull_up_ohm)
        out.push_back(phrase("pull-up ") + units::formatOhms(*output.pull_up_ohm));
    return out;
}

std::vector<std::string> demandsOf(const parts::Drive& drive)
{
    constexpr std::array kWords = {key("switched"),         key("logic"),         key("injector"),
                                   key("peak and hold"),    key("coil"),          key("logic"),
                                   key("half-bridge pair"), key("stepper group"), key("CAN port")};
    std::vector<std::string> out = {phrase(kWords[static_cast<size_t>(drive.driver)])};
    if (drive.driver == DriverKind::Bus)
        return out;
    out.push_back(amps(drive.amps));
    if (drive.start_a > drive.amps)
        out.push_back(phrase("{} at the start", amps(drive.start_a)));
    if (drive.most_hz > 0)
        out.push_back(phrase("to {}", rate(drive.most_hz)));
    return out;
}

} // namespace vicegrip::seating
