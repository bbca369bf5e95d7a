#pragma once

#include "app/desk/desk.h"
#include "core/fuel/fill_watch.h"

#include <QElapsedTimer>
#include <QWidget>

class QLabel;

namespace vicegrip::app {

class KeyButton;

/// A fill that was poured in, watched against its curve until the sensor stands.
class FillWatchRow : public QWidget
{
    Q_OBJECT

  public:
    explicit FillWatchRow(Desk& desk, QWidget* parent = nullptr);

    /// What is planned; none: there is nothing to pour. A plan that changes is not the one that was poured: the watch
    /// of the old one goes on.
    void plan(const std::optional<fuel::Pour>& pour, const std::optional<fuel::Settling>& settling);
    /// What the sensor shows now; none while nothing is usable.
    void hear(std::optional<double> content);

    [[nodiscard]] bool isWatching() const { return m_pour.has_value(); }
    [[nodiscard]] const std::vector<fuel::Shown>& shown() const { return m_shown; }

  signals:
    void moved(); ///< one more is shown

  private:
    void begin();
    void take(const fuel::Watched& watched);
    void end();

    Desk& m_desk;
    std::optional<fuel::Pour> m_planned, m_pour; ///< m_pour: poured, and watched
    std::optional<fuel::Settling> m_plannedCurve, m_curve;
    std::vector<fuel::Shown> m_shown;
    QElapsedTimer m_since;
    KeyButton* m_key;
    QLabel* m_says;
};

} // namespace vicegrip::app
