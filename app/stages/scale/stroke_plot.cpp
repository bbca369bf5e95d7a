#include "app/stages/scale/stroke_plot.h"

#include "app/desk/desk.h"
#include "app/look/look.h"
#include "app/widgets/plot_dress.h"

#include <QVBoxLayout>

#include <algorithm>
#include <limits>

namespace vicegrip::app {

StrokePlot::StrokePlot(QWidget* parent) : QWidget(parent), m_plot(barePlot())
{
    setObjectName(QStringLiteral("stroke-plot"));
    setAccessibleName(tr("The strokes over time; what they say stands beside it"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_plot);
    auto* rect = new QCPAxisRect(m_plot);
    m_plot->plotLayout()->addElement(0, 0, rect);
    QCPAxis *time = rect->axis(QCPAxis::atBottom), *volts = rect->axis(QCPAxis::atLeft);
    time->setLabel(tr("time (s)"));
    volts->setLabel(tr("input (V)"));
    m_second = m_plot->addGraph(time, volts);
    m_track = m_plot->addGraph(time, volts);
    m_rests = m_plot->addGraph(time, volts);
    m_spots = m_plot->addGraph(time, volts);
    for (QCPGraph*& limit : m_limits)
        limit = m_plot->addGraph(time, volts);
    m_track->setAdaptiveSampling(true);
    setMinimumSize(300_px, 180_px);
}

void StrokePlot::show(const throttle::Recording& r, const throttle::Report* report)
{
    const auto& c = look::colours();
    m_plot->setBackground(c.paper);
    for (QCPAxis* axis : m_plot->axisRect()->axes())
        dressAxis(axis, axis->axisType() == QCPAxis::atBottom || axis->axisType() == QCPAxis::atLeft);
    m_track->setPen(QPen(c.ink, 1.4));
    m_second->setPen(QPen(c.inkSoft, 1.2, Qt::DashLine));
    m_rests->setPen(QPen(c.accent, 5_px));
    m_spots->setPen(Qt::NoPen);
    m_spots->setLineStyle(QCPGraph::lsNone);
    m_spots->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCrossCircle, QPen(c.failing, 2), c.card, 14_px));
    for (QCPGraph* g : {m_track, m_second, m_rests, m_spots, m_limits[0], m_limits[1]})
        g->data()->clear();
    const double first = r.time_s.empty() ? 0 : r.time_s.front(), last = r.time_s.empty() ? 10 : r.time_s.back();
    QVector<QCPGraphData> track;
    track.reserve(static_cast<qsizetype>(r.volts.size()));
    for (size_t i = 0; i < r.volts.size(); ++i)
        track.append(QCPGraphData(r.time_s[i] - first, r.volts[i]));
    m_track->data()->set(track, true);
    for (size_t i = 0; i < r.second.size(); ++i)
        m_second->addData(r.time_s[i] - first, r.second[i]);
    if (report != nullptr) {
        for (const auto* stop : {&report->closed, &report->open})
            for (const throttle::Rest& rest : *stop) {
                m_rests->addData(r.time_s[rest.from] - first, rest.volts);
                m_rests->addData(r.time_s[rest.to - 1] - first, rest.volts);
                m_rests->addData(r.time_s[rest.to - 1] - first + 1e-6, std::numeric_limits<double>::quiet_NaN());
            }
        for (const throttle::DeadSpot& spot : report->deadSpots)
            m_spots->addData(spot.time_s - first, spot.volts);
        const double limits[2] = {report->limits.closed_v, report->limits.open_v};
        for (int i = 0; i < 2; ++i) {
            m_limits[i]->setPen(QPen(c.accent, 1.2, Qt::DashLine));
            m_limits[i]->addData(0, limits[i]);
            m_limits[i]->addData(last - first, limits[i]);
        }
    }
    m_track->keyAxis()->setRange(0, std::max(1.0, last - first));
    m_track->valueAxis()->setRange(-0.1, 5.1);
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

} // namespace vicegrip::app
