#pragma once

#include "app/desk/desk.h"

#include <QWidget>

#include <vector>

class QGridLayout;
class QLabel;

namespace vicegrip::app {

/// The four air methods side by side for this engine, and what each sensor's error costs under the one that is chosen.
class AirSheet : public QWidget
{
    Q_OBJECT

  public:
    explicit AirSheet(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    Desk& m_desk;
    std::vector<std::vector<QLabel*>> m_columns; ///< one per method: name, how, for, against, here, circuits
    QLabel* m_errors;
};

} // namespace vicegrip::app
