#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/thermocouple/thermocouple.h"

#include <QWidget>

#include <optional>

class QLabel;

namespace vicegrip::app {

class Caution;
class ListTable;
class TypedField;

/// A thermocouple and its conditioner, checked in a bath of known temperature: what each way of wiring it would show,
/// and which of them is shown.
class ProbeView : public QWidget
{
    Q_OBJECT

  public:
    explicit ProbeView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void refreshLive();

  private:
    void judge();
    [[nodiscard]] std::optional<double> shownNow() const;
    /// Asks how far a probe that is right may show from its bath, and judges by that.
    void askTolerance();

    Desk& m_desk;
    TypedField *m_tip, *m_joint, *m_box, *m_shown;
    QLabel *m_verdict, *m_bath;
    ListTable* m_table;
    Caution* m_caution;
    std::optional<double> m_tip_k, m_joint_k, m_box_k, m_typed_k;
    double m_tolerance_k = 0;
    job::CircuitId m_circuit;
    Worked<double> m_worked{[this](const double& kelvin) {
        m_tolerance_k = kelvin;
        judge();
    }};
};

} // namespace vicegrip::app
