#pragma once

#include "core/base/phrase.h"
#include "core/base/result.h"
#include "core/parts/elements.h"

#include <algorithm>
#include <array>
#include <string_view>

/// What every kind of device answers, so that nobody has to ask which kind it is.
///
/// A kind is a structure in kinds/, with its numbers as members, and these of its own:
///
///     static constexpr std::string_view kName;      // in files
///     static constexpr KindTraits kTraits;          // what it asks of its seat
///     static constexpr std::array kKeys;            // the lines that describe it
///     Laid lay(ElementSink&, const Part&, const PartState&) const;   // what it puts between its terminals
///     void write(DeckPen&, const Part&, const PartState&) const;     // the same, written apart
///     void readLine(PartLines&, const Line&, const Part&);
///     std::string lines(const Part&) const;
///
/// and of these what differs from the answer that part.cpp has for everybody: values, kinks, around, check,
/// setTolerance, setDraw, span, setSpan, mostVolts, needsPullUp, supplyOhm, isBent, mostHertz, pulses, hertz, drive.
/// models.h lists the kinds: a new one is its file and a line there.
namespace vicegrip::parts {

struct Part;
struct Line;
class PartLines;

/// How the ECU must take a signal: as a voltage, a frequency, or on and off.
enum class SignalKind { Voltage, Frequency, OnOff };

/// What an output must be able to do for an actuator.
enum class DriverKind {
    Switched, ///< a low or high side that carries its current
    Logic, ///< a voltage for electronics
    Injector, ///< a low side made for injectors
    PeakAndHold, ///< an injector driver that opens with a high current and holds with a low one
    Ignition, ///< a coil's primary
    IgnitionLogic, ///< a coil's own driver
    Pair, ///< two half bridges
    Stepper, ///< four outputs that step together
    Bus ///< the pair of a CAN bus, which others share
};

/// Volts of a charging battery: what currents are reckoned at (typical).
inline constexpr double kCharging_v = 14.4;

/// What an actuator asks of the output that drives it.
struct Drive
{
    DriverKind driver = DriverKind::Switched;
    double amps = 0; ///< at work, as much as a good part takes at 14.4 V
    double start_a = 0; ///< at the moment it is switched on, where that is more
    double supply_a = 0; ///< what its own supply feeds it with at work, where a signal only commands it
    double most_hz = 0; ///< how often it is switched; 0: on and off
    bool kicks = false; ///< its coil drives the current on when it is switched off: something must clamp that
    double least_v = 0; ///< what a logic signal must reach; 0: none

    /// Whether a voltage commands it, and not a current.
    [[nodiscard]] bool takesLogic() const { return least_v > 0; }
};

struct KindTraits
{
    std::string_view words; ///< what it is, for people; {} stands for the volts it puts out
    SignalKind signal = SignalKind::Voltage;
    bool passive = false; ///< it makes no voltage of its own: it can be measured in Ohm
    bool pulledUp = false; ///< its signal needs a pull-up to become a voltage
    bool supplied = false; ///< it needs a supply pin
    bool bent = false; ///< its curve is no straight line
    bool alternating = false; ///< a coil whose voltage changes its sign
    bool contact = false; ///< a switch, to ground or to supply
    bool ownVolts = false; ///< its output follows no supply
    bool driven = false; ///< an actuator: the ECU drives it and reads nothing
    bool pair = false; ///< signal and signal-2 are the twisted pair of a bus
    int signalPins = 1; ///< terminals that the ECU reads or drives, at least
};

/// An output along the sensor's range.
struct OutputSpan
{
    double low_v = 0, high_v = 0; ///< at the ends of the range
    double tolerance = 0; ///< share of the span
    double at_supply_v = 0; ///< the supply these volts are a share of; 0: of none
    bool straight = true; ///< a straight line between the ends
};

/// A transistor that pulls the signal down, at a rate.
struct PulseOutput
{
    double on_ohm = 0, off_ohm = 0;
    double tolerance = 0; ///< of the rate
};

} // namespace vicegrip::parts
