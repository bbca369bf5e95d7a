#include "app/stages/trigger/hand_view.h"

#include "app/desk/when.h"
#include "app/stages/trigger/loose_feed.h"
#include "app/stages/trigger/setup.h"
#include "app/stages/trigger/wheel_view.h"
#include "app/views/selected.h"
#include "app/widgets/caution.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/state_glyph.h"
#include "app/widgets/typed_field.h"
#include "app/widgets/value_row.h"

#include <QGridLayout>
#include <QLineEdit>
#include <QShortcut>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

using hand_test::Shown;
using units::Dimension;

constexpr int kListen_ms = 120;

QString toothNumber(size_t tooth)
{
    return QString::number(static_cast<qulonglong>(tooth) + 1);
}

} // namespace

HandView::HandView(Desk& desk, QWidget* parent)
    : QWidget(parent), m_desk(desk), m_wheel(new WheelView), m_worked([this](const Promised& p) { take(p); })
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, look::kGap, 0, 0);
    row->setSpacing(2 * look::kMargin);
    row->addWidget(m_wheel, 4);
    auto* right = new QVBoxLayout;
    right->setSpacing(6_px);
    buildFigures(right);
    buildKeys(right);
    row->addLayout(right, 5);
    m_listen.setSingleShot(true);
    m_listen.setInterval(kListen_ms);
    connect(&m_listen, &QTimer::timeout, this, &HandView::listen);
    connect(&m_desk.live, &Live::linksChanged, this, [this] {
        if (!isVisible() || !m_analysis)
            return;
        show();
        if (!m_desk.live.canTurn())
            m_listen.start();
    });
}

void HandView::buildFigures(QVBoxLayout* column)
{
    m_context = label({}, look::Size::Small, false, true);
    m_title = label({}, look::Size::Title, true);
    m_title->setObjectName(QStringLiteral("hand-title"));
    m_leads = label({}, look::Size::Body, false, true);
    m_leads->setObjectName(QStringLiteral("hand-leads"));
    m_loose = new LooseFeed;
    for (QWidget* w : std::initializer_list<QWidget*>{m_context, m_title, m_leads, m_loose})
        column->addWidget(w);
    connect(m_loose, &LooseFeed::changed, this, [this] {
        forget();
        work();
        show();
    });
    auto* figures = new QHBoxLayout;
    figures->setSpacing(2 * look::kMargin);
    const auto put = [&](const QString& name, const char* objectName, QLabel*& number) {
        auto* box = new QVBoxLayout;
        box->setSpacing(0);
        auto* caption = label(name, look::Size::Small, false, true);
        caption->setWordWrap(false);
        box->addWidget(caption);
        number = figure({}, look::Size::Title);
        number->setObjectName(QLatin1String(objectName));
        box->addWidget(number);
        figures->addLayout(box);
    };
    put(tr("on a tooth"), "hand-tooth", m_tooth);
    put(tr("in a gap"), "hand-gap", m_gap);
    put(tr("reads now"), "hand-now", m_now);
    figures->addStretch();
    column->addLayout(figures);
}

void HandView::buildKeys(QVBoxLayout* column)
{
    auto* first = new QHBoxLayout;
    first->setSpacing(look::kGap);
    first->addWidget(m_seen = KeyButton::bound(this, "hand-seen", tr("Low on this tooth"), Qt::Key_Y, true));
    first->addWidget(m_missed = KeyButton::bound(this, "hand-missed", tr("Not seen"), Qt::Key_X, false));
    first->addWidget(m_back = KeyButton::bound(this, "hand-back", tr("Take back"), Qt::Key_B, false));
    first->addStretch();
    column->addLayout(first);
    auto* second = new QHBoxLayout;
    second->setSpacing(look::kGap);
    second->addWidget(m_turn = KeyButton::bound(this, "hand-turn", tr("Turn the bench on"), Qt::Key_T, false));
    second->addWidget(m_keep = KeyButton::bound(this, "hand-keep", tr("Keep this turn"), Qt::Key_K, false));
    second->addStretch();
    column->addLayout(second);
    auto* typed = new QGridLayout;
    typed->setHorizontalSpacing(look::kGap);
    typed->setColumnStretch(2, 1);
    m_reading =
        addValueRow(typed, tr("Or type what it reads"), "hand-reading", readsValue(Dimension::Voltage, "V", -100, 100),
                    saysValue(Dimension::Voltage, "V", 2), [this](double v) {
                        m_reading->edit()->clear();
                        hear(v, true);
                    });
    m_reading->setMaximumWidth(220_px);
    column->addLayout(typed);
    m_verdict = label({}, look::Size::Body, true);
    m_verdict->setObjectName(QStringLiteral("hand-verdict"));
    m_todo = label({}, look::Size::Body);
    m_todo->setObjectName(QStringLiteral("hand-todo"));
    column->addWidget(m_verdict);
    column->addWidget(m_todo);
    column->addStretch(1);
    m_caution = new Caution;
    column->addWidget(m_caution);
    connect(m_seen, &QAbstractButton::clicked, this, [this] { mark(true); });
    connect(m_missed, &QAbstractButton::clicked, this, [this] { mark(false); });
    connect(m_back, &QAbstractButton::clicked, this, &HandView::takeBack);
    connect(m_turn, &QAbstractButton::clicked, this, &HandView::turnOn);
    connect(m_keep, &QAbstractButton::clicked, this, &HandView::keep);
}

