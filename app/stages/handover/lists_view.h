#pragma once

#include "app/desk/desk.h"
#include "app/desk/worked.h"
#include "core/compare/compare.h"
#include "core/lists/lists.h"

#include <QWidget>

#include <optional>
#include <vector>

class QLabel;

namespace vicegrip::app {

class KeyButton;
class ListTable;
struct Rows;
class TypedField;

/// Wires, cavities and parts as lists for a spreadsheet, and such a list back: what it would change stands there before
/// it is taken.
class ListsView : public QWidget
{
    Q_OBJECT

  public:
    explicit ListsView(Desk& desk, QWidget* parent = nullptr);

    void refresh();

  private:
    struct Read
    {
        QString trouble;
        std::optional<lists::Reading> reading;
        std::vector<compare::Difference> differences;
    };
    void write(lists::Kind kind);
    void choose(const QString& file);
    void read();
    void show(const Read& read);
    void showColumns();
    void fill(const Rows& rows, bool both);
    [[nodiscard]] QString said(const Read& read) const;
    void take();

    Desk& m_desk;
    TypedField* m_field;
    QLabel* m_said;
    ListTable* m_list;
    std::vector<KeyButton*> m_write; ///< a kind each
    KeyButton *m_open, *m_take;
    QString m_file; ///< the list that is read
    AnalysisPtr m_of; ///< the job it was read against last
    Read m_read;
    int m_changed = 0; ///< of its differences, by the list itself
    Worked<Read> m_work;
};

} // namespace vicegrip::app
