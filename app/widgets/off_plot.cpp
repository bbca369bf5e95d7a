#include "app/widgets/off_plot.h"

#include "app/look/look.h"
#include "app/widgets/plot_dress.h"

#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr double kRoom = 1.12; ///< beyond what is drawn
constexpr int kPale = 60; ///< alpha of a band

} // namespace

OffPlot::OffPlot(const char* objectName, const QString& spoken, QWidget* parent) : QWidget(parent), m_plot(barePlot())
{
    setObjectName(QLatin1String(objectName));
    setAccessibleName(spoken);
    setMinimumSize(220_px, 130_px);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_plot);
    auto* rect = new QCPAxisRect(m_plot);
    m_plot->plotLayout()->addElement(0, 0, rect);
    const auto graph = [&] { return m_plot->addGraph(rect->axis(QCPAxis::atBottom), rect->axis(QCPAxis::atLeft)); };
    for (QCPGraph** g :
         {&m_allowedLow, &m_allowedHigh, &m_bandLow, &m_bandHigh, &m_curve, &m_marks[0], &m_marks[1], &m_marks[2]})
        *g = graph();
    m_allowedHigh->setChannelFillGraph(m_allowedLow);
    m_bandHigh->setChannelFillGraph(m_bandLow);
    rect->axis(QCPAxis::atLeft)->ticker()->setTickCount(3);
}

void OffPlot::setAxes(const QString& along, const QString& off)
{
    m_curve->keyAxis()->setLabel(along);
    m_curve->valueAxis()->setLabel(off);
}

void OffPlot::dress()
{
    const auto& c = look::colours();
    m_plot->setBackground(c.paper);
    for (QCPAxis* axis : {m_curve->keyAxis(), m_curve->valueAxis()})
        dressAxis(axis, true);
    const auto pale = [](QColor colour) {
        colour.setAlpha(kPale);
        return colour;
    };
    for (QCPGraph* g : {m_allowedLow, m_allowedHigh})
        g->setPen(QPen(c.done, 1, Qt::DashLine));
    m_allowedHigh->setBrush(pale(c.done));
    for (QCPGraph* g : {m_bandLow, m_bandHigh})
        g->setPen(Qt::NoPen);
    m_bandHigh->setBrush(pale(c.accent));
    m_curve->setPen(QPen(c.accent, 2));
    const QPen pens[] = {QPen(c.done, 2), QPen(c.failing, 2), QPen(c.inkSoft, 1.4)};
    const QCPScatterStyle::ScatterShape shapes[] = {QCPScatterStyle::ssPlus, QCPScatterStyle::ssCross,
                                                    QCPScatterStyle::ssCircle};
    for (int i = 0; i < 3; ++i) {
        m_marks[i]->setLineStyle(QCPGraph::lsNone);
        m_marks[i]->setScatterStyle(QCPScatterStyle(shapes[i], pens[i], Qt::NoBrush, 11_px));
    }
}

void OffPlot::show(const std::vector<Place>& curve, const std::vector<Place>& allowed, const std::vector<Point>& points)
{
    for (int i = 0; i < m_plot->graphCount(); ++i)
        m_plot->graph(i)->data()->clear();
    dress();
    double most = 0, first = 0, last = 0;
    bool any = false;
    const auto meet = [&](double x, double off) {
        most = std::max(most, std::abs(off));
        first = any ? std::min(first, x) : x;
        last = any ? std::max(last, x) : x;
        any = true;
    };
    for (const Place& p : allowed) {
        m_allowedLow->addData(p.x, -p.half);
        m_allowedHigh->addData(p.x, p.half);
        meet(p.x, p.half);
    }
    for (const Place& p : curve) {
        m_curve->addData(p.x, p.off);
        meet(p.x, std::abs(p.off) + p.half);
        if (p.half > 0) {
            m_bandLow->addData(p.x, p.off - p.half);
            m_bandHigh->addData(p.x, p.off + p.half);
        }
    }
    for (const Point& p : points) {
        m_marks[static_cast<int>(p.mark)]->addData(p.x, p.off);
        meet(p.x, p.off);
    }
    const double half = kRoom * std::max(most, 1e-9);
    const double edge = (last - first) * (kRoom - 1) / 4;
    m_curve->valueAxis()->setRange(-half, half);
    m_curve->keyAxis()->setRange(first - edge, last > first ? last + edge : first + 1);
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

} // namespace vicegrip::app