HandView::Session* HandView::session()
{
    const auto it = m_sessions.find(m_circuit);
    return it == m_sessions.end() ? nullptr : &it->second;
}

const hand_test::Standing* HandView::standing() const
{
    const auto of = std::ranges::find(m_analysis->handTurns, m_circuit, &hand_test::Standing::circuit);
    return of == m_analysis->handTurns.end() ? nullptr : &*of;
}

void HandView::refresh()
{
    m_analysis = m_desk.store.analysis();
    const job::Circuit* circuit = selectedCircuit(m_desk);
    if (circuit == nullptr)
        return;
    if (m_circuit != circuit->id) {
        m_circuit = circuit->id;
        forget();
        m_loose->setFeed(hand_test::looseFor(*m_analysis->job, *circuit));
    }
    const job::TriggerSetup setup = setupOf(m_desk);
    if (const Session* s = session(); s != nullptr && s->wheel != setup.wheel)
        m_sessions.erase(m_circuit); // another wheel: it begins again
    if (const auto wheel = wheelOf(m_desk); wheel && session() == nullptr)
        m_sessions.emplace(m_circuit, Session{setup.wheel, hand_test::Count(*wheel)});
    work();
    show();
}

void HandView::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    if (!m_desk.live.canTurn()) // the bench's is read when its wheel has turned
        m_listen.start();
}

/// The network is solved twice, with bounds: of a large job that takes longer than a frame.
void HandView::work()
{
    m_worked.ask([job = m_analysis->job, id = m_circuit,
                  loose = m_loose->isLoose() ? std::optional(m_loose->feed()) : std::nullopt] {
        Promised out{job, id, {}, {}};
        const job::Circuit* circuit = job::find(*job, id);
        if (circuit == nullptr)
            return out;
        auto due = loose ? hand_test::dueLoose(*job, *circuit, *loose) : hand_test::due(*job, *circuit);
        if (due)
            out.due = std::move(*due);
        else
            out.trouble = text(due.error().sentence);
        return out;
    });
}

void HandView::take(const Promised& promised)
{
    if (promised.circuit != m_circuit)
        return;
    m_due = promised.due;
    m_dueOf = promised.job;
    m_trouble = promised.trouble;
    show();
}

void HandView::show()
{
    const Session* s = session();
    const bool can = s != nullptr && m_due;
    const bool bench = m_desk.live.canTurn() && !m_loose->isLoose();
    m_seen->setEnabled(can && !s->count.isFull());
    m_missed->setEnabled(can && !s->count.isFull());
    m_back->setEnabled(can && s->count.due() > 0);
    m_keep->setEnabled(can && s->count.isFull() && m_dueOf == m_analysis->job);
    m_turn->setVisible(m_desk.live.canTurn());
    m_turn->setEnabled(can && bench && !m_turning && !s->count.isFull());
    m_reading->edit()->setEnabled(can && !s->count.isFull());
    m_caution->setText(
        m_loose->isLoose()
            ? tr("Key out of the car, gearbox in neutral, plugs out: it turns easily and cannot fire. Turn by the "
                 "crank's "
                 "bolt, take the bar off after each turn. A fuse of 1 A in the feed. Local rules and licensed practice "
                 "come first.")
            : tr("The key is on and the engine is turned by hand: injectors and coils unplugged, pump fuse drawn, "
                 "gearbox "
                 "in neutral, plugs out. Hands clear of belts and fans; take the bar off after each turn. Local rules "
                 "and "
                 "licensed practice come first."));
    showDue();
    showWheel();
    showVerdict();
}

