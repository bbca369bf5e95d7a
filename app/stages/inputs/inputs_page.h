#pragma once

#include "app/stages/stage_page.h"
#include "core/seating/plan.h"

#include <functional>

class QLabel;
class QScrollArea;

namespace vicegrip::app {

class EcuChooser;
class BusLine;
class InputSetting;
class KeyButton;
class SeatAll;
class SeatingView;
class WaysList;

/// Inputs: the seating plan, and beside it the selected circuit with its ways out and the units' budgets.
class InputsPage : public StagePage
{
    Q_OBJECT

  public:
    explicit InputsPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    [[nodiscard]] bool wantsList() const override { return false; }

  private:
    void buildNoEcu();
    void seatAll();
    void sayProgress(const seating::Progress& progress);
    void saySeated(const seating::Plan& plan);
    void seatOn(const QString& seat);
    void unseat();
    void toggleLock();
    void refreshSelected();
    [[nodiscard]] QString edgeText(const job::Circuit* c) const;
    void refreshBudgets();
    void edit(const QString& description, const Change& change);
    [[nodiscard]] const job::Circuit* circuit() const;

    SeatingView* m_view;
    InputSetting* m_setting;
    BusLine* m_bus;
    QScrollArea* m_scroll;
    QLabel *m_outcome, *m_name, *m_sensor, *m_seat, *m_pointed, *m_budgets;
    KeyButton *m_seatAll, *m_unseat, *m_lock;
    WaysList* m_ways;
    SeatAll* m_seating;
    QScrollArea* m_side; ///< of the selected circuit
    QWidget* m_noEcu;
    EcuChooser* m_ecu;
    QString m_said; ///< the outcome of the last seating
};

} // namespace vicegrip::app
