#pragma once

#include "app/desk/desk.h"
#include "core/trigger/mounting.h"

#include <QWidget>

#include <array>
#include <functional>
#include <vector>

class QGridLayout;
class QLabel;
class QSlider;

namespace vicegrip::app {

/// How far sparks are off, as two distributions on one scale of degrees.
class SpreadPlot : public QWidget
{
    Q_OBJECT

  public:
    explicit SpreadPlot(QWidget* parent = nullptr);
    void show(const trigger::Mounted& mounted, const QString& crank, const QString& belt);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paintOne(QPainter& p, const QRectF& box, const trigger::Spread& spread, const QString& name,
                  double reach) const;

    trigger::Mounted m_mounted;
    QString m_crank, m_belt;
};

/// A wheel at the crank against slots behind the belt, for this engine: what is assumed stands beside it, and can be
/// moved.
class MountView : public QWidget
{
    Q_OBJECT

  public:
    explicit MountView(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    struct Knob
    {
        QSlider* slider;
        QLabel* shown;
        std::function<double()> get;
        std::function<void(double)> set;
        std::function<QString(double)> say;
        double least, step; ///< value = least + step * position
    };
    void addKnob(QGridLayout* grid, const QString& name, const char* objectName, double least, double most, double step,
                 const QString& source, std::function<double()> get, std::function<void(double)> set,
                 std::function<QString(double)> say);
    void show();

    Desk& m_desk;
    job::CircuitId m_circuit; ///< whose wheel was taken
    std::string m_wheel;
    trigger::Mounting m_engine;
    std::vector<Knob> m_knobs;
    SpreadPlot* m_plot;
    QLabel *m_title, *m_detail;
};

} // namespace vicegrip::app
