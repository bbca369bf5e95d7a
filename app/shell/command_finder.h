#pragma once

#include <QFrame>
#include <QList>

class QAction;
class QLineEdit;
class QListWidget;

/// Ctrl+K: every action by name, with its shortcut.
namespace vicegrip::app {

class CommandFinder : public QFrame
{
    Q_OBJECT

  public:
    explicit CommandFinder(QWidget* parent);
    void open(const QList<QAction*>& actions);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

  private:
    void filter(const QString& typed);
    void run();

    QLineEdit* m_typed;
    QListWidget* m_list;
    QList<QAction*> m_actions;
};

} // namespace vicegrip::app
