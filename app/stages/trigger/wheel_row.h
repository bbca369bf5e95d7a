#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QComboBox;

namespace vicegrip::app {

class TypedField;

/// Which wheel the selected circuit reads, as a line, and which edge the ECU counts.
class WheelRow : public QWidget
{
    Q_OBJECT

  public:
    explicit WheelRow(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    Desk& m_desk;
    TypedField* m_wheel;
    QComboBox* m_edge;
};

} // namespace vicegrip::app
