#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;

namespace vicegrip::app {

class KeyButton;

/// Keeps what is live, and plays what was kept to every live view.
class RecordingPanel : public QWidget
{
    Q_OBJECT

  public:
    explicit RecordingPanel(Desk& desk, QWidget* parent = nullptr);
    void refresh();
    /// Proposes a recording to be played.
    void offer(const QString& file);

  signals:
    void recordAsked();
    void markAsked();

  private:
    void chooseFile();
    void playOrStop();
    [[nodiscard]] QString status() const;

    Desk& m_desk;
    QLineEdit* m_file;
    QComboBox* m_speed;
    QLabel *m_status, *m_left;
    KeyButton *m_record, *m_mark, *m_play;
};

} // namespace vicegrip::app
