#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QComboBox;

namespace vicegrip::app {

/// The job's ECU, chosen from the library or described.
class EcuChooser : public QWidget
{
    Q_OBJECT

  public:
    explicit EcuChooser(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  signals:
    void describeAsked(); ///< an ECU of one's own

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void choose(int index);

    Desk& m_desk;
    QComboBox* m_ecu;
};

} // namespace vicegrip::app
