#pragma once

#include "core/analysis/analysis.h"

#include <QWidget>

#include <optional>

class QCustomPlot;
class QCPGraph;
class QCPItemTracer;

/// The input's volts against the value, with the table on it and the table's error beneath, on one voltage axis.
namespace vicegrip::app {

class TransferPlot : public QWidget
{
    Q_OBJECT

  public:
    explicit TransferPlot(QWidget* parent = nullptr);

    void show(const analysis::CircuitView& view, const parts::Sensor& sensor);
    void clear();
    /// Where the input stands now; none takes the mark away.
    void showNow(std::optional<double> volts);

  private:
    void dress();

    QCustomPlot* m_plot;
    QCPGraph *m_curve, *m_table, *m_error, *m_now;
    double m_low = 0, m_high = 0; ///< of the value axis
};

} // namespace vicegrip::app
