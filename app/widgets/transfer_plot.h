#pragma once

#include "core/analysis/analysis.h"

#include <QWidget>

#include <functional>
#include <optional>

class QCustomPlot;
class QCPGraph;
class QCPItemTracer;

/// The input's readings against the value, with the table on it and the table's error beneath, on one axis. Drag
/// and wheel, or + and -, zoom it, 0 shows all.
namespace vicegrip::app {

class TransferPlot : public QWidget
{
    Q_OBJECT

  public:
    explicit TransferPlot(QWidget* parent = nullptr);

    void show(const proof::CircuitView& view, const std::vector<scaling::CurvePoint>& curve, const parts::Part& sensor);
    void clear();
    /// Where the input stands now; none takes the mark away.
    void showNow(std::optional<double> reading);

    /// Places that were compared: reading and the value the ECU returned, in the shown unit.
    struct Place
    {
        double reading = 0, value = 0;
    };
    void showPlaces(const std::vector<Place>& places);
    /// Readings beside another instrument, kept in the job.
    void showCaptured(const std::vector<Place>& places);

  private:
    void dress();
    void spanError(double worst);

    QCustomPlot* m_plot;
    QCPGraph *m_curve, *m_table, *m_error, *m_now, *m_places, *m_captured;
    double m_low = 0, m_high = 0; ///< of the value axis
    double m_last = 5; ///< where the axis of readings ends unzoomed
    std::optional<double> m_nowAt;
    std::string m_shown; ///< circuit
};

} // namespace vicegrip::app
