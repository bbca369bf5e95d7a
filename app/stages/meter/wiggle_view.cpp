#include "app/stages/meter/wiggle_view.h"

#include "app/desk/mending.h"
#include "app/stages/meter/trace_plot.h"
#include "app/widgets/caution.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/units/units.h"

#include <QShortcut>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

QString number(double value, int decimals)
{
    return text(units::formatNumber(value, decimals));
}

} // namespace

WiggleView::WiggleView(Desk& desk, QWidget* parent)
    : QWidget(parent), m_desk(desk), m_worked([this](const Places& places) { take(places); })
{
    m_clock.start();
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, look::kGap, 0, 0);
    row->setSpacing(look::kMargin);
    auto* left = new QVBoxLayout;
    left->setSpacing(6_px);
    buildWatch(left);
    row->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(6_px);
    buildPlaces(right);
    row->addLayout(right, 1);
    connect(&desk.live, &Live::heard, this, [this] {
        if (isVisible())
            hear();
    });
    connect(&desk.live, &Live::sampled, this, [this] {
        if (isVisible() && m_analysis)
            show();
    });
}

KeyButton* WiggleView::button(const char* name, const QString& words, Qt::Key key, bool primary)
{
    auto* out = new KeyButton(words, QKeySequence(key).toString(QKeySequence::NativeText), primary);
    out->setObjectName(QLatin1String(name));
    connect(new QShortcut(QKeySequence(key), this), &QShortcut::activated, out, [out] { out->click(); });
    return out;
}

void WiggleView::buildWatch(QVBoxLayout* column)
{
    m_context = label({}, look::Size::Small, false, true);
    m_title = label({}, look::Size::Title, true);
    m_title->setObjectName(QStringLiteral("wiggle"));
    m_reading = figure({}, look::Size::Big);
    m_reading->setObjectName(QStringLiteral("wiggle-reading"));
    m_held = figure({}, look::Size::Small);
    m_held->setObjectName(QStringLiteral("wiggle-hold"));
    column->addWidget(m_context);
    auto* top = new QHBoxLayout;
    top->setSpacing(look::kGap);
    top->addWidget(m_title, 1);
    top->addWidget(m_reading, 0, Qt::AlignRight);
    column->addLayout(top);
    column->addWidget(m_held, 0, Qt::AlignRight);
    m_trace = new TracePlot;
    column->addWidget(m_trace, 1);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    keys->addWidget(m_there = button("wiggle-there", tr("Hands are there"), Qt::Key_Space, true));
    keys->addWidget(m_off = button("wiggle-off", tr("Hands off"), Qt::Key_O));
    keys->addStretch();
    column->addLayout(keys);
    m_says = label({}, look::Size::Body, true);
    m_says->setObjectName(QStringLiteral("wiggle-says"));
    m_todo = label({}, look::Size::Body);
    m_todo->setObjectName(QStringLiteral("wiggle-todo"));
    column->addWidget(m_says);
    column->addWidget(m_todo);
    auto* after = new QHBoxLayout;
    after->setSpacing(look::kGap);
    after->addWidget(m_keep = button("wiggle-keep", tr("Keep it"), Qt::Key_K));
    after->addWidget(m_mended = button("wiggle-mended", tr("It is mended"), Qt::Key_D));
    after->addStretch();
    column->addLayout(after);
    connect(m_there, &QAbstractButton::clicked, this, [this] { handsAt(target()); });
    connect(m_off, &QAbstractButton::clicked, this, [this] { handsAt({}); });
    connect(m_keep, &QAbstractButton::clicked, this, &WiggleView::keep);
    connect(m_mended, &QAbstractButton::clicked, this, &WiggleView::mended);
}

void WiggleView::buildPlaces(QVBoxLayout* column)
{
    column->addWidget(label(tr("Places, in the order hands go"), look::Size::Small, false, true));
    m_table = new ListTable(
        "places-to-hold", tr("Places, in the order hands go"),
        {{{}, 30, true}, {tr("Hands at"), 0}, {tr("s"), 40, true}, {tr("Lost"), 50, true}, {tr("Likely"), 60, true}});
    column->addWidget(m_table, 1);
    m_again = button("wiggle-again", tr("Begin anew"), Qt::Key_R);
    column->addWidget(m_again, 0, Qt::AlignLeft);
    auto* caution = new Caution;
    caution->setText(tr("Key on, engine stopped, hands clear of belts and fans: they may start. Where it must run for "
                        "this, local rules and licensed practice come first."));
    column->addWidget(caution);
    connect(m_again, &QAbstractButton::clicked, this, &WiggleView::beginAnew);
    connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row) {
        m_chosen = row < 0 ? std::nullopt : std::optional(static_cast<size_t>(row));
        show();
    });
}

