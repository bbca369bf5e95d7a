#pragma once

#include "core/scaling/table.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

/// How wrong the value that the ECU shows can be, part by part, from the metal to the number, and what it costs in
/// mixture.
namespace vicegrip::scaling {

/// What can be wrong, in the order of the signal.
enum class BudgetPart {
    Sensor, ///< the sensor's own tolerance
    Supply, ///< the sensor supply's tolerance, where the input does not divide by it, and the battery's
    Wiring, ///< wires, contacts and grounds, with what running consumers put on a shared ground
    PullUp, ///< pull-up, pull-down and series resistors of the input, and external ones
    Counts, ///< one step of the converter
    Table ///< straight lines between its points, or its formula, and rounding: the worst where the others may lead to
};
inline constexpr size_t kBudgetParts = 6;
[[nodiscard]] std::string_view partName(BudgetPart part);

struct BudgetLine
{
    BudgetPart part = BudgetPart::Sensor;
    double worst = 0; ///< SI of the value: how far this part alone moves what is shown, everything else as drawn
    double sigma = 0; ///< standard deviation; rectangular from the tolerance (JCGM 100:2008, 4.3.7)
    std::string most; ///< what weighs most in it, as a fact subject; empty: nothing does
};

/// "± 1.9 °C": an error of a sensor's value, from SI, with as many decimals as it deserves.
[[nodiscard]] std::string errorText(const parts::Part& sensor, double si);

/// What an error does to the fuel, for sensors that enter the fuelling.
struct MixtureCost
{
    double worst = 0, sigma = 0; ///< shares of the fuel
    std::string how; ///< "fuel follows the pressure: dm/m = dp/p"
    /// Lambda where the ECU means 1.00 and the worst case is rich or lean of it.
    [[nodiscard]] double richest() const { return 1 / (1 + worst); }
    [[nodiscard]] double leanest() const { return 1 / (1 - worst); }
};

struct Budget
{
    double value = 0; ///< SI: the measurand
    double reading = 0; ///< what the input shows then, V or Hz
    double shown = 0; ///< what the table makes of it, nominally
    std::array<BudgetLine, kBudgetParts> lines;
    double worst = 0; ///< all parts at their worst together: no good car shows more. Not the lines' sum: what one part
                      ///< does depends on where the others are
    double ahead = 0; ///< the same of sensor, circuit and converter, whatever table there is
    double sigma = 0; ///< root of the squares
    std::optional<MixtureCost> mixture;
};

/// The budget at the measurand `value`. The network is solved there at rest and with an engine that turns, `turning`
/// saying how: cranking or running, with consumers that may draw or not. What differs is the ground's part, and the
/// supply's where the battery moves the input: it is charged while the engine runs. Every worst case is the input's
/// range at the worst corner of what moves it (circuit/bounds.h), one count more to either side, through the table. A
/// frequency forgives supply, wiring and pull-up: what is left is the sensor, the counter and the table. Errors
/// (Reference): the circuit has no seat or no sensor; (Range): the value is outside the table's range, the signal
/// stands for no value, the input does not move there; those of electrics::build.
[[nodiscard]] Result<Budget> budgetAt(const job::Job& job, const job::Circuit& circuit, const Table& table,
                                      double value, job::Condition turning = job::Condition::Running);

/// Budgets at `places` values evenly over the range, ends a little inside. Places without one are left out.
[[nodiscard]] std::vector<Budget> budgetOver(const job::Job& job, const job::Circuit& circuit, const Table& table,
                                             int places, job::Condition turning = job::Condition::Running);

} // namespace vicegrip::scaling
