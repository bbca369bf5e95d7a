#include "app/widgets/transfer_plot.h"

#include "app/widgets/circuit_text.h"

#include "app/look/look.h"
#include "app/widgets/plot_dress.h"
#include "app/widgets/text.h"
#include "core/units/shown.h"

#include <QShortcut>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr look::Px kErrorHeight{110};

} // namespace

TransferPlot::TransferPlot(QWidget* parent) : QWidget(parent), m_plot(barePlot())
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_plot);
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
    m_places = m_plot->addGraph(top->axis(QCPAxis::atBottom), top->axis(QCPAxis::atLeft));
    m_captured = m_plot->addGraph(top->axis(QCPAxis::atBottom), top->axis(QCPAxis::atLeft));
    m_error = m_plot->addGraph(bottom->axis(QCPAxis::atBottom), bottom->axis(QCPAxis::atLeft));
    m_plot->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    for (QCPAxisRect* r : {top, bottom}) {
        r->setRangeDrag(Qt::Horizontal);
        r->setRangeZoom(Qt::Horizontal);
    }
    // One axis of readings: what is looked at above is looked at below.
    const auto follow = [](QCPAxis* from, QCPAxis* to) {
        connect(from, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), to,
                qOverload<const QCPRange&>(&QCPAxis::setRange));
    };
    follow(top->axis(QCPAxis::atBottom), bottom->axis(QCPAxis::atBottom));
    follow(bottom->axis(QCPAxis::atBottom), top->axis(QCPAxis::atBottom));
    const auto zoom = [this, axis = top->axis(QCPAxis::atBottom)](double factor) {
        const double middle = m_nowAt.value_or(axis->range().center());
        axis->scaleRange(factor, axis->range().contains(middle) ? middle : axis->range().center());
        m_plot->replot();
    };
    for (const auto& [key, factor] : {std::pair(Qt::Key_Plus, 0.5), {Qt::Key_Minus, 2.0}})
        connect(new QShortcut(QKeySequence(key), this), &QShortcut::activated, this,
                [zoom, factor = factor] { zoom(factor); });
    connect(new QShortcut(QKeySequence(Qt::Key_0), this), &QShortcut::activated, this,
            [this, axis = top->axis(QCPAxis::atBottom)] {
                axis->setRange(0, m_last);
                m_plot->replot();
            });
    setAccessibleName(tr("Transfer with the table on it; the table of points beside it holds the same"));
    setMinimumSize(220_px, 200_px);
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
    m_table->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssSquare, QPen(c.accent, 1.4), c.card, 6_px));
    m_error->setPen(QPen(c.failing, 1.4));
    m_places->setPen(Qt::NoPen);
    m_places->setLineStyle(QCPGraph::lsNone);
    m_places->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssPlus, QPen(c.done, 2), Qt::NoBrush, 13_px));
    m_captured->setPen(Qt::NoPen);
    m_captured->setLineStyle(QCPGraph::lsNone);
    m_captured->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDiamond, QPen(c.stale, 2), c.card, 10_px));
    m_now->setPen(QPen(c.stale, 1.6, Qt::DashLine));
}

void TransferPlot::clear()
{
    for (QCPGraph* g : {m_curve, m_table, m_error, m_now, m_places, m_captured})
        g->data()->clear();
    dress();
    m_plot->replot();
}

void TransferPlot::show(const proof::CircuitView& view, const std::vector<scaling::CurvePoint>& curve,
                        const parts::Part& sensor)
{
    clear();
    const auto shown = [&](double si) { return units::toShown(si, sensor.measures, sensor.unit); };
    const double zero = shown(0);
    double worst = 0;
    for (const scaling::CurvePoint& p : curve) {
        m_curve->addData(p.reading, shown(p.value));
        if (view.table && p.reading >= view.table->points.front().reading &&
            p.reading <= view.table->points.back().reading) {
            const double error = shown(scaling::lookUp(*view.table, p.reading)) - shown(p.value);
            m_error->addData(p.reading, error);
            worst = std::max(worst, std::abs(error));
        }
    }
    if (view.table) {
        worst = std::max(worst, shown(view.table->worstError) - zero);
        if (view.table->formula)
            m_table->setScatterStyle(QCPScatterStyle::ssNone);
        for (const scaling::TablePoint& p : view.table->points)
            m_table->addData(p.reading, shown(p.value));
    }
    if (curve.empty()) {
        m_plot->replot();
        return;
    }
    const auto [a, b] = std::minmax({shown(curve.front().value), shown(curve.back().value)});
    m_low = a;
    m_high = b;
    const double room = (b - a) * 0.05;
    const bool hertz = scaling::axisOf(sensor) == units::Dimension::Frequency;
    m_last = std::max({curve.front().reading, curve.back().reading, hertz ? 0.0 : 5.0}) * 1.02;
    m_error->keyAxis()->setLabel(tr("input (%1)").arg(text(scaling::readingUnit(scaling::axisOf(sensor)))));
    m_curve->valueAxis()->setRange(a - room, b + room);
    m_curve->valueAxis()->setLabel(tr("value (%1)").arg(shownHeading(sensor)));
    m_error->valueAxis()->setLabel(tr("error (%1)").arg(shownUnit(sensor)));
    spanError(worst);
    if (m_shown != view.id.value) { // an edit leaves the eye where it is
        m_shown = view.id.value;
        m_curve->keyAxis()->setRange(0, m_last);
    }
    m_plot->replot();
}

/// Room for the error, and no less than a thousandth of the range: a table without error is a flat line.
void TransferPlot::spanError(double worst)
{
    const double half = 1.15 * std::max(worst, 1e-3 * (m_high - m_low));
    m_error->valueAxis()->setRange(-half, half);
    m_error->valueAxis()->ticker()->setTickCount(3);
}

void TransferPlot::showPlaces(const std::vector<Place>& places)
{
    m_places->data()->clear();
    for (const Place& p : places)
        m_places->addData(p.reading, p.value);
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void TransferPlot::showCaptured(const std::vector<Place>& places)
{
    m_captured->data()->clear();
    for (const Place& p : places)
        m_captured->addData(p.reading, p.value);
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void TransferPlot::showNow(std::optional<double> reading)
{
    m_now->data()->clear();
    m_nowAt = reading;
    if (reading) {
        m_now->addData(*reading, m_low);
        m_now->addData(*reading, m_high);
    }
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

} // namespace vicegrip::app