void HandView::showDue()
{
    const Session* s = session();
    const job::Job& job = *m_analysis->job;
    const job::Circuit* circuit = job::find(job, m_circuit);
    m_context->setText(circuit == nullptr
                           ? QString()
                           : text(circuit->name) + (m_loose->isLoose() ? tr(", at its own plug, key out")
                                                                       : tr(", in its circuit, key on")));
    m_title->setText(s == nullptr                    ? tr("Say the wheel first: its field is above (W)")
                     : !m_due && m_trouble.isEmpty() ? tr("Working out what it must read")
                     : !m_due                        ? tr("Nothing can be promised by hand")
                     : s->count.isFull()             ? tr("Is the turn full? Look at the wheel")
                     : s->count.due() == 0           ? tr("Turn to the first tooth after the gap")
                                                     : tr("Turn on to tooth %1").arg(toothNumber(s->count.due())));
    if (!m_due) {
        m_leads->setText(m_trouble);
        for (QLabel* l : {m_tooth, m_gap, m_now})
            l->setText(QStringLiteral("–"));
        return;
    }
    const QString colour = wireAt(job, m_due->red);
    m_leads->setText(m_loose->isLoose()
                         ? tr("red lead on the sensor's signal, black lead on its ground")
                         : tr("red lead on %1 at %2, black lead on %3")
                               .arg(colour.isEmpty() ? tr("the signal") : tr("the %1 wire").arg(colour),
                                    text(job::spoken(job, m_due->red)), text(job::spoken(job, m_due->black))));
    m_tooth->setText(tr("below %1").arg(voltsText(m_due->toothMost_v, 2)));
    m_gap->setText(text(units::formatRange(m_due->gapLeast_v, m_due->gapMost_v, Dimension::Voltage, "V", 2)));
    m_now->setText(m_read_v ? voltsText(*m_read_v, 2) : QStringLiteral("–"));
}

void HandView::showWheel()
{
    const Session* s = session();
    if (s == nullptr) {
        m_wheel->clear();
        return;
    }
    std::vector<WheelView::Mark> marks;
    for (const bool seen : s->count.seen())
        marks.push_back(seen ? WheelView::Mark::Seen : WheelView::Mark::Missed);
    const size_t due = s->count.due(), teeth = s->count.wheel().teeth.size();
    if (!s->count.isFull())
        marks.push_back(WheelView::Mark::Due);
    const auto missed = static_cast<int>(s->count.missed().size());
    m_wheel->show(s->count.wheel(), std::move(marks),
                  tr("%1 of %2").arg(static_cast<qulonglong>(due)).arg(static_cast<qulonglong>(teeth)),
                  missed == 0 ? tr("teeth have passed") : tr("teeth have passed, %1 not seen").arg(missed));
    const bool bench = m_desk.live.canTurn() && !m_loose->isLoose();
    m_wheel->setTurned(bench               ? s->crank_deg
                       : s->count.isFull() ? 0
                                           : hand_test::middleOf(s->count.wheel(), due, false));
}

void HandView::showVerdict()
{
    const auto& c = look::colours();
    const Session* s = session();
    const hand_test::Standing* stands = standing();
    m_todo->clear();
    if (!m_said.isEmpty()) {
        m_verdict->setText(m_said);
        setInk(m_verdict, m_bad ? c.failing : c.ink);
    } else if (s != nullptr && s->count.due() == 0 && stands != nullptr && stands->last) {
        m_verdict->setText(
            stands->state == proof::State::Done ? tr("Proved: all %1 teeth seen.").arg(stands->last->teeth)
            : stands->state == proof::State::Stale
                ? tr("Stale: %1.").arg(text(stands->reason))
                : text(stands->reason).replace(0, 1, text(stands->reason).left(1).toUpper()) + QLatin1Char('.'));
        setInk(m_verdict, inkOf(stands->state));
        m_todo->setText(text(stands->todo));
        return;
    } else {
        m_verdict->clear();
    }
    if (s == nullptr)
        return;
    const auto missed = s->count.missed();
    if (!missed.empty())
        m_todo->setText(text(hand_test::missedText(s->count.wheel(), missed)));
    else if (s->count.isFull())
        m_todo->setText(tr("As many as it has. K only if the wheel stands as it began: else one was missed."));
}

