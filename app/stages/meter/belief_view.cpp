#include "app/stages/meter/belief_view.h"

#include "app/desk/fault_families.h"
#include "app/desk/mending.h"
#include "app/desk/part_library.h"
#include "app/look/look.h"
#include "app/stages/meter/share_bar.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QGridLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <memory>

namespace vicegrip::app {
namespace {

constexpr look::Px kKey{32};

/// Whether anything that was read of the circuit, or that answered to its output, contradicts the drawing.
bool contradicts(const analysis::Analysis& analysis, const job::CircuitId& id)
{
    const auto fails = [](const auto& standing) { return standing.state == proof::State::Failing; };
    const proof::CircuitView* view = analysis::find(analysis, id);
    return view != nullptr &&
           (std::ranges::any_of(view->stations,
                                [&](const auto& of) { return std::ranges::any_of(of.second, fails); }) ||
            std::ranges::any_of(analysis.clicks,
                                [&](const clicks::Standing& s) { return s.circuit == id && fails(s); }));
}

} // namespace

/// A finder with all that it looks at. Solving the networks of all suspects takes a moment; a reading more hardly any.
struct BeliefView::Looking
{
    parts::Library parts;
    AnalysisPtr of;
    job::CircuitId circuit;
    std::unique_ptr<diagnosis::Finder> finder;

