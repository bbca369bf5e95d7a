#pragma once

#include "app/store/job_store.h"
#include "core/scaling/budget.h"

namespace vicegrip::app {

/// The error budget at one place of a circuit's range, with what it was worked out for: the window goes on meanwhile.
struct BudgetPlace
{
    AnalysisPtr analysis;
    job::CircuitId circuit;
    double value = 0; ///< the measurand, SI
    job::Condition turning = job::Condition::Running; ///< how the engine turns
    Result<scaling::Budget> budget;
};

/// Solves the network: not for the window's thread.
[[nodiscard]] BudgetPlace budgetPlace(const AnalysisPtr& analysis, const job::CircuitId& circuit, double value,
                                      job::Condition turning = job::Condition::Running);

} // namespace vicegrip::app
