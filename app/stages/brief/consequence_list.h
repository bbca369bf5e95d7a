#pragma once

#include "app/desk/desk.h"
#include "core/brief/needs.h"

#include <QWidget>

class QLabel;
class QTableWidget;

namespace vicegrip::app {

class KeyButton;

/// What follows from the facts: every circuit with its reason and its standing, and the one action that brings the job
/// in line. Del takes a circuit out or lets one go, K keeps one that nothing asks for, B brings back what was taken
/// out.
class ConsequenceList : public QWidget
{
    Q_OBJECT

  public:
    explicit ConsequenceList(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    void applyBrief();

    /// The function of the selected row; empty when nothing is.
    [[nodiscard]] job::FunctionId selected() const;
    /// Where its row is in this widget.
    [[nodiscard]] QRect selectedRect() const;

  signals:
    void selectionMoved();

  private:
    void select();
    [[nodiscard]] int rowToShow(const job::FunctionId& before) const;
    void fill(int row, const brief::Consequence& c);
    void sayWhatChanges();
    void takeOut();
    void keep();
    void bringBack();
    void change(const QString& description, const Change& change);
    [[nodiscard]] const brief::Consequence* current() const;

    Desk& m_desk;
    std::vector<brief::Consequence> m_all;
    QLabel* m_summary;
    QTableWidget* m_table;
    KeyButton *m_apply, *m_takeOut, *m_keep, *m_bringBack;
};

} // namespace vicegrip::app
