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
#include "app/views/selected.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/signpost.h"
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
                         {"scale-strokes", tr("Throttle limits")},
                         {"scale-fuel", tr("Flex fuel")},
                         {"scale-switch", tr("Switch")},
                         {"scale-speed", tr("Road speed")},
                         {"scale-probe", tr("Thermocouple")}})),
      m_stack(new QStackedWidget),
      m_nothing(new Signpost)
{
    add<TableView>();
    add<ReadingsView>();
    add<BudgetView>();
    add<StrokeView>();
    add<FuelView>();
    add<SwitchView>();
    add<SpeedView>();
    add<ProbeView>();
    m_stack->addWidget(m_nothing);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kGap, look::kMargin, look::kGap);
    column->addWidget(m_bar);
    column->addWidget(m_stack, 1);
    connect(m_bar, &ViewBar::changed, this, &ScalePage::show);
    connect(m_nothing, &Signpost::taken, this, [this] { emit goTo(analysis::Stage::Trigger); });
    handFocus(this, m_stack);
    sizeStack();
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
    sizeStack();
    m_views[static_cast<size_t>(view)].refresh();
    refreshLive();
}

/// The page needs the room of the view that is shown, not of the largest.
void ScalePage::sizeStack()
{
    for (int i = 0; i < m_stack->count(); ++i) {
        const auto policy = i == m_stack->currentIndex() ? QSizePolicy::Preferred : QSizePolicy::Ignored;
        m_stack->widget(i)->setSizePolicy(policy, policy);
    }
    m_stack->updateGeometry(); // a page that is not shown does not say so itself
}

/// What the selected circuit has something to show of. Teeth of a crank or cam carry no value: they have nothing here.
std::vector<bool> ScalePage::offered() const
{
    std::vector<bool> out(kViews);
    const parts::Part* sensor = selectedSensor(m_desk);
    if (sensor == nullptr)
        return out;
    const auto is = [&](std::initializer_list<parts::PartUse> kinds) {
        return std::ranges::find(kinds, sensor->kind) != kinds.end();
    };
    const bool counts = parts::countsValue(*sensor);
    const bool hasVolts = parts::signalOf(*sensor) == parts::SignalKind::Voltage;
    out[Table] = out[Budget] = hasVolts || counts;
    out[Readings] = hasVolts;
    out[Strokes] = is({parts::PartUse::Throttle, parts::PartUse::Pedal});
    out[Fuel] = is({parts::PartUse::FlexFuel});
    out[Switch] = parts::signalOf(*sensor) == parts::SignalKind::OnOff;
    out[Speed] = counts && sensor->measures == units::Dimension::Speed;
    out[Probe] = hasVolts && is({parts::PartUse::ExhaustTemperature});
    return out;
}

void ScalePage::showNothing()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const parts::Part* sensor = selectedSensor(m_desk);
    const QString nothing = c == nullptr ? QString() : tr("%1 has nothing to scale").arg(text(c->name));
    if (sensor != nullptr &&
        (sensor->kind == parts::PartUse::CrankTrigger || sensor->kind == parts::PartUse::CamTrigger))
        m_nothing->show(nothing,
                        tr("The ECU takes its position from the teeth: there is no table of it. Whether it decodes is "
                           "settled at Trigger."),
                        tr("Go to Trigger"));
    else if (c != nullptr)
        m_nothing->show(nothing,
                        tr("Its pulses stand for no value of their own: what they mean is set in the ECU, as teeth or "
                           "pulses to a turn."),
                        {});
    else
        m_nothing->show(tr("No circuit is selected"), tr("Choose one on the left; Alt+Down takes the first."), {});
    m_stack->setCurrentWidget(m_nothing);
    sizeStack();
}

void ScalePage::refresh()
{
    const std::vector<bool> views = offered();
    m_bar->offer(views);
    if (std::ranges::find(views, true) == views.end()) {
        showNothing();
        return;
    }
    if (m_stack->currentIndex() != m_bar->chosen()) {
        m_stack->setCurrentIndex(m_bar->chosen());
        sizeStack();
    }
    m_views[static_cast<size_t>(m_bar->chosen())].refresh();
}

void ScalePage::refreshLive()
{
    if (m_stack->currentWidget() == m_nothing)
        return;
    if (const auto& live = m_views[static_cast<size_t>(m_bar->chosen())].refreshLive)
        live();
}

} // namespace vicegrip::app
