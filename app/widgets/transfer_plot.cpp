#include "app/widgets/transfer_plot.h"

#include "app/desk/desk.h"
#include "app/look/look.h"

#include <QVBoxLayout>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#pragma GCC diagnostic ignored "-Wshadow"
#include <qcustomplot.h>
#pragma GCC diagnostic pop

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr int kErrorHeight = 110;

void dressAxis(QCPAxis* axis, bool numbers)
{
    const auto& c = look::colours();
    axis->setBasePen(QPen(c.inkSoft, 1));
    axis->setTickPen(QPen(c.inkSoft, 1));
    axis->setSubTickPen(Qt::NoPen);
    axis->setTickLabelColor(c.ink);
    axis->setTickLabelFont(look::numbers(look::Size::Small));
    axis->setLabelColor(c.inkSoft);
    axis->setLabelFont(look::words(look::Size::Small));
    axis->setTickLabels(numbers);
    axis->grid()->setPen(QPen(c.line, 1));
    axis->grid()->setZeroLinePen(QPen(c.inkSoft, 1));
}

} // namespace

TransferPlot::TransferPlot(QWidget* parent) : QWidget(parent), m_plot(new QCustomPlot)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_plot);
    m_plot->setFocusPolicy(Qt::NoFocus);
    m_plot->plotLayout()->clear();
    auto* top = new QCPAxisRect(m_plot);
    auto* bottom = new QCPAxisRect(m_plot);
    bottom->setMinimumSize(0, kErrorHeight);
    bottom->setMaximumSize(QWIDGETSIZE_MAX, kErrorHeight);
    m_plot->plotLayout()->addElement(0, 0, top);
    m_plot->plotLayout()->addElement(1, 0, bottom);
    auto* margins = new QCPMarginGroup(m_plot);
    for (QCPAxisRect* r : {top, bottom})
        r->setMarginGroup(QCP::msLeft | QCP::msRight, margins);
    m_curve = m_plot->addGraph(top->axis(QCPAxis::atBottom), top->axis(QCPAxis::atLeft));
    m_table = m_plot->addGraph(top->axis(QCPAxis::atBottom), top->axis(QCPAxis::atLeft));
    m_now = m_plot->addGraph(top->axis(QCPAxis::atBottom), top->axis(QCPAxis::atLeft));
    m_error = m_plot->addGraph(bottom->axis(QCPAxis::atBottom), bottom->axis(QCPAxis::atLeft));
    bottom->axis(QCPAxis::atBottom)->setLabel(tr("input (V)"));
    setAccessibleName(tr("Transfer with the table on it; the table of points beside it holds the same"));
    setMinimumSize(220, 200);
}

void TransferPlot::dress()
{
    const auto& c = look::colours();
    m_plot->setBackground(c.paper);
    const auto rects = m_plot->axisRects();
    for (QCPAxisRect* r : rects)
        for (QCPAxis* axis : r->axes())
            dressAxis(axis, axis->axisType() != QCPAxis::atBottom || r == rects.last());
    m_curve->setPen(QPen(c.inkSoft, 2.5));
    m_table->setPen(QPen(c.accent, 1.2));
    m_table->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssSquare, QPen(c.accent, 1.4), c.card, 6));
    m_error->setPen(QPen(c.failing, 1.4));
    m_now->setPen(QPen(c.stale, 1.6, Qt::DashLine));
}

void TransferPlot::clear()
{
    for (QCPGraph* g : {m_curve, m_table, m_error, m_now})
        g->data()->clear();
    dress();
    m_plot->replot();
}

void TransferPlot::show(const analysis::CircuitView& view, const parts::Sensor& sensor)
{
    clear();
    const auto shown = [&](double si) { return units::toUnit(si, sensor.measures, sensor.unit); };
    const double zero = shown(0);
    double worst = 0;
    for (const analysis::CurvePoint& p : view.curve) {
        m_curve->addData(p.volts, shown(p.value));
        if (view.table && p.volts >= view.table->points.front().volts && p.volts <= view.table->points.back().volts) {
            const double error = shown(scaling::lookUp(*view.table, p.volts)) - shown(p.value);
            m_error->addData(p.volts, error);
            worst = std::max(worst, std::abs(error));
        }
    }
    if (view.table) {
        worst = std::max(worst, shown(view.table->worstError) - zero);
        for (const scaling::TablePoint& p : view.table->points)
            m_table->addData(p.volts, shown(p.value));
    }
    if (view.curve.empty()) {
        m_plot->replot();
        return;
    }
    const auto [a, b] = std::minmax({shown(view.curve.front().value), shown(view.curve.back().value)});
    m_low = a;
    m_high = b;
    const double room = (b - a) * 0.05;
    const double lastVolts = std::max({view.curve.front().volts, view.curve.back().volts, 5.0});
    const QString unit = text(sensor.unit);
    m_curve->valueAxis()->setRange(a - room, b + room);
    m_curve->valueAxis()->setLabel(tr("value (%1)").arg(unit));
    m_error->valueAxis()->setLabel(tr("error (%1)").arg(unit));
    m_error->valueAxis()->setRange(-1.15 * std::max(worst, 1e-6), 1.15 * std::max(worst, 1e-6));
    m_error->valueAxis()->ticker()->setTickCount(3);
    for (QCPGraph* g : {m_curve, m_error})
        g->keyAxis()->setRange(0, lastVolts * 1.02);
    m_plot->replot();
}

void TransferPlot::showNow(std::optional<double> volts)
{
    m_now->data()->clear();
    if (volts) {
        m_now->addData(*volts, m_low);
        m_now->addData(*volts, m_high);
    }
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

} // namespace vicegrip::app
