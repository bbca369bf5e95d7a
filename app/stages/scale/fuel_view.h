#pragma once

#include "app/desk/desk.h"
#include "core/fuel/blend.h"

#include <QWidget>

#include <functional>
#include <map>
#include <optional>

class QGridLayout;
class QLabel;

namespace vicegrip::app {

class Caution;
class KeyButton;
class SettlingPlot;
class FillWatchRow;
class TypedField;

/// Flex fuel: what the sensor says now, the baseline on pump fuel, and what a fill will do.
class FuelView : public QWidget
{
    Q_OBJECT

  public:
    explicit FuelView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void refreshLive();

  private:
    /// What is planned; it is no fact of the job until it is poured.
    struct Plan
    {
        std::optional<fuel::Fill> in, add;
    };

    QWidget* buildSensor();
    QWidget* buildTank();
    TypedField* addFill(QGridLayout* grid, const QString& name, const char* objectName,
                        std::optional<fuel::Fill> Plan::*fill);
    void change(const QString& what, const std::function<void(job::Tank&)>& change);
    void showSignal();
    void showPlan();
    void setBaseline();
    [[nodiscard]] job::Tank tank() const;

    Desk& m_desk;
    std::optional<double> m_typedHz, m_typedPulse_s; ///< where there is no link
    std::optional<double> m_content; ///< a usable one
    Plan m_plan;
    TypedField *m_hz, *m_pulse, *m_capacity, *m_line, *m_flow, *m_ready, *m_in, *m_add;
    QLabel *m_now, *m_verdict, *m_baseline, *m_outcome, *m_detail;
    Caution* m_caution;
    KeyButton* m_setBaseline;
    SettlingPlot* m_plot;
    FillWatchRow* m_watch;
};

} // namespace vicegrip::app
