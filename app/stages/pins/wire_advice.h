#pragma once

#include "app/desk/desk.h"
#include "core/wires/area.h"
#include "core/wires/colour_plan.h"

#include <QWidget>

class QComboBox;
class QLabel;

namespace vicegrip::app {

/// What is said of the wire that is selected: why its area, what is beside its colour, and how its joint is made.
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

    Desk& m_desk;
    QLabel *m_area, *m_colour, *m_joint, *m_school;
    QComboBox* m_method;
    std::string m_splice; ///< of the selected wire; empty: none
};

} // namespace vicegrip::app
