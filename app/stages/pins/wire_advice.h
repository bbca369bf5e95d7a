#pragma once

#include "app/desk/desk.h"
#include "core/wires/area.h"
#include "core/wires/colour_plan.h"

#include <QWidget>

class QComboBox;
class QLabel;

namespace vicegrip::app {

/// What is said of the wire that is selected: why its area, what is beside its colour, how its joint is made,
/// and whether it lies alone, twisted or in a shield.
class WireAdvice : public QWidget
{
    Q_OBJECT

  public:
    explicit WireAdvice(Desk& desk, QWidget* parent = nullptr);

    /// `wire` is null when none is selected.
    void show(const job::Wire* wire, const wires::AreaChoice& area, const wires::ColourAdvice& colour,
              const QString& cutNote);

  private:
    void setMethod(int index);
    void setLie(int index);
    [[nodiscard]] static const parts::Ecu& unitOf(const job::Job& job, const job::Wire& wire);
    void showLie(const job::Job& job, const job::Wire& wire);

    Desk& m_desk;
    QLabel *m_area, *m_colour, *m_joint, *m_school;
    QComboBox *m_method, *m_lies;
    std::string m_splice; ///< of the selected wire; empty: none
    job::WireId m_wire; ///< the selected one
};

} // namespace vicegrip::app
