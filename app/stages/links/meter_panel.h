#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QComboBox;
class QLabel;

namespace vicegrip::app {

class KeyButton;

/// Where the multimeter is reached.
class MeterPanel : public QWidget
{
    Q_OBJECT

  public:
    explicit MeterPanel(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    void refreshStatus();
    void use();

    Desk& m_desk;
    QComboBox* m_where;
    QLabel *m_status, *m_wrong;
    KeyButton *m_use, *m_none, *m_forget;
};

} // namespace vicegrip::app
