#pragma once

#include "core/parts/pin_role.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

/// What a part puts between its terminals, told to whoever draws up a network or a deck for another program.
namespace vicegrip::parts {

/// One number for each of a sensor's varied elements; a sensor has at most two.
using ElementValues = std::array<double, 2>;

/// The least and the most a part's first varied element may be.
struct ElementRange
{
    double least = 0, most = 0;
};

/// What the part is at.
struct PartState
{
    double value = 0, low = 0, high = 0; ///< what a sensor measures, SI, and between which values that may be
    bool keyOn = true; ///< with the key off nothing drives an output
    bool running = false; ///< what the ECU drives is at work
    double series_ohm = 0; ///< before an actuator, in the harness
    bool pulls = false; ///< a switching output is on: a tooth stands before its sensor
};

/// Takes elements down. Nodes and elements are numbered by whoever takes them.
class ElementSink
{
  public:
    using Node = int;
    using Index = int;
    ElementSink() = default;
    ElementSink(const ElementSink&) = delete;
    ElementSink& operator=(const ElementSink&) = delete;
    virtual ~ElementSink() = default;

    /// The inner side of a terminal. One without a ground terminal returns through whatever it is bolted to; one
    /// without a supply terminal is fed by nothing.
    virtual Node at(PinRole role) = 0;
    virtual Node inside() = 0; ///< a new node within the part
    virtual Index resistor(Node a, Node b, double ohm, double within = 0) = 0;
    virtual Index volts(Node plus, Node minus, double volts, double within) = 0;
    /// `share` of the volts between `high` and `low`, above `low`.
    virtual Index shareOf(Node out, Node high, Node low, double share, double within) = 0;
};

/// What was put in, for whoever sweeps or bounds it.
struct Laid
{
    std::vector<ElementSink::Index> varied = {}; ///< as the part's values are listed
    std::optional<double> least_supply_v = {}; ///< below it the part puts nothing out
    std::optional<ElementSink::Index> source = {}; ///< what is 0 then
    double jointTolerance = 0; ///< of one thing that moves all varied elements, in its unit
    std::vector<double> jointSlopes = {}; ///< d(element value)/d(that thing)
    std::vector<std::vector<double>> jointSettings = {}; ///< values they may take together, as extremes
};

/// Writes a part's lines of a SPICE deck. What a kind writes here shares no code with the elements it lays, so that the
/// two can be held against each other.
class DeckPen
{
  public:
    DeckPen() = default;
    DeckPen(const DeckPen&) = delete;
    DeckPen& operator=(const DeckPen&) = delete;
    virtual ~DeckPen() = default;

    [[nodiscard]] virtual std::string at(PinRole role) = 0; ///< as ElementSink::at
    [[nodiscard]] virtual std::string fresh() = 0;
    virtual void resistor(const std::string& a, const std::string& b, double ohm) = 0;
    /// A source of the expression's volts above the ground terminal, behind a resistance, on a terminal.
    virtual void output(const std::string& volts, double out_ohm, PinRole terminal = PinRole::Signal) = 0;
};

} // namespace vicegrip::parts
