#pragma once

#include "app/desk/desk.h"
#include "app/stages/start/reviewed_log.h"

#include <QWidget>

class QComboBox;

namespace vicegrip::app {

class ListTable;
class TypedField;

/// What each column of a log is taken for, and how a hand puts that right: it is kept in the job, for the next log with
/// such a column too.
class ColumnList : public QWidget
{
    Q_OBJECT

  public:
    explicit ColumnList(Desk& desk, QWidget* parent = nullptr);
    void show(std::shared_ptr<const ReviewedLog> of);
    /// The column in hand; none while no log is shown.
    [[nodiscard]] std::optional<size_t> column() const;

  signals:
    void chosen();

  private:
    void fillChoices();
    void take(int index);
    void takeUnit(const QString& unit);
    void say(const std::function<void(job::LogColumn&)>& change);
    [[nodiscard]] QString wordsOf(const log_columns::Meaning& meaning) const;

    Desk& m_desk;
    std::shared_ptr<const ReviewedLog> m_of;
    ListTable* m_list;
    QComboBox* m_is;
    TypedField* m_in;
};

} // namespace vicegrip::app