    diagnosis::Diagnosis after(const AnalysisPtr& now, const job::CircuitId& id, job::Condition condition)
    {
        if (!finder || circuit != id || !finder->goOnWith(*now))
            finder = std::make_unique<diagnosis::Finder>(*now, id, *faultFamilies(), parts);
        of = now;
        circuit = id;
        return finder->diagnosis({}, condition, 1);
    }
};

BeliefView::BeliefView(Desk& desk, QWidget* parent)
    : QWidget(parent), m_desk(desk), m_worked([this](const diagnosis::Diagnosis& found) {
          if (m_of) // else it was mended meanwhile
              show(found);
      })
{
    setObjectName(QStringLiteral("belief"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4_px, 0, 0);
    column->setSpacing(2_px);
    m_heading = label(tr("What is likely wrong"), look::Size::Body, true);
    m_heading->setObjectName(QStringLiteral("belief-heading"));
    m_go = new KeyButton(tr("Go there"), tr("G"), false);
    m_go->setObjectName(QStringLiteral("belief-go"));
    m_mended = new KeyButton(tr("It is mended"), tr("D"), false);
    m_mended->setObjectName(QStringLiteral("belief-mended"));
    m_mended->hide();
    auto* top = new QHBoxLayout;
    top->addWidget(m_heading, 1);
    for (KeyButton* key : {m_go, m_mended}) {
        key->setFixedHeight(kKey);
        top->addWidget(key);
    }
    column->addLayout(top);
    auto* rows = new QGridLayout;
    rows->setHorizontalSpacing(8_px);
    rows->setVerticalSpacing(2_px);
    rows->setColumnStretch(1, 1);
    for (size_t i = 0; i < kShown; ++i) {
        m_bars[i] = new ShareBar;
        m_sentences[i] = label({}, look::Size::Small);
        m_sentences[i]->setObjectName(QStringLiteral("belief-%1").arg(i + 1));
        rows->addWidget(m_bars[i], static_cast<int>(i), 0, Qt::AlignTop);
        rows->addWidget(m_sentences[i], static_cast<int>(i), 1);
    }
    column->addLayout(rows);
    column->addSpacing(2_px);
    m_next = label({}, look::Size::Small, true);
    m_next->setObjectName(QStringLiteral("belief-next"));
    m_outcomes = label({}, look::Size::Small, false, true);
    m_outcomes->setObjectName(QStringLiteral("belief-outcomes"));
    column->addWidget(m_next);
    column->addWidget(m_outcomes);
    connect(m_go, &QAbstractButton::clicked, this, &BeliefView::goThere);
    connect(m_mended, &QAbstractButton::clicked, this, &BeliefView::mended);
}

void BeliefView::refresh()
{
    const auto analysis = m_desk.store.analysis();
    const job::CircuitId& circuit = m_desk.selection.circuit();
    m_go->setEnabled(m_desk.selection.pointed().empty() || m_desk.selection.station() != m_desk.selection.pointed());
    if (!contradicts(*analysis, circuit) || !m_desk.practice.finderSpeaks()) {
        m_of.reset();
        m_looking.reset();
        m_diagnosis = {};
        m_desk.selection.setPointed({});
        emit changed();
        return;
    }
    if (analysis == m_of && circuit == m_circuit && m_now == m_desk.selection.condition())
        return;
    if (circuit != m_circuit) { // what was said of the other one is not of this
        m_diagnosis = {};
        m_desk.selection.setPointed({});
        emit changed();
    }
    m_of = analysis;
    m_circuit = circuit;
    m_now = m_desk.selection.condition();
    work();
}

void BeliefView::work()
{
    if (!faultFamilies()) {
        m_diagnosis.trouble = faultFamilies().error().text();
        m_heading->setText(text(m_diagnosis.trouble));
        m_go->hide();
        m_mended->hide();
        for (ShareBar* bar : m_bars)
            bar->hide();
        emit changed();
        return;
    }
    if (!m_looking)
        m_looking = std::make_shared<Looking>(Looking{library(), {}, {}, {}});
    m_worked.ask([looking = m_looking, of = m_of, circuit = m_circuit, now = m_now] {
        return looking->after(of, circuit, now);
    });
}

void BeliefView::show(const diagnosis::Diagnosis& found)
{
    m_diagnosis = found;
    emit changed();
    if (found.groups.empty())
        return;
    for (size_t i = 0; i < kShown; ++i) {
        constexpr double kWorthSaying = 0.005;
        const bool there = i < found.groups.size() && found.groups[i].share >= kWorthSaying;
        m_bars[i]->setVisible(there);
        m_sentences[i]->setVisible(there);
        if (!there)
            continue;
        const diagnosis::Group& group = found.groups[i];
        const QString what = text(found.suspects[group.members.front()].what);
        m_bars[i]->setShare(group.share);
        m_sentences[i]->setText(group.members.size() == 1 ? what : tr("%1, or alike").arg(what));
        QStringList alike;
        for (const size_t s : group.members)
            alike << text(found.suspects[s].what) + (found.suspects[s].raised.empty()
                                                         ? QString()
                                                         : tr(" (%1)").arg(text(found.suspects[s].raised)));
        m_sentences[i]->setToolTip(alike.mid(0, 12).join(QLatin1Char('\n')));
    }
    showNext(found);
}

/// Where to look, or what to mend.
void BeliefView::showNext(const diagnosis::Diagnosis& found)
{
    const diagnosis::Suspect& first = found.suspects[found.groups.front().members.front()];
    const bool look = !found.enough && !found.probes.empty();
    m_go->setVisible(look);
    m_mended->setVisible(!look && !first.subjects.empty());
    const diagnosis::Spot* next = look ? &found.probes.front().spot : nullptr;
    m_desk.selection.setPointed(next != nullptr && next->place.condition == m_now ? next->place.station.key
                                                                                  : std::string());
    if (!look) {
        m_next->setText(tr("Enough: no further reading is worth its work."));
        const size_t stale = proof::restingOn(*m_of->job, diagnosis::mendOf(*m_of->job, first, {}).subjects);
        m_outcomes->setText(first.subjects.empty() && !found.slips.empty() ? text(found.slips.front())
                            : stale == 0 || first.subjects.empty()
                                ? text(first.mend)
                                : tr("%1 Then %n readings must be taken again.", nullptr, static_cast<int>(stale))
                                      .arg(text(first.mend)));
        return;
    }
    const diagnosis::Probe& p = found.probes.front();
    const QString where =
        tr("%1, %2").arg(text(p.spot.place.station.label), text(job::conditionWords(p.spot.place.condition)));
    m_go->setEnabled(m_desk.selection.pointed().empty() || m_desk.selection.station() != m_desk.selection.pointed());
    m_next->setText(p.again ? tr("Read again: %1").arg(where) : tr("Tells most: %1").arg(where));
    QStringList outcomes;
    if (!found.slips.empty())
        outcomes << text(found.slips.front());
    for (size_t i = 0; i < std::min<size_t>(2, p.outcomes.size()) && outcomes.size() < 2; ++i)
        outcomes << tr("%1: %2").arg(text(p.outcomes[i].shows), text(p.outcomes[i].means));
    m_outcomes->setText(outcomes.join(QLatin1Char('\n')));
}

void BeliefView::goTo(const diagnosis::Spot& spot)
{
    m_desk.selection.setCondition(spot.place.condition);
    m_desk.selection.setStation(spot.place.station.key);
}

void BeliefView::goThere()
{
    if (m_go->isVisibleTo(this))
        goTo(m_diagnosis.probes.front().spot);
}

void BeliefView::mended()
{
    if (!m_mended->isVisibleTo(this) || m_diagnosis.groups.empty())
        return;
    const diagnosis::Suspect first = m_diagnosis.suspects[m_diagnosis.groups.front().members.front()];
    const auto look = m_diagnosis.secondLook;
    if (keepMend(m_desk, first) && look)
        goTo(*look);
}

} // namespace vicegrip::app
