#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QLabel;

namespace vicegrip::app {

class CompareGrid;

/// The four air methods side by side for this engine, and what each sensor's error costs under the one that is chosen.
class AirMethods : public QWidget
{
    Q_OBJECT

  public:
    explicit AirMethods(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    Desk& m_desk;
    CompareGrid* m_methods;
    QLabel* m_errors;
};

} // namespace vicegrip::app
