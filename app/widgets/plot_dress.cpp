#include "app/widgets/plot_dress.h"

#include "app/look/look.h"

namespace vicegrip::app {

void dressAxis(QCPAxis* axis, bool numbers)
{
    const auto& c = look::colours();
    axis->setBasePen(QPen(c.inkSoft, 1));
    axis->setTickPen(QPen(c.inkSoft, 1));
    axis->setSubTickPen(Qt::NoPen);
    axis->setTickLabelColor(c.ink);
    axis->setTickLabelFont(look::numbers(look::Size::Small));
    axis->setLabelColor(c.inkSoft);
    axis->setLabelFont(look::textFont(look::Size::Small));
    axis->setTickLabels(numbers);
    axis->grid()->setPen(QPen(c.line, 1));
    axis->grid()->setZeroLinePen(QPen(c.inkSoft, 1));
}

QCustomPlot* barePlot()
{
    auto* plot = new QCustomPlot;
    plot->setFocusPolicy(Qt::NoFocus);
    plot->plotLayout()->clear();
    return plot;
}

} // namespace vicegrip::app
