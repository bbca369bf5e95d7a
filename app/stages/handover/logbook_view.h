#pragma once

#include "app/desk/desk.h"
#include "core/lookup/lookup.h"

#include <QWidget>

class QLabel;
class QLineEdit;

namespace vicegrip::app {

class ListTable;

/// The logbook of the job, latest first, searchable.
class LogbookView : public QWidget
{
    Q_OBJECT

  public:
    explicit LogbookView(Desk& desk, QWidget* parent = nullptr);

    void refresh();
    /// A line of it that was looked for.
    void goTo(const lookup::Entry& entry);

  private:
    Desk& m_desk;
    QLineEdit* m_filter;
    QLabel* m_count;
    ListTable* m_table;
};

} // namespace vicegrip::app
