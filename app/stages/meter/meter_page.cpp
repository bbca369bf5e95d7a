#include "app/stages/meter/meter_page.h"

#include "app/look/look.h"
#include "app/stages/meter/click_view.h"
#include "app/stages/meter/places_view.h"
#include "app/stages/meter/wiggle_view.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/view_bar.h"

#include <QSignalBlocker>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace vicegrip::app {
namespace {

constexpr int kClicks = 1, kWiggles = 2; // views, as the bar has them

} // namespace

MeterPage::MeterPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_bar(new ViewBar(
          {{"meter-places", tr("Readings")}, {"meter-click", tr("Click test")}, {"meter-wiggle", tr("Wiggle test")}})),
      m_stack(new QStackedWidget),
      m_places(new PlacesView(desk)),
      m_clicks(new ClickView(desk)),
      m_wiggle(new WiggleView(desk))
{
    m_stack->addWidget(m_places);
    m_stack->addWidget(m_clicks);
    m_stack->addWidget(m_wiggle);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kGap, look::kMargin, look::kGap);
    column->setSpacing(0);
    column->addWidget(m_bar);
    column->addWidget(m_stack, 1);
    connect(m_bar, &ViewBar::changed, this, &MeterPage::refresh);
    handFocus(this, m_stack);
}

void MeterPage::refresh()
{
    const auto analysis = m_desk.store.analysis();
    const bool drives = !analysis->clicks.empty(), reads = !analysis->circuits.empty();
    m_bar->offer({true, drives, reads});
    m_bar->setVisible(drives || reads);
    const std::string& at = m_desk.selection.station();
    const int asked = at == proof::kClick && drives ? kClicks : at == proof::kWiggle && reads ? kWiggles : 0;
    if (asked != 0) { // what is to be done next is not a reading
        {
            const QSignalBlocker quiet(m_bar);
            m_bar->choose(asked);
        }
        m_desk.selection.setStation({});
        return; // the change brings us here again
    }
    m_stack->setCurrentIndex(m_bar->chosen());
    switch (m_bar->chosen()) {
    case kClicks:
        m_clicks->refresh();
        break;
    case kWiggles:
        m_wiggle->refresh();
        break;
    default:
        m_places->refresh();
    }
}

} // namespace vicegrip::app
