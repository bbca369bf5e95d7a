#pragma once

#include "app/desk/desk.h"
#include "core/road_speed/road_speed.h"

#include <QElapsedTimer>
#include <QWidget>

#include <optional>

class QGridLayout;
class QLabel;

namespace vicegrip::app {

class Caution;
class KeyButton;
class TypedField;

/// Pulses to a distance: by tyre and gears, by a run that was measured, and the sensor's line from either.
class SpeedView : public QWidget
{
    Q_OBJECT

  public:
    explicit SpeedView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void refreshLive();

  private:
    void addFields(QGridLayout* plan, QGridLayout* run);
    void change(const QString& what, const std::function<void(job::RoadSpeed&)>& change);
    void toggleCount();
    /// The sensor's line from now on: so many pulses to a metre.
    void take(double pulsesPerMetre, const QString& from);
    [[nodiscard]] job::RoadSpeed told() const;

    Desk& m_desk;
    TypedField *m_tyre, *m_teeth, *m_ratio, *m_pulses, *m_distance, *m_distanceError;
    KeyButton *m_takePlan, *m_takeRun, *m_count;
    QLabel *m_planned, *m_measured, *m_verdict, *m_held;
    Caution* m_caution;
    std::optional<double> m_plan, m_run; ///< pulses to a metre
    bool m_counting = false;
    double m_counted = 0; ///< pulses since the run began
    QElapsedTimer m_since; ///< the last time pulses were added
};

} // namespace vicegrip::app
