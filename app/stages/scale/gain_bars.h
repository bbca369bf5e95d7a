#pragma once

#include "core/parts/part.h"
#include "core/scaling/table.h"

#include <QWidget>

namespace vicegrip::app {

/// The table's worst error as a bar, beneath that of as many evenly spaced points.
class GainBars : public QWidget
{
    Q_OBJECT

  public:
    explicit GainBars(QWidget* parent = nullptr);

    /// `chosen`: the points were placed, so that there is something to compare.
    void show(const scaling::Table& table, const parts::Part& sensor, bool chosen);
    void clear();
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Bar
    {
        QString name, number;
        double share = 0;
        bool strong = false;
    };
    std::vector<Bar> m_bars;
};

} // namespace vicegrip::app
