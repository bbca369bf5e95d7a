#include "app/stages/start/start_stage.h"

#include "app/look/look.h"
#include "app/stages/start/log_view.h"
#include "app/stages/start/run_sheet_view.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/view_bar.h"

#include <QStackedWidget>
#include <QVBoxLayout>

namespace vicegrip::app {

StartStage::StartStage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_bar(new ViewBar({{"start-sheet", tr("Run sheet")}, {"start-logs", tr("Logs")}})),
      m_stack(new QStackedWidget),
      m_sheet(new RunSheetView(desk)),
      m_logs(new LogView(desk))
{
    m_stack->addWidget(m_sheet);
    m_stack->addWidget(m_logs);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kGap, look::kMargin, look::kGap);
    column->setSpacing(0);
    column->addWidget(m_bar);
    column->addWidget(m_stack, 1);
    connect(m_bar, &ViewBar::changed, this, [this] {
        m_stack->setCurrentIndex(m_bar->chosen());
        refresh();
    });
    connect(m_sheet, &RunSheetView::goTo, this, &StartStage::goTo);
    connect(m_logs, &LogView::goTo, this, &StartStage::goTo);
    connect(m_logs, &LogView::notice, this, &StartStage::notice);
    handFocus(this, m_stack);
}

void StartStage::refresh()
{
    if (m_bar->chosen() == 0)
        m_sheet->refresh();
    else
        m_logs->refresh();
}

void StartStage::refreshLive()
{
    if (m_bar->chosen() == 0)
        m_sheet->refreshLive();
    else
        m_logs->refreshLive();
}

} // namespace vicegrip::app
