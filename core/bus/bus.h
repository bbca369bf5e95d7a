#pragma once

#include "core/electrics/wiring.h"
#include "core/job/job.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

/// The CAN buses of a job as they lie: who hangs on them in which order, where they end, and what closes them. A bus is
/// a line with a terminator at each end, and everything else close to it (ISO 11898-2, from memory).
namespace vicegrip::bus {

/// Who hangs on a bus: a port of a unit, or the device of a circuit.
struct Node
{
    std::string name;
    job::CircuitId circuit; ///< empty: a unit
    job::PointRef high; ///< its cavity
    double along_m = 0; ///< from the bus's first end to where it leaves the line
    double stub_m = 0; ///< from the line to its plug
};

/// What closes a bus: inside a node, or a resistor of the harness.
struct Terminator
{
    std::string name; ///< of the node, or of the resistor
    job::PointRef at; ///< on the high wire
    double ohm = 0;
    std::array<double, 2> apart_m{}; ///< from the line's first end, and from its last
};

struct Bus
{
    parts::OutputId port;
    std::vector<Node> nodes; ///< along the line; its first and last stand at its ends. Two at least
    std::vector<Terminator> terminators;
    double length_m = 0; ///< of the line
    double ohm = 0; ///< of all terminators together; infinite without one
    std::array<std::optional<size_t>, 2> open; ///< the nodes at whose end nothing closes it
    std::vector<size_t> within; ///< terminators at neither end
};

/// Every bus that two or more hang on, in the order of the units.
[[nodiscard]] std::vector<Bus> buses(const job::Job& job);

/// "ECU (120 Ω), 1.5 m, Wideband, 0.6 m, Display (120 Ω): 60 Ω across".
[[nodiscard]] std::string orderText(const Bus& bus);

} // namespace vicegrip::bus
