#include "core/seating/compatibility.h"

#include "core/base/phrase.h"
#include "core/harness/edits.h"
#include "core/seating/drivers.h"

#include <algorithm>

namespace vicegrip::seating {
namespace {

using parts::InputMode;
using parts::SignalKind;
using units::Dimension;

/// A span is met within this share: 5 V into an input that reads to 5 V (typical tolerance of a supply).
constexpr double kSpanSlack = 0.02;

std::string roundVolts(double v)
{
    return units::formatNumber(v, v < 10 && v != static_cast<int>(v) ? 1 : 0) + " V";
}

std::string hertz(double hz)
{
    return hz >= 1000 ? units::formatNumber(hz / 1000, 1) + " kHz" : units::formatNumber(hz, 0) + " Hz";
}

/// What the circuit puts on the input at most, after a divider in the harness.
double voltsAtInput(const electrics::Wiring& wiring, const job::Circuit& circuit, const parts::Part& sensor)
{
    double series = 0, toGround = 0;
    const auto net = wiring.signalNet(circuit);
    for (const job::Resistor& r : wiring.job().resistors) {
        if (r.kind == job::ResistorKind::Series && net.contains(r.from))
            series += r.ohm;
        if (r.kind == job::ResistorKind::ToGround && net.contains(r.from))
            toGround = r.ohm;
    }
    const double share = toGround > 0 ? toGround / (toGround + series) : 1;
    return parts::mostVolts(sensor) * share;
}

Compatibility modeCompatibility(const parts::Part& sensor, const parts::EcuInput& input)
{
    switch (parts::signalOf(sensor)) {
    case SignalKind::Voltage:
        return input.takes(InputMode::Analog) ? Compatibility{}
                                              : Compatibility{Incompatibility::Mode, phrase("it measures no voltage")};
    case SignalKind::OnOff:
        return input.takes(InputMode::Switch) || input.takes(InputMode::Analog)
                   ? Compatibility{}
                   : Compatibility{Incompatibility::Mode, phrase("it cannot be set to a switch")};
    case SignalKind::Frequency:
        break;
    }
    if (!input.takes(InputMode::Frequency))
        return {Incompatibility::Mode, phrase("it counts no frequency")};
    if (parts::traitsOf(sensor).alternating && !input.variableReluctance)
        return {Incompatibility::Coil, phrase("it cannot read a coil's alternating voltage")};
    if (parts::mostHertz(sensor) > input.most_hz)
        return {Incompatibility::Frequency, phrase("it counts to {} and the sensor gives up to {}",
                                                   hertz(input.most_hz), hertz(parts::mostHertz(sensor)))};
    return {};
}

Compatibility voltsCompatibility(const electrics::Wiring& wiring, const job::Circuit& circuit,
                                 const parts::Part& sensor, const parts::EcuInput& input)
{
    if (parts::traitsOf(sensor).alternating)
        return {}; // the coil's own input clamps it
    const double most = voltsAtInput(wiring, circuit, sensor);
    if (most > input.withstands_v)
        return {Incompatibility::Damage, phrase("it withstands {} and the sensor puts out up to {}",
                                                roundVolts(input.withstands_v), roundVolts(most))};
    // Pulses and a switch's states need not be told apart beyond the span; a voltage must be.
    const SignalKind signal = parts::signalOf(sensor);
    const bool measured =
        signal == SignalKind::Voltage || (signal == SignalKind::OnOff && !input.takes(InputMode::Switch));
    if (most > input.span_v * (1 + kSpanSlack) && measured)
        return {Incompatibility::Volts,
                phrase("it reads to {} and the sensor puts out up to {}", roundVolts(input.span_v), roundVolts(most))};
    return {};
}

} // namespace

Compatibility kindCompatibility(const job::Circuit& circuit, const parts::Part& sensor, const parts::EcuInput& input)
{
    if (input.inside && input.inside->id != sensor.id)
        return {Incompatibility::Inside, phrase("it reads {} and nothing else", input.inside->name)};
    if (parts::isInside(sensor) && !input.inside)
        return {Incompatibility::Inside, phrase("the sensor is inside a unit, on an input of its own")};
    if (!input.functions.empty() && std::ranges::find(input.functions, circuit.function.value) == input.functions.end())
        return {Incompatibility::Function, phrase("the firmware uses it for {} only",
                                                  (input.name.empty() ? input.functions.front() : input.name))};
    return modeCompatibility(sensor, input);
}

Compatibility compatibility(const electrics::Wiring& wiring, const job::Circuit& circuit, const parts::EcuInput& input)
{
    const parts::Part* sensor = job::sensorOf(wiring.job(), circuit);
    if (sensor == nullptr)
        return {Incompatibility::Function, phrase("it reads, and the part is driven")};
    if (Compatibility kind = kindCompatibility(circuit, *sensor, input); !kind.compatible())
        return kind;
    if (parts::needsPullUp(*sensor) && !harness::suitingPullUp(input, true) && wiring.pullUp(circuit) == nullptr)
        return {Incompatibility::PullUp, phrase("it has no pull-up, and the {}",
                                                parts::pulsesOf(*sensor) ? phrase("open collector only pulls down")
                                                                         : phrase("sensor makes no voltage"))};
    return voltsCompatibility(wiring, circuit, *sensor, input);
}

std::vector<std::string> capabilities(const parts::EcuInput& input)
{
    std::vector<std::string> out;
    if (input.inside)
        return {input.inside->name};
    if (input.takes(InputMode::Analog))
        out.push_back("0–" + roundVolts(input.span_v));
    if (input.takes(InputMode::Frequency))
        out.push_back("to " + hertz(input.most_hz));
    if (input.variableReluctance)
        out.push_back(phrase("coil"));
    if (input.modes == std::vector{InputMode::Switch})
        out.push_back(phrase("switch"));
    std::vector<double> pullUps = input.pullUpChoices_ohm;
    if (pullUps.empty() && input.pull_up_ohm)
        pullUps.push_back(*input.pull_up_ohm);
    std::string text;
    for (double ohm : pullUps)
        text += (text.empty() ? "" : ", ") + units::formatOhms(ohm);
    if (!text.empty())
        out.push_back((input.pullUpFixed ? phrase("pull-up always ") : phrase("pull-up ")) + text);
    return out;
}

std::vector<std::string> demands(const parts::Part& sensor)
{
    if (const auto drive = parts::driveOf(sensor))
        return demandsOf(*drive);
    std::vector<std::string> out;
    if (parts::isInside(sensor))
        return {phrase("a hose")};
    if (parts::traitsOf(sensor).alternating)
        out.push_back(phrase("coil"));
    else if (parts::signalOf(sensor) == SignalKind::Frequency)
        out.push_back(phrase("to {}", hertz(parts::mostHertz(sensor))));
    else if (parts::signalOf(sensor) == SignalKind::OnOff)
        out.push_back(phrase("switch"));
    else if (parts::mostVolts(sensor) > 0)
        out.push_back(phrase("to {}", roundVolts(parts::mostVolts(sensor))));
    else
        out.push_back(phrase("resistance"));
    if (parts::needsPullUp(sensor))
        out.push_back(phrase("needs a pull-up"));
    if (sensor.feed == parts::Feed::SensorSupply && !parts::cavityOf(sensor, parts::PinRole::Supply).empty())
        out.push_back(units::format(parts::supplyAmps(sensor, 5), Dimension::Current, "mA", 1));
    return out;
}

} // namespace vicegrip::seating
