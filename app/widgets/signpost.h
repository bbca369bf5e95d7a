#pragma once

#include <QWidget>

class QLabel;

namespace vicegrip::app {

class KeyButton;

/// In place of a view that has nothing to show: why, and the one step that leads on. Enter takes it.
class Signpost : public QWidget
{
    Q_OBJECT

  public:
    explicit Signpost(QWidget* parent = nullptr);

    /// Without `step` there is no button.
    void show(const QString& why, const QString& detail, const QString& step);

  signals:
    void taken();

  private:
    QLabel *m_why, *m_detail;
    KeyButton* m_step;
};

} // namespace vicegrip::app
