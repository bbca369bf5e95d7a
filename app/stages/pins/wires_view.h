#pragma once

#include "app/desk/desk.h"

#include <QWidget>

#include <map>

class QAbstractButton;
class QLabel;
class QStackedWidget;
class QTableWidgetItem;

namespace vicegrip::wires {
struct AreaChoice;
struct ColourAdvice;
} // namespace vicegrip::wires

namespace vicegrip::app {

class KeyButton;
class ListTable;
class PastePanel;
class WireAdvice;

/// Every wire: where it runs, how it goes on, what it is for, what it is, and how long it is cut. Colour, area and
/// length are typed in their cells, in any unit; a list from elsewhere is pasted.
class WiresView : public QWidget
{
    Q_OBJECT

  public:
    explicit WiresView(Desk& desk, QWidget* parent = nullptr);
    ~WiresView() override;

    void refresh();
    void choose(const job::WireId& wire);

  private:
    QWidget* buildTable();
    void typed(QTableWidgetItem* cell);
    void say(const QString& sentence, bool bad);
    void showAdvice();
    void paste();
    void readPaste();
    void takePaste();
    void leavePaste();
    void takeAreas();
    void takeColours();
    void takeOutUnused();
    bool edit(const QString& description, const Change& change);

    Desk& m_desk;
    QStackedWidget* m_stack;
    ListTable* m_table;
    PastePanel* m_paste;
    WireAdvice* m_advice;
    QLabel* m_said;
    QAbstractButton *m_areasButton, *m_coloursButton, *m_unusedButton, *m_pasteButton;
    std::map<job::WireId, wires::AreaChoice> m_areas;
    std::map<job::WireId, wires::ColourAdvice> m_colours;
    std::map<job::WireId, QString> m_notes; ///< why one is cut longer than its neighbours
    std::vector<job::WireId> m_unused;
};

} // namespace vicegrip::app
