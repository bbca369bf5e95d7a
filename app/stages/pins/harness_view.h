#pragma once

#include "app/desk/desk.h"
#include "core/branches/tree.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QPushButton;
class QScrollArea;
class QTableWidgetItem;

namespace vicegrip::app {

class ListTable;
class BranchPlot;

/// How the harness lies: its stretches, what lies in each and what goes over it. A stretch that was measured sets the
/// length of every wire along it.
class HarnessView : public QWidget
{
    Q_OBJECT

  public:
    explicit HarnessView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    void typed(QTableWidgetItem* cell);
    void pick(int branch);
    void add();
    void remove();
    void toggleWall();
    void propose();
    bool edit(const QString& description, const Change& change);
    void say(const QString& sentence, bool bad);
    [[nodiscard]] int current() const;

    Desk& m_desk;
    QScrollArea* m_scroll;
    BranchPlot* m_drawing;
    ListTable* m_table;
    QLabel* m_said;
    QLineEdit* m_new;
    QPushButton *m_wall, *m_remove, *m_propose;
    std::vector<branches::Stretch> m_stretches;
};

} // namespace vicegrip::app
