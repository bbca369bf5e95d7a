#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "app/stages/scale/budget_place.h"

#include <QWidget>

#include <map>
#include <vector>

class QLabel;

namespace vicegrip::app {

class BudgetBars;
class BudgetChart;
class TypedField;

/// How wrong the value can be at a place, part by part, over the range, and what it costs in mixture.
class BudgetView : public QWidget
{
    Q_OBJECT

  public:
    explicit BudgetView(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    /// Of a circuit of an analysis, over its range.
    struct OverRange
    {
        AnalysisPtr analysis;
        job::CircuitId circuit;
        job::Condition turning = job::Condition::Running;
        std::vector<scaling::Budget> budgets;
    };
    [[nodiscard]] job::Condition turning() const;
    void showRange(const OverRange& over);
    void showAt(double value);
    void showPlace(const BudgetPlace& at);
    void nothing(const QString& why);

    Desk& m_desk;
    AnalysisPtr m_analysis;
    std::map<job::CircuitId, double> m_at; ///< the place last looked at, by circuit
    TypedField* m_place;
    QLabel *m_when, *m_worst, *m_sigma, *m_mixture, *m_how;
    BudgetBars* m_bars;
    BudgetChart* m_chart;
    job::CircuitId m_charted; ///< whose budgets the chart shows
    Worked<OverRange> m_range{[this](const OverRange& over) { showRange(over); }};
    Worked<BudgetPlace> m_atPlace{[this](const BudgetPlace& at) { showPlace(at); }};
};

} // namespace vicegrip::app
