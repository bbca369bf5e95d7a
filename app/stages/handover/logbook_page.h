#pragma once

#include "app/stages/stage_page.h"

class QLabel;
class QLineEdit;

namespace vicegrip::app {

class ListTable;

/// Handover, as far as it goes: the logbook of the job, latest first, searchable.
class LogbookPage : public StagePage
{
    Q_OBJECT

  public:
    explicit LogbookPage(Desk& desk, QWidget* parent = nullptr);

    void refresh() override;
    void goToEntry(const lookup::Entry& entry) override;

  private:
    QLineEdit* m_filter;
    QLabel* m_count;
    ListTable* m_table;
};

} // namespace vicegrip::app
