#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/switches/switch_levels.h"

#include <QWidget>

#include <optional>

class QLabel;

namespace vicegrip::app {

/// The volts an input of a switch may have, as a scale from 0 V up: closed and open, each at its worst, the two
/// thresholds between them, and where the input stands now.
class LevelScale : public QWidget
{
    Q_OBJECT

  public:
    explicit LevelScale(QWidget* parent = nullptr);

    void show(const std::optional<switches::SwitchLevels>& levels, double full_v);
    void showNow(std::optional<double> volts);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::optional<switches::SwitchLevels> m_levels;
    std::optional<double> m_now;
    double m_full = 5;
};

/// Two thresholds for a switch, and how tired its contact or how wet its plug may become.
class SwitchView : public QWidget
{
    Q_OBJECT

  public:
    explicit SwitchView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void refreshLive();

  private:
    /// Of a circuit of a job.
    struct Levels
    {
        JobPtr job;
        job::CircuitId circuit;
        Result<switches::SwitchLevels> levels;
    };
    void showLevels(const Levels& worked);

    Desk& m_desk;
    LevelScale* m_scale;
    QLabel *m_state, *m_words, *m_low, *m_high, *m_contact, *m_leak;
    std::optional<switches::SwitchLevels> m_levels;
    Worked<Levels> m_worked{[this](const Levels& worked) { showLevels(worked); }};
};

} // namespace vicegrip::app
