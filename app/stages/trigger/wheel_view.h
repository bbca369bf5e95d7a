#pragma once

#include "app/look/look.h"
#include "core/trigger/wheel.h"

#include <QWidget>

#include <vector>

namespace vicegrip::app {

/// A wheel before its sensor, as it has turned: teeth with what is known of each.
class WheelView : public QWidget
{
    Q_OBJECT

  public:
    enum class Mark { Plain, Seen, Missed, Due };

    explicit WheelView(QWidget* parent = nullptr);

    /// `marks`: of the teeth, by number; those without one are plain.
    void show(const trigger::Wheel& wheel, std::vector<Mark> marks, const QString& middle, const QString& below);
    void clear();
    /// So far it has turned past the sensor, in degrees of the crank.
    void setTurned(double deg);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    [[nodiscard]] double screenAngle(double wheel_deg) const; ///< clockwise from the top, in degrees
    void paintTooth(QPainter& p, QPointF middle, double root, double tip, size_t tooth) const;

    trigger::Wheel m_wheel;
    std::vector<Mark> m_marks;
    QString m_middle, m_below;
    double m_turned = 0;
};

} // namespace vicegrip::app
