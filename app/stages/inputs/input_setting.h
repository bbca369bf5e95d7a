#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QComboBox;
class QLabel;

namespace vicegrip::app {

/// How the input of the selected circuit is set in the ECU: its mode and its pull-up, each where it has a choice, with
/// what the pull-up does to the reading. Hidden when there is nothing to set.
class InputSetting : public QWidget
{
    Q_OBJECT

  public:
    explicit InputSetting(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    void setMode(int index);
    void setPullUp(int index);
    void refreshPullUp(const job::Job& job, const job::Circuit& circuit, const parts::EcuInput& input);
    void edit(const QString& description, const std::function<void(parts::EcuInput&)>& change);

    Desk& m_desk;
    QLabel *m_modeName, *m_pullUpName, *m_effect;
    QComboBox *m_mode, *m_pullUp;
};

} // namespace vicegrip::app