void HandView::mark(bool seen)
{
    Session* s = session();
    if (s == nullptr || !m_due)
        return;
    const size_t tooth = s->count.due();
    s->count.mark(seen);
    m_bad = !seen;
    m_said = seen ? tr("Tooth %1: seen.").arg(toothNumber(tooth)) : tr("Tooth %1: not seen.").arg(toothNumber(tooth));
    show();
}

void HandView::takeBack()
{
    if (Session* s = session()) {
        s->count.takeBack();
        m_said.clear();
        show();
    }
}

/// From the middle of a gap to that of the next tooth, and on.
void HandView::turnOn()
{
    Session* s = session();
    if (s == nullptr || !m_due || m_turning || s->count.isFull())
        return;
    const bool toTooth = !s->onTooth;
    const double at = hand_test::middleOf(s->count.wheel(), s->count.due(), toTooth);
    m_turning = true;
    m_turn->setEnabled(false);
    m_desk.live.turn(at, [this, circuit = m_circuit, at, toTooth](const QString& trouble) {
        Session* turned = session();
        m_turning = trouble.isEmpty() && circuit == m_circuit && turned != nullptr;
        if (circuit != m_circuit || turned == nullptr)
            return;
        if (!trouble.isEmpty()) {
            m_said = trouble;
            m_bad = true;
            show();
            return;
        }
        turned->crank_deg = at;
        turned->onTooth = toTooth;
        listen();
    });
}

/// A meter that is linked is read again and again while hands turn the engine; the bench's when its wheel has turned.
void HandView::listen()
{
    Session* s = session();
    if (isVisible() && m_turning && m_desk.live.canTurn() && !m_desk.live.meterReady()) {
        m_listen.start(); // it is at another reading
        return;
    }
    if (!isVisible() || !m_desk.live.meterReady()) {
        m_turning = false;
        return;
    }
    const bool bench = m_desk.live.canTurn();
    if (bench && !m_turning)
        return; // its wheel stands as it stood: that was counted
    if (s == nullptr || !m_due || s->count.isFull() || (bench && m_loose->isLoose())) {
        m_turning = false;
        show();
        return;
    }
    m_desk.live.takeReading(
        text(m_due->red.text()), text(m_due->black.text()), job::Condition::KeyOn,
        [this, circuit = m_circuit, bench](const std::optional<job::Reading>& reading, const QString& sentence) {
            m_turning = false; // another circuit's turn
            if (circuit != m_circuit)
                return;
            if (reading)
                hear(reading->si(), !bench);
            else if (bench)
                m_said = sentence;
            constexpr int kMostTries = 5; // that did not stand still
            m_tries = reading ? 0 : m_tries + 1;
            m_turning = bench && !reading && m_tries < kMostTries;
            show();
            if (!bench || m_turning)
                m_listen.start();
        });
}

/// `told`: by a meter on a real engine, of which nobody knows where it stands.
void HandView::hear(double volts, bool told)
{
    Session* s = session();
    if (s == nullptr || !m_due)
        return;
    const size_t before = s->count.due();
    m_read_v = volts;
    const Shown shown = s->count.take(*m_due, volts);
    m_bad = shown == Shown::Neither;
    if (shown == Shown::Neither)
        m_said = text(hand_test::whyNeither(*m_due, volts));
    else if (s->count.due() > before)
        m_said = tr("Tooth %1: seen.").arg(toothNumber(before));
    else if (!told && shown == Shown::Gap && s->onTooth) { // the bench's wheel is known to stand before it
        mark(false);
        return;
    } else if (shown == Shown::Gap)
        m_said = tr("In a gap. X where a tooth stands before the sensor now and it is not seen.");
    show();
}

void HandView::keep()
{
    Session* s = session();
    const job::Circuit* circuit = job::find(*m_analysis->job, m_circuit);
    if (s == nullptr || circuit == nullptr || !m_keep->isEnabled())
        return;
    const job::HandTurn turn =
        hand_test::record(m_analysis->facts, *circuit, s->count, *m_due, m_loose->isLoose(), nowText());
    if (m_desk.store.editOrSay(tr("%1 turned by hand").arg(text(circuit->name)),
                               [&](job::Job& job) { job.handTurns.push_back(turn); })) {
        m_sessions.erase(m_circuit);
        forget();
        refresh();
    }
}

} // namespace vicegrip::app
