#pragma once

#include "app/look/look.h"
#include "core/brief/range.h"

#include <QWidget>

namespace vicegrip::app {

/// Candidate spans drawn against what the engine will show, on one pressure axis. Up and Down choose a candidate, Enter
/// asks for it to be fitted.
class RangeChart : public QWidget
{
    Q_OBJECT

  public:
    explicit RangeChart(QWidget* parent = nullptr);

    void show(const brief::Advice& advice, const QString& unit);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {400_px, sizeHint().height()}; }
    [[nodiscard]] const parts::Part* chosen() const;

  signals:
    void takeAsked();
    void chosenChanged();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    [[nodiscard]] double xOf(double pa) const;
    [[nodiscard]] int topOf(int row) const;
    void choose(int row);
    void describe();

    brief::Advice m_advice;
    QString m_unit;
    double m_low = 0, m_high = 1; ///< Pa at the ends of the axis
    int m_row = 0;
};

} // namespace vicegrip::app
