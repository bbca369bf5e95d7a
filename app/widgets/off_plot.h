#pragma once

#include <QString>
#include <QWidget>

#include <vector>

class QCustomPlot;
class QCPGraph;

namespace vicegrip::app {

/// How far something is off along a range: a curve, the band it lies in, what is allowed, and single places. All in
/// shown units, by rising x.
class OffPlot : public QWidget
{
    Q_OBJECT

  public:
    OffPlot(const char* objectName, const QString& spoken, QWidget* parent = nullptr);

    struct Place
    {
        double x = 0, off = 0;
        double half = 0; ///< of a band about it; 0: none
    };
    enum class Mark { Good, Bad, Aside };
    struct Point
    {
        double x = 0, off = 0;
        Mark mark = Mark::Good;
    };

    /// What the axes say: "volts (V)", "off (kPa)".
    void setAxes(const QString& along, const QString& off);
    /// `allowed`: the half width of what is allowed at each x; empty: nothing is said of it.
    void show(const std::vector<Place>& curve, const std::vector<Place>& allowed, const std::vector<Point>& points);
    void clear() { show({}, {}, {}); }

  private:
    void dress();

    QCustomPlot* m_plot;
    QCPGraph *m_allowedLow, *m_allowedHigh, *m_bandLow, *m_bandHigh, *m_curve;
    QCPGraph* m_marks[3];
};

} // namespace vicegrip::app
