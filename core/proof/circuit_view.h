#pragma once

#include "core/proof/verdict.h"
#include "core/scaling/table.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

/// What stands of one circuit: its places under each condition with what was read, its table, and how far it is.
namespace vicegrip::proof {

/// How far the value and what is read of it go from one end of the circuit's range to the other.
struct Travel
{
    double value = 0; ///< SI
    double reading = 0; ///< V or Hz
};

struct CircuitView
{
    job::CircuitId id;
    /// Signal from sensor to value, then supply, then ground. With the engine turning only where somebody has read.
    std::map<job::Condition, std::vector<Standing>> stations;
    std::optional<scaling::Table> table;
    std::string tableTrouble; ///< why there is none
    scaling::Thresholds thresholds; ///< beyond them the ECU should take the input for failed
    std::optional<Travel> travel; ///< none: there is no reading
    State pins = State::Untouched; ///< every cavity on its way, from the plug to the ECU
    State meter = State::Untouched;
    State scale = State::Untouched;
};

/// What is shown for this circuit under this condition; empty when there is nothing.
[[nodiscard]] const std::vector<Standing>& stations(const CircuitView& view, job::Condition condition);

/// The station to probe next: the first needed one that is not proved, else the first untouched; -1 when all is done.
[[nodiscard]] int nextStation(const std::vector<Standing>& stations);

} // namespace vicegrip::proof
