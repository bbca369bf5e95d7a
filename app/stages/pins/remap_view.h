#pragma once

#include "app/desk/desk.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QStackedWidget;

namespace vicegrip::remap {
struct Remap;
}

namespace vicegrip::app {

class KeyButton;
class ListTable;
class PastePanel;

/// An old plug beside the one that takes its place, by function: what stays, what moves, what is exchanged, and the
/// order of hands for it. The old plug's list is pasted or typed.
class RemapView : public QWidget
{
    Q_OBJECT

  public:
    explicit RemapView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    QWidget* buildComparison();
    void write();
    void read();
    void take();
    void setRepinned(bool on);
    void showRows(const remap::Remap& remap);
    void edit(const QString& description, const Change& change);
    [[nodiscard]] const job::OldPlug* old() const;

    Desk& m_desk;
    QStackedWidget* m_stack;
    PastePanel* m_list;
    QComboBox* m_connectors;
    QCheckBox* m_repinned;
    QLabel *m_verdict, *m_empty;
    KeyButton* m_write;
    ListTable *m_rows, *m_work;
    std::string m_connector; ///< id
};

} // namespace vicegrip::app
