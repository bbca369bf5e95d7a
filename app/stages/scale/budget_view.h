#pragma once

#include "app/desk/desk.h"

#include <QWidget>

#include <map>

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
    void showAt(double value);
    void nothing(const QString& why);

    Desk& m_desk;
    AnalysisPtr m_analysis;
    std::map<job::CircuitId, double> m_at; ///< the place last looked at, by circuit
    TypedField* m_place;
    QLabel *m_worst, *m_sigma, *m_mixture, *m_how;
    BudgetBars* m_bars;
    BudgetChart* m_chart;
};

} // namespace vicegrip::app
