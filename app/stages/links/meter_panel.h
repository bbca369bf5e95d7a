#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"

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
    void list();
    void refreshStatus();
    void use();

    Desk& m_desk;
    QComboBox* m_where;
    QLabel *m_status, *m_wrong;
    KeyButton *m_use, *m_none, *m_forget;
    QStringList m_found; ///< serial ports of this machine
    Worked<QStringList> m_ports; ///< asking the system for them takes longer than a frame
};

} // namespace vicegrip::app
