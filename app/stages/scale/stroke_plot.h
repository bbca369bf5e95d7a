#pragma once

#include "core/throttle/strokes.h"

#include <QWidget>

class QCustomPlot;
class QCPGraph;

namespace vicegrip::app {

/// Strokes over time: the track, where it rests, the limits, and the spots where it was lost.
class StrokePlot : public QWidget
{
    Q_OBJECT

  public:
    explicit StrokePlot(QWidget* parent = nullptr);

    /// While recording there is no report yet.
    void show(const throttle::Recording& recording, const throttle::Report* report);

  private:
    QCustomPlot* m_plot;
    QCPGraph *m_track, *m_second, *m_rests, *m_spots, *m_limits[2];
};

} // namespace vicegrip::app
