#pragma once

#include "core/base/result.h"
#include "core/circuit/solution.h"
#include "core/faults/fault_list.h"
#include "core/job/job.h"

#include <functional>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <tuple>
#include <vector>

/// A job as one electrical network, solved. The same network answers what the meter must read (proof), what the table
/// must say (scaling) and what the simulated car does (bench).
///
///     auto car = electrics::build(job, {.condition = Condition::KeyOn, .surroundings = job.surroundings});
///     car->voltmeter(PointRef::fromText("A.7"), PointRef::fromText("BAT-"), job.meter)   // 2.52 V +- 0.04 V
///
/// In this room: readings.h (what meters and inputs show of it, with bounds), answering.h (who clicks when an output is
/// switched on), wiring.h (the graph: which places lie between a pin and where its wire must end), unit_ways.h (what
/// feeds and grounds a unit), sensor_model.h (how a sensor's elements move with what it measures), builder.h,
/// part_in_network.h, battery.h and powered.h (inside: the network as it is built, a part's elements in it, what feeds
/// it and draws on it under a condition, and who has too little supply), netlist.h and, inside, deck.h (the same job as
/// a SPICE deck, written apart).
namespace vicegrip::electrics {

struct Situation
{
    job::Condition condition = job::Condition::KeyOn;
    job::Surroundings surroundings;
    std::map<job::CircuitId, double> measurands = {}; ///< of a sensor (SI), where that is not its rest
    faults::FaultList faults = {};
    std::optional<double> battery_v = {}; ///< of the battery, or the alternator, where that is not the job's own
    parts::OutputId clicked = {}; ///< an output that is on though the engine may stand; empty: none
    std::set<job::CircuitId> off =
        {}; ///< driven circuits whose output is off though the engine turns: a fan that rests
    std::set<job::CircuitId> pulling = {}; ///< switching outputs that are on: a tooth stands before their sensor
    bool keyOff = false; ///< the key is out, the battery on: what needs the key stands open
    bool bounded = true; ///< false: values are wanted, not how far a good car may be from them
};

/// A value with what bounds it and what it rests on.
struct Bounded
{
    double value = 0;
    double low = 0, high = 0; ///< what no good car is beyond: the worst corner of all tolerances (circuit/bounds.h)
    double sigma = 0; ///< root of the squares, first order
    std::vector<std::string> subjects; ///< fact subjects (job/facts.h) of the elements that move it noticeably
};

/// How far one thing may move an input's volts, by the derivative.
struct Share
{
    std::string subject; ///< a fact subject: "sensor clt", "supply", "wire w12"; or a cause: "track of tps"
    double worst = 0, sigma = 0; ///< V
};

/// One thing that moves several elements together: the ambient, a track's total resistance. For standard deviations:
/// bounds know what moves together from the network (circuit::Together).
struct Cause
{
    std::string name;
    double tolerance = 0;
    struct Share
    {
        circuit::ElementIndex element = 0;
        double slope = 0; ///< d(element value)/d(cause)
    };
    std::vector<Share> shares;
};

/// An ECU or an expander in the network.
struct UnitNodes
{
    circuit::Node ground = 0, supply = 0; ///< inside the unit
    circuit::ElementIndex supplySeries = 0; ///< carries the sensor supply's current
    bool powered = true;
};

/// An input in the network.
struct InputNodes
{
    circuit::Node converter = 0;
    size_t unit = 0; ///< index in Electrics::units
};

/// Where a circuit's sensor and input sit in the network.
struct CircuitElements
{
    std::vector<circuit::ElementIndex> varied; ///< as parts::elementValues lists them
    std::optional<InputNodes> input; ///< none with the ECU off, or without a seat
    std::optional<circuit::Node> sensorGround; ///< the sensor's own ground pin
    bool powered = true; ///< a device with its own supply has enough of it
    std::optional<double> pullUp_ohm; ///< of the resistor that the harness pulls its signal up with, as it is drawn
};

/// A job, solved. It does not change: any number of threads may ask it.
struct Electrics
{
    circuit::Solution solution;
    std::map<job::PointRef, circuit::Node> nodes; ///< harness side of each place
    std::map<job::CircuitId, CircuitElements> circuits;
    std::map<parts::InputId, InputNodes> inputs;
    std::vector<UnitNodes> units; ///< as job::units; none with the plugs off
    std::map<job::WireId, circuit::ElementIndex> wires;
    std::vector<Cause> causes;

    [[nodiscard]] std::optional<circuit::Node> node(const job::PointRef& point) const;

    /// One reading by itself; class Readings has the meaning. Whoever wants several makes one Readings for all of them.
    [[nodiscard]] std::optional<Bounded> voltmeter(const job::PointRef& red, const job::PointRef& black,
                                                   const job::Meter& meter) const;
    [[nodiscard]] std::optional<Bounded> ohmmeter(const job::PointRef& red, const job::PointRef& black) const;
    [[nodiscard]] std::optional<Bounded> inputVolts(const job::Job& job, const job::Circuit& circuit) const;

    /// Whether the ECU reads this circuit's input: it has a seat on a unit that has power, and for a ratiometric one a
    /// supply.
    [[nodiscard]] bool reads(const job::Job& job, const job::Circuit& circuit) const;

    /// The current a unit's sensor supply delivers, A.
    [[nodiscard]] double supplyCurrent(size_t unit) const;

    /// The current along a wire, from its `from` to its `to`, A; 0 for one that is not there.
    [[nodiscard]] double wireCurrent(const job::WireId& wire) const;
};

/// Builds and solves. Devices with too little supply are switched off and the network solved again.
/// Errors: those of circuit::solve.
[[nodiscard]] Result<Electrics> build(const job::Job& job, const Situation& situation);

/// The volts at a place while an open collector is off and on.
struct PulseLevels
{
    double high_v = 0, low_v = 0;
    bool operator==(const PulseLevels&) const = default;
    /// Whether an input with the usual thresholds counts it: above 2.0 V and below 0.8 V (the levels of TTL, JESD 8-5
    /// for 5 V parts; from memory).
    [[nodiscard]] bool swings() const { return high_v > 2.0 && low_v < 0.8; }
};
/// At the circuit's input; none with the ECU off or without a seat. A device without supply does not pull.
[[nodiscard]] std::optional<PulseLevels> pulseLevels(const Electrics& car, const job::Circuit& circuit,
                                                     const parts::PulseOutput& output);
/// Between two places of the harness; none where one of them is not in the network.
[[nodiscard]] std::optional<PulseLevels> pulseLevels(const Electrics& car, const job::Circuit& circuit,
                                                     const parts::PulseOutput& output, const job::PointRef& red,
                                                     const job::PointRef& black);

/// Volts of full scale that the converter's counts stand for, and of one count.
[[nodiscard]] double fullScaleVolts(const job::Job& job, const parts::EcuInput& input);
[[nodiscard]] double countVolts(const job::Job& job, const parts::EcuInput& input);

} // namespace vicegrip::electrics
