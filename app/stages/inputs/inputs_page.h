#pragma once

#include "app/stages/stage_page.h"
#include "core/seating/ways_out.h"

#include <vector>

class QLabel;
class QScrollArea;
class QVBoxLayout;

namespace vicegrip::app {

class KeyButton;
class InputSetting;
class SeatingView;

/// Inputs: the seating plan, and beside it the selected circuit with its ways out and the units' budgets.
class InputsPage : public StagePage
{
    Q_OBJECT

  public:
    explicit InputsPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    [[nodiscard]] bool wantsList() const override { return false; }

  private:
    void seatAll();
    void seatOn(const QString& input);
    void unseat();
    void toggleLock();
    void takeWay(size_t index);
    void refreshSelected();
    void refreshWays();
    void refreshBudgets();
    void edit(const QString& description, const std::function<void(job::Job&)>& change);
    [[nodiscard]] const job::Circuit* circuit() const;

    SeatingView* m_view;
    InputSetting* m_setting;
    QScrollArea* m_scroll;
    QLabel *m_outcome, *m_name, *m_sensor, *m_seat, *m_pointed, *m_waysTitle, *m_budgets;
    KeyButton *m_seatAll, *m_unseat, *m_lock;
    QVBoxLayout* m_waysColumn;
    std::vector<seating::WayOut> m_ways;
    QString m_said; ///< the outcome of the last seating
};

} // namespace vicegrip::app