WiggleView::Session* WiggleView::session()
{
    const auto it = m_sessions.find(m_circuit);
    return it == m_sessions.end() ? nullptr : &it->second;
}

const wiggle::Standing* WiggleView::standing() const
{
    const auto it = std::ranges::find(m_analysis->wiggles, m_circuit, &wiggle::Standing::circuit);
    return it == m_analysis->wiggles.end() ? nullptr : &*it;
}

void WiggleView::refresh()
{
    const auto analysis = m_desk.store.analysis();
    const job::CircuitId& circuit = m_desk.selection.circuit();
    if (circuit != m_circuit)
        letGo();
    if (m_desk.store.path() != m_path) { // another job may call its circuits the same
        m_path = m_desk.store.path();
        m_sessions.clear();
        m_analysis.reset();
    }
    const bool same = analysis == m_analysis && circuit == m_circuit && m_condition == m_desk.selection.heardUnder();
    m_analysis = analysis;
    m_circuit = circuit;
    m_condition = m_desk.selection.heardUnder();
    if (!same)
        m_worked.ask([job = analysis->job, circuit, condition = m_condition]() -> Places {
            const job::Circuit* of = job::find(*job, circuit);
            return {circuit, wiggle::holds(*job, circuit, condition), of == nullptr ? 0 : wiggle::grainOf(*job, *of)};
        });
    show();
}

/// Where the places are as they were, what was heard stays.
void WiggleView::take(const Places& places)
{
    const auto it = m_sessions.find(places.circuit);
    const auto names = [](const std::vector<wiggle::Hold>& holds) {
        std::vector<std::string> out;
        for (const wiggle::Hold& h : holds)
            out.push_back(h.name);
        return out;
    };
    if (it != m_sessions.end() && names(it->second.holds) == names(places.holds))
        it->second.holds = places.holds;
    else
        m_sessions.insert_or_assign(places.circuit, Session{places.holds, wiggle::Watch(places.grain), {}});
    if (places.circuit == m_circuit)
        show();
}

std::optional<size_t> WiggleView::target()
{
    const Session* s = session();
    if (s == nullptr || s->holds.empty())
        return std::nullopt;
    if (m_chosen && *m_chosen < s->holds.size())
        return m_chosen;
    const wiggle::Standing* kept = standing();
    if (kept != nullptr && kept->state == proof::State::Stale && s->watch.dropOuts().empty())
        if (const auto mended = wiggle::holdOf(s->holds, wiggle::named(*m_analysis->job, kept->last));
            mended && s->watch.seconds(*mended) < wiggle::kLongEnough_s)
            return mended;
    return s->verdict.next ? s->verdict.next : s->verdict.hold;
}

std::vector<faults::Loose> WiggleView::loose()
{
    if (const Session* s = session(); s != nullptr && s->verdict.hold)
        return s->verdict.what;
    const wiggle::Standing* kept = standing();
    return kept != nullptr && kept->state == proof::State::Failing ? wiggle::named(*m_analysis->job, kept->last)
                                                                   : std::vector<faults::Loose>();
}

/// What hands do now.
QString WiggleView::bidden(const Session& s)
{
    if (!s.watch.steady())
        return tr("Hands off for a moment");
    if (s.verdict.hold)
        return tr("%1 lets go").arg(text(s.holds[*s.verdict.hold].name));
    if (s.verdict.rest && s.watch.hands())
        return tr("Hands off: does it stop?");
    if (s.verdict.rest && !m_chosen)
        return tr("Wait: does it go on?");
    const auto to = target();
    if (!to)
        return s.watch.dropOuts().empty() ? tr("Nothing lets go") : tr("It comes wherever hands are");
    const QString name = text(s.holds[*to].name);
    return s.watch.hands() == to ? tr("Move it: %1").arg(name) : tr("Hands to: %1").arg(name);
}

bool WiggleView::enough()
{
    const Session* s = session();
    if (s == nullptr || !s->watch.steady())
        return false;
    if (!s->watch.dropOuts().empty() || (!s->verdict.next && !s->holds.empty()))
        return true;
    const wiggle::Standing* kept = standing();
    if (kept == nullptr || kept->state != proof::State::Stale)
        return false;
    const auto mended = wiggle::holdOf(s->holds, wiggle::named(*m_analysis->job, kept->last));
    return mended && s->watch.seconds(*mended) >= wiggle::kLongEnough_s;
}

