#include "app/stages/scale/scale_page.h"

#include "app/look/look.h"
#include "app/stages/scale/budget_view.h"
#include "app/stages/scale/fuel_view.h"
#include "app/stages/scale/probe_view.h"
#include "app/stages/scale/readings_view.h"
#include "app/stages/scale/speed_view.h"
#include "app/stages/scale/stroke_view.h"
#include "app/stages/scale/switch_view.h"
#include "app/stages/scale/table_view.h"
#include "app/widgets/selected.h"
#include "app/widgets/view_bar.h"

#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {

ScalePage::ScalePage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_bar(new ViewBar({{"scale-table", tr("Table")},
                         {"scale-readings", tr("Readings")},
                         {"scale-budget", tr("Error budget")},
                         {"scale-strokes", tr("Throttle stops")},
                         {"scale-fuel", tr("Flex fuel")},
                         {"scale-switch", tr("Switch")},
                         {"scale-speed", tr("Road speed")},
                         {"scale-probe", tr("Thermocouple")}})),
      m_stack(new QStackedWidget)
{
    auto* table = add<TableView>();
    connect(table, &TableView::notice, this, &StagePage::notice);
    add<ReadingsView>();
    add<BudgetView>();
    add<StrokeView>();
    add<FuelView>();
    add<SwitchView>();
    add<SpeedView>();
    add<ProbeView>();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kGap, look::kMargin, look::kGap);
    column->addWidget(m_bar);
    column->addWidget(m_stack, 1);
    connect(m_bar, &ViewBar::changed, this, &ScalePage::show);
    setFocusProxy(m_stack);
    fitStack();
}

template <class V> V* ScalePage::add()
{
    auto* view = new V(m_desk);
    m_stack->addWidget(view);
    Shown shown{view, [view] { view->refresh(); }, {}};
    if constexpr (requires { view->refreshLive(); })
        shown.refreshLive = [view] { view->refreshLive(); };
    m_views.push_back(std::move(shown));
    return view;
}

void ScalePage::show(int view)
{
    m_stack->setCurrentIndex(view);
    fitStack();
    refresh();
    refreshLive();
}

/// The page needs the room of the view that is shown, not of the largest.
void ScalePage::fitStack()
{
    for (int i = 0; i < m_stack->count(); ++i) {
        const auto policy = i == m_stack->currentIndex() ? QSizePolicy::Preferred : QSizePolicy::Ignored;
        m_stack->widget(i)->setSizePolicy(policy, policy);
    }
    m_stack->updateGeometry(); // a page that is not shown does not say so itself
}

void ScalePage::offer()
{
    const parts::Sensor* sensor = selectedSensor(m_desk);
    const auto is = [&](std::initializer_list<parts::SensorKind> kinds) {
        return sensor != nullptr && std::ranges::find(kinds, sensor->kind) != kinds.end();
    };
    const bool counts = sensor != nullptr && parts::countsValue(*sensor);
    const bool hasVolts = sensor != nullptr && parts::signalOf(*sensor) == parts::SignalKind::Voltage;
    m_bar->offer(Readings, hasVolts);
    m_bar->offer(Budget, hasVolts || counts);
    m_bar->offer(Strokes, is({parts::SensorKind::Throttle, parts::SensorKind::Pedal}));
    m_bar->offer(Fuel, is({parts::SensorKind::FlexFuel}));
    m_bar->offer(Switch, sensor != nullptr && parts::signalOf(*sensor) == parts::SignalKind::OnOff);
    m_bar->offer(Speed, counts && sensor->measures == units::Dimension::Speed);
    m_bar->offer(Probe, hasVolts && is({parts::SensorKind::ExhaustTemperature}));
}

void ScalePage::refresh()
{
    offer();
    m_views[static_cast<size_t>(m_stack->currentIndex())].refresh();
}

void ScalePage::refreshLive()
{
    if (const auto& live = m_views[static_cast<size_t>(m_stack->currentIndex())].refreshLive)
        live();
}

} // namespace vicegrip::app
