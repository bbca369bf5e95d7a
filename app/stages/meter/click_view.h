#pragma once

#include "app/desk/desk.h"

#include <QWidget>

#include <optional>

class QLabel;
class QMenu;
class QVBoxLayout;

namespace vicegrip::app {

class KeyButton;
class ListTable;

/// The click test: one output after another is switched on by itself, in firing order, and who stands at the engine
/// says which part answered. The bench hears for itself.
class ClickView : public QWidget
{
    Q_OBJECT

  public:
    explicit ClickView(Desk& desk, QWidget* parent = nullptr);
    void refresh();

  private:
    void buildOutput(QVBoxLayout* column);
    void buildTable(QVBoxLayout* column);
    [[nodiscard]] const clicks::Standing* at() const; ///< of the selected circuit; null where it is not driven
    void showOutput(const clicks::Standing& at);
    void showNone();
    void showTable();
    void click();
    void goOn();
    void chooseAnother();
    void record(const job::CircuitId& circuit, std::vector<job::CircuitId> answered);

    Desk& m_desk;
    AnalysisPtr m_analysis;
    QLabel *m_context, *m_title, *m_where, *m_verdict, *m_todo;
    KeyButton *m_click, *m_on, *m_asDrawn, *m_another, *m_nothing;
    QMenu* m_others; ///< what else the ECU drives
    ListTable* m_table;
};

} // namespace vicegrip::app