void WiggleView::hear()
{
    Session* s = session();
    const job::Circuit* circuit = m_analysis ? job::find(*m_analysis->job, m_circuit) : nullptr;
    if (s == nullptr || circuit == nullptr)
        return;
    if (const auto reading = m_desk.live.reading(*m_analysis->job, *circuit))
        s->watch.hear(seconds(), *reading);
}

bool WiggleView::isKept()
{
    const Session* s = session();
    return s != nullptr && m_kept == s->watch.dropOuts().size();
}

void WiggleView::show()
{
    Session* s = session();
    const job::Circuit* circuit = job::find(*m_analysis->job, m_circuit);
    m_context->setText(circuit == nullptr ? tr("Wiggle test") : tr("Wiggle test of %1").arg(text(circuit->name)));
    if (circuit == nullptr || s == nullptr || s->holds.empty()) {
        showNone();
        return;
    }
    s->verdict = wiggle::judge(*m_analysis->job, *circuit, s->holds, s->watch, s->verdict.hold);
    m_title->setText(bidden(*s));
    showSession(*s);
    showTable(*s);
}

void WiggleView::showNone()
{
    const job::Circuit* circuit = job::find(*m_analysis->job, m_circuit);
    const bool works = circuit != nullptr && !circuit->input.empty() && session() == nullptr;
    m_title->setText(circuit == nullptr ? tr("No circuit is selected")
                     : works            ? text(circuit->name)
                                        : tr("The ECU does not read %1").arg(text(circuit->name)));
    m_reading->clear();
    m_held->clear();
    m_trace->clear({});
    m_says->setText(works ? QString() : tr("Select a circuit that has an input: its reading is watched."));
    setInk(m_says, look::colours().ink);
    m_todo->clear();
    m_table->fill({});
    for (KeyButton* b : {m_there, m_off, m_again, m_keep, m_mended})
        b->setEnabled(false);
}

void WiggleView::showSession(Session& s)
{
    const job::Job& job = *m_analysis->job;
    const job::Circuit& circuit = *job::find(job, m_circuit);
    const parts::Part* sensor = job::sensorOf(job, circuit);
    const bool inHertz = sensor != nullptr && parts::countsValue(*sensor);
    const QString unit = inHertz ? QStringLiteral("Hz") : QStringLiteral("V");
    const int decimals = inHertz ? 1 : 2;
    const bool live = job::isLive(m_desk.selection.condition());
    if (!live)
        s.watch.pause();
    const auto now = live ? m_desk.live.reading(job, circuit) : std::nullopt;
    m_reading->setText(now ? number(*now, decimals) + u' ' + unit
                           : m_desk.live.missing(job, circuit, proof::StationKind::Input, QStringLiteral("–")));
    setInk(m_reading, s.watch.outSince() ? look::colours().failing : look::colours().ink);
    m_held->setText(s.watch.least()
                        ? tr("least %1 %3   most %2 %3")
                              .arg(number(*s.watch.least(), decimals), number(*s.watch.most(), decimals), unit)
                        : QString());
    constexpr double kRoom = 1.2;
    const double room = std::ceil(2 * std::max(0.5, kRoom * s.watch.most().value_or(1))) / 2;
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    const double most = inHertz ? room : std::min(room, std::ceil(electrics::fullScaleVolts(job, *input)));
    if (s.watch.trace().empty())
        m_trace->clear(tr("Nothing has been heard of it yet."));
    else
        m_trace->show(s.watch, most, unit);
    const auto to = target();
    const QString past = m_desk.live.notOfNow();
    m_there->setEnabled(now && to && past.isEmpty() && s.watch.steady());
    m_off->setEnabled(s.watch.hands().has_value());
    m_again->setEnabled(!s.watch.trace().empty());
    m_keep->setEnabled(enough() && !isKept() && past.isEmpty());
    m_mended->setEnabled(!loose().empty());
    const wiggle::Standing* kept = standing();
    const bool fresh = s.watch.trace().empty() || (s.watch.dropOuts().empty() && s.watch.marks().empty());
    if (!past.isEmpty()) {
        m_says->setText(past);
        m_todo->clear();
    } else if (!now) {
        m_says->setText(tr("The ECU says nothing: key on (Ctrl+Y), and its link or the bench connected."));
        m_todo->clear();
    } else if (kept != nullptr && fresh && kept->state != proof::State::Done) {
        m_says->setText(kept->state == proof::State::Stale ? tr("Stale: %1.").arg(text(kept->reason))
                                                           : text(kept->reason) + QLatin1Char('.'));
        m_todo->setText(kept->state == proof::State::Stale ? tr("Move it again: nothing may let go there.")
                                                           : tr("Mend it, and say so."));
    } else {
        m_says->setText(text(s.verdict.says));
        m_todo->setText(text(s.verdict.todo));
    }
    setInk(m_says, now && s.verdict.hold ? look::colours().failing : look::colours().ink);
}

