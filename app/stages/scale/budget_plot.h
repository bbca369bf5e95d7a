#pragma once

#include "core/parts/part.h"
#include "core/scaling/budget.h"

#include <QWidget>

#include <vector>

namespace vicegrip::app {

/// The parts of one budget as bars: worst case long, standard deviation as a mark in it.
class BudgetBars : public QWidget
{
    Q_OBJECT

  public:
    explicit BudgetBars(QWidget* parent = nullptr);

    /// `spoken` says what weighs most in each part, in the order of the parts.
    void show(const scaling::Budget& budget, const parts::Part& sensor, const QStringList& spoken);
    void clear();

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Row
    {
        QString name, worst, most;
        double share = 0, sigma = 0; ///< of the widest bar
    };
    std::vector<Row> m_rows;
};

/// Worst cases over the range, the parts stacked; a place is chosen by click or by Left and Right.
class BudgetChart : public QWidget
{
    Q_OBJECT

  public:
    explicit BudgetChart(QWidget* parent = nullptr);

    void show(std::vector<scaling::Budget> budgets, const parts::Part& sensor, double chosen);
    void clear();

  signals:
    void chosen(double value); ///< SI

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    [[nodiscard]] QRect field() const;
    void choose(int column);

    std::vector<scaling::Budget> m_budgets;
    parts::Part m_sensor;
    int m_chosen = -1;
};

} // namespace vicegrip::app
