#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QLabel;
class QTableWidgetItem;

namespace vicegrip::app {

class ListTable;

/// Every wire: where it runs, what it is, and how long it is cut. Colour, area and length are typed in their cells, in
/// any unit.
class WiresView : public QWidget
{
    Q_OBJECT

  public:
    explicit WiresView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    void typed(QTableWidgetItem* cell);
    void say(const QString& sentence, bool bad);

    Desk& m_desk;
    ListTable* m_table;
    QLabel* m_said;
};

} // namespace vicegrip::app
