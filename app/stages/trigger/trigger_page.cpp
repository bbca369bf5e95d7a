#include "app/stages/trigger/trigger_page.h"

#include "app/look/look.h"
#include "app/stages/trigger/capture_view.h"
#include "app/stages/trigger/gap_view.h"
#include "app/stages/trigger/hand_view.h"
#include "app/stages/trigger/light_view.h"
#include "app/stages/trigger/mount_view.h"
#include "app/stages/trigger/wheel_row.h"
#include "app/views/selected.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/labels.h"
#include "app/widgets/signpost.h"
#include "app/widgets/view_bar.h"
#include "core/hand_test/due.h"

#include <QScrollArea>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

/// In a small window, or with large letters, a view may be higher than what is left.
QScrollArea* inRoom(QWidget* view)
{
    auto* room = new QScrollArea;
    room->setWidget(view);
    room->setWidgetResizable(true);
    room->setFrameShape(QFrame::NoFrame);
    room->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    room->setFocusPolicy(Qt::NoFocus);
    return room;
}

} // namespace

TriggerPage::TriggerPage(Desk& desk, QWidget* parent)
    : StagePage(desk, parent),
      m_bar(new ViewBar({{"trigger-hand", tr("By hand")},
                         {"trigger-gap", tr("Gap and seat")},
                         {"trigger-capture", tr("Capture")},
                         {"trigger-light", tr("Timing light")},
                         {"trigger-mount", tr("Where to mount")}})),
      m_row(new WheelRow(desk)),
      m_stack(new QStackedWidget),
      m_nothing(new Signpost),
      m_overview(label({}, look::Size::Body)),
      m_hand(new HandView(desk)),
      m_gap(new GapView(desk)),
      m_capture(new CaptureView(desk)),
      m_light(new LightView(desk)),
      m_mount(new MountView(desk))
{
    for (QWidget* view : std::initializer_list<QWidget*>{m_hand, m_gap, m_capture, m_light, m_mount})
        m_stack->addWidget(inRoom(view));
    m_stack->addWidget(m_nothing);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(look::kMargin, look::kGap, look::kMargin, look::kGap);
    column->setSpacing(0);
    column->addWidget(m_bar);
    column->addWidget(m_row);
    column->addWidget(m_stack, 1);
    m_overview->setObjectName(QStringLiteral("wheels"));
    column->addWidget(m_overview);
    connect(m_bar, &ViewBar::changed, this, &TriggerPage::refreshView);
    connect(m_nothing, &Signpost::taken, this, [this] { m_desk.selection.setCircuit(firstTrigger()); });
    handFocus(this, m_stack);
}

job::CircuitId TriggerPage::firstTrigger() const
{
    const job::Job& job = *m_desk.store.job();
    const auto it = std::ranges::find_if(job.circuits, [&](const auto& c) { return job::readsWheel(job, c); });
    return it == job.circuits.end() ? job::CircuitId() : it->id;
}

/// "Crank trigger: 36-1, never turned by hand", of every wheel of the job.
QString TriggerPage::overview() const
{
    const AnalysisPtr analysis = m_desk.store.analysis();
    QStringList out;
    for (const hand_test::Standing& s : analysis->handTurns) {
        const job::Circuit* c = job::find(*analysis->job, s.circuit);
        const QString wheel = c->trigger && !c->trigger->wheel.empty() ? text(c->trigger->wheel) : tr("no wheel said");
        const auto seen = std::ranges::find(analysis->decoded, s.circuit, &decoded::Standing::circuit);
        const bool captured = seen != analysis->decoded.end() && seen->last;
        const QString state = !s.byHand && captured ? tr("captured: %1").arg(said(proof::stateName(seen->state)))
                              : !s.byHand           ? tr("a coil: proved by a capture, which it has not")
                              : s.state == proof::State::Untouched ? tr("never turned by hand")
                                                                   : said(proof::stateName(s.state));
        out << tr("%1: %2, %3").arg(text(c->name), wheel, state);
    }
    return out.join(QLatin1Char('\n'));
}

void TriggerPage::showNothing()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const job::CircuitId first = firstTrigger();
    m_overview->setText(overview());
    const job::Circuit* there = job::find(*m_desk.store.job(), first);
    m_nothing->show(c == nullptr ? tr("No circuit is selected") : tr("%1 reads no wheel").arg(text(c->name)),
                    there == nullptr ? tr("This job has no crank or cam sensor: the Brief asks for them.")
                                     : tr("What turns past a sensor is settled here, tooth by tooth."),
                    there == nullptr ? QString() : tr("Go to %1").arg(text(there->name)));
}

void TriggerPage::refresh()
{
    const job::Job& job = *m_desk.store.job();
    const job::Circuit* c = selectedCircuit(m_desk);
    const bool reads = c != nullptr && job::readsWheel(job, *c);
    m_bar->setVisible(reads);
    m_row->setVisible(reads);
    m_overview->setVisible(!reads);
    if (!reads) {
        showNothing();
        m_stack->setCurrentWidget(m_nothing);
        return;
    }
    m_row->refresh();
    refreshView();
}

void TriggerPage::refreshView()
{
    m_stack->setCurrentIndex(m_bar->chosen());
    switch (m_bar->chosen()) {
    case ByHand:
        m_hand->refresh();
        break;
    case Gap:
        m_gap->refresh();
        break;
    case ACapture:
        m_capture->refresh();
        break;
    case Light:
        m_light->refresh();
        break;
    default:
        m_mount->refresh();
    }
}

} // namespace vicegrip::app
