#pragma once

#include "app/desk/desk.h"

#include <QListWidget>

/// The circuits with their worst state; the selection stays while stages change.
namespace vicegrip::app {

class CircuitList : public QListWidget
{
    Q_OBJECT

  public:
    explicit CircuitList(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    Desk& m_desk;
};

} // namespace vicegrip::app
