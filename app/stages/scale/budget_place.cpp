#include "app/stages/scale/budget_place.h"
#include "core/base/phrase.h"

namespace vicegrip::app {

BudgetPlace budgetPlace(const AnalysisPtr& analysis, const job::CircuitId& circuit, double value,
                        job::Condition turning)
{
    const job::Circuit* c = job::find(*analysis->job, circuit);
    const auto* view = analysis::find(*analysis, circuit);
    if (c == nullptr || view == nullptr || !view->table)
        return {analysis, circuit, value, turning, fail(ErrorCode::Reference, phrase("there is no table"))};
    return {analysis, circuit, value, turning, scaling::budgetAt(*analysis->job, *c, *view->table, value, turning)};
}

} // namespace vicegrip::app
