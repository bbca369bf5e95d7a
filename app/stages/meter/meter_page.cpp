#include "app/stages/meter/meter_page.h"

#include "app/look/look.h"
#include "app/stages/meter/click_view.h"
#include "app/stages/meter/places_view.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/view_bar.h"

#include <QSignalBlocker>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace vicegrip::app {

MeterPage::MeterPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_bar(new ViewBar({{"meter-places", tr("Readings")}, {"meter-click", tr("Click test")}})),
      m_stack(new QStackedWidget),
      m_places(new PlacesView(desk)),
      m_clicks(new ClickView(desk))
{
    m_stack->addWidget(m_places);
    m_stack->addWidget(m_clicks);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kGap, look::kMargin, look::kGap);
    column->setSpacing(0);
    column->addWidget(m_bar);
    column->addWidget(m_stack, 1);
    connect(m_bar, &ViewBar::changed, this, &MeterPage::refresh);
    handFocus(this, m_stack);
}

/// A job in which nothing is driven has one view, and no bar over it.
void MeterPage::refresh()
{
    const bool drives = !m_desk.store.analysis()->clicks.empty();
    m_bar->offer({true, drives});
    m_bar->setVisible(drives);
    if (drives && m_desk.selection.station() == proof::kClick) { // what is to be done next is a click
        {
            const QSignalBlocker quiet(m_bar);
            m_bar->choose(1);
        }
        m_desk.selection.setStation({});
        return; // the change brings us here again
    }
    m_stack->setCurrentIndex(m_bar->chosen());
    if (m_bar->chosen() == 0)
        m_places->refresh();
    else
        m_clicks->refresh();
}

} // namespace vicegrip::app