void WiggleView::showTable(const Session& s)
{
    std::vector<QStringList> rows;
    const bool told = !s.watch.dropOuts().empty();
    for (size_t h = 0; h < s.holds.size(); ++h) {
        const wiggle::Weighed& w = s.verdict.holds[h];
        rows.push_back({QString::number(h + 1), text(s.holds[h].name), w.seconds > 0 ? number(w.seconds, 0) : QString(),
                        w.dropOuts > 0  ? QString::number(w.dropOuts)
                        : w.seconds > 0 ? QStringLiteral("0")
                                        : QString(),
                        told ? number(100 * w.share, 0) + QStringLiteral(" %") : QString()});
    }
    const QSignalBlocker quiet(m_table);
    m_table->fill(rows);
    const auto& c = look::colours();
    for (int row = 0; row < m_table->rowCount(); ++row) {
        const auto h = static_cast<size_t>(row);
        const bool here = s.watch.hands() == h;
        QFont font = m_table->item(row, 1)->font();
        font.setBold(here);
        m_table->item(row, 1)->setFont(font);
        for (int column = 1; column < m_table->columnCount(); ++column)
            m_table->item(row, column)->setForeground(s.verdict.hold == h ? c.failing : c.ink);
        m_table->item(row, 1)->setData(
            Qt::AccessibleTextRole, here ? tr("%1, hands are here").arg(text(s.holds[h].name)) : text(s.holds[h].name));
    }
    if (const auto to = target())
        m_table->setCurrentCell(static_cast<int>(*to), 1);
    else
        m_table->clearSelection();
}

void WiggleView::handsAt(std::optional<size_t> hold)
{
    Session* s = session();
    if (s == nullptr || (hold && *hold >= s->holds.size()))
        return;
    s->watch.handsAt(seconds(), hold);
    m_desk.live.hold(hold ? s->holds[*hold].keys : std::vector<std::string>());
    m_chosen.reset();
    show();
}

/// Who looks elsewhere has taken his hands off.
void WiggleView::letGo()
{
    m_chosen.reset();
    m_kept.reset();
    Session* s = session();
    if (s == nullptr)
        return;
    s->watch.pause();
    if (!s->watch.hands())
        return;
    s->watch.handsAt(seconds(), {});
    m_desk.live.hold({});
}

void WiggleView::hideEvent(QHideEvent* event)
{
    letGo();
    QWidget::hideEvent(event);
}

void WiggleView::beginAnew()
{
    Session* s = session();
    const job::Circuit* circuit = job::find(*m_analysis->job, m_circuit);
    if (s == nullptr || circuit == nullptr)
        return;
    letGo();
    s->watch = wiggle::Watch(wiggle::grainOf(*m_analysis->job, *circuit));
    show();
}

void WiggleView::keep()
{
    Session* s = session();
    const job::Job& now = *m_desk.store.job();
    const job::Circuit* circuit = job::find(now, m_circuit);
    if (s == nullptr || circuit == nullptr)
        return;
    const job::Wiggle wiggle =
        wiggle::record(now, m_desk.store.analysis()->facts, *circuit, s->watch, s->verdict, nowText());
    if (m_desk.store.editOrSay(tr("Wiggle test of %1").arg(text(circuit->name)),
                               [&](job::Job& job) { job.wiggles.push_back(wiggle); }))
        m_kept = s->watch.dropOuts().size();
    show();
}

/// What was heard is kept with it, unless the same has been: one more drop-out on the way there is no other finding.
void WiggleView::mended()
{
    const auto what = loose();
    if (what.empty())
        return;
    const wiggle::Standing* kept = standing();
    const bool same = m_kept && kept != nullptr && wiggle::named(*m_analysis->job, kept->last) == what;
    if (session() != nullptr && session()->verdict.hold && !same)
        keep();
    const job::Job& now = *m_desk.store.job();
    diagnosis::Suspect suspect;
    suspect.what = wiggle::whatText(now, what);
    for (const faults::Loose& l : what)
        suspect.subjects.merge(l.subjects(now));
    if (keepMend(m_desk, suspect))
        beginAnew();
}

} // namespace vicegrip::app
