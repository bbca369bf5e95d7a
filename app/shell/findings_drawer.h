#pragma once

#include "app/desk/desk.h"

#include <QFrame>

class QScrollArea;
class QVBoxLayout;

/// The findings, from the right edge: what, why, and what to do, worst first.
namespace vicegrip::app {

class FindingsDrawer : public QFrame
{
    Q_OBJECT

  public:
    explicit FindingsDrawer(Desk& desk, QWidget* parent);
    void refresh();
    void showFinding(int index); ///< of the analysis' list
    void place(); ///< along the right edge of the parent

  protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    Desk& m_desk;
    QScrollArea* m_scroll;
    QVBoxLayout* m_list;
    QList<QWidget*> m_whats; ///< one of each finding
};

} // namespace vicegrip::app
