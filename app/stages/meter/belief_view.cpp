#include "app/stages/meter/belief_view.h"

#include "app/desk/part_library.h"
#include "app/look/look.h"
#include "app/stages/meter/share_bar.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "core/base/shipped.h"

#include <QGridLayout>
#include <QVBoxLayout>
#include <algorithm>

namespace vicegrip::app {
namespace {

/// Whether anything that was read of the circuit contradicts the drawing.
bool contradicts(const analysis::Analysis& analysis, const job::CircuitId& id)
{
    const proof::CircuitView* view = analysis::find(analysis, id);
    return view != nullptr && std::ranges::any_of(view->stations, [](const auto& of) {
               return std::ranges::any_of(of.second,
                                          [](const proof::Standing& s) { return s.state == proof::State::Failing; });
           });
}

const Result<diagnosis::Families>& families()
{
    static const auto kAll = diagnosis::readFamiliesFile(shippedFolder() / "diagnosis" / "families.json");
    return kAll;
}

} // namespace

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
    column->addWidget(m_heading);
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
    auto* on = new QHBoxLayout;
    on->setSpacing(look::kGap);
    auto* words = new QVBoxLayout;
    words->setSpacing(0);
    m_next = label({}, look::Size::Small, true);
    m_next->setObjectName(QStringLiteral("belief-next"));
    m_outcomes = label({}, look::Size::Small, false, true);
    m_outcomes->setObjectName(QStringLiteral("belief-outcomes"));
    words->addWidget(m_next);
    words->addWidget(m_outcomes);
    on->addLayout(words, 1);
    m_go = new KeyButton(tr("Go there"), tr("G"), false);
    m_go->setObjectName(QStringLiteral("belief-go"));
    on->addWidget(m_go, 0, Qt::AlignTop);
    column->addLayout(on);
    connect(m_go, &QAbstractButton::clicked, this, &BeliefView::goThere);
}

void BeliefView::refresh()
{
    const auto analysis = m_desk.store.analysis();
    const job::CircuitId& circuit = m_desk.selection.circuit();
    if (!contradicts(*analysis, circuit)) {
        m_of.reset();
        m_diagnosis = {};
        emit changed();
        return;
    }
    if (analysis == m_of && circuit == m_circuit && m_now == m_desk.selection.condition())
        return;
    if (circuit != m_circuit) { // what was said of the other one is not of this
        m_diagnosis = {};
        emit changed();
    }
    m_of = analysis;
    m_circuit = circuit;
    m_now = m_desk.selection.condition();
    work();
}

void BeliefView::work()
{
    if (!families()) {
        m_diagnosis.trouble = families().error().text();
        m_heading->setText(text(m_diagnosis.trouble));
        m_go->hide();
        for (ShareBar* bar : m_bars)
            bar->hide();
        emit changed();
        return;
    }
    m_worked.ask([of = m_of, circuit = m_circuit, now = m_now, parts = std::make_shared<parts::Library>(library())] {
        return diagnosis::Finder(*of, circuit, *families(), *parts).diagnosis({}, now, 1);
    });
}

void BeliefView::show(const diagnosis::Diagnosis& found)
{
    m_diagnosis = found;
    emit changed();
    if (found.groups.empty())
        return;
    for (size_t i = 0; i < kShown; ++i) {
        const bool there = i < found.groups.size();
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
    const diagnosis::Suspect& first = found.suspects[found.groups.front().members.front()];
    m_go->setVisible(!found.enough && !found.probes.empty());
    if (!found.slips.empty()) {
        m_next->setText(text(found.slips.front()));
        m_outcomes->clear();
    } else if (found.enough || found.probes.empty()) {
        m_next->setText(tr("Enough: no further reading is worth its work."));
        m_outcomes->setText(text(first.mend));
    } else {
        const diagnosis::Probe& p = found.probes.front();
        m_next->setText(tr("Tells most: %1, %2")
                            .arg(text(p.spot.place.station.label), text(job::conditionWords(p.spot.place.condition))));
        QStringList outcomes;
        for (size_t i = 0; i < std::min<size_t>(2, p.outcomes.size()); ++i)
            outcomes << tr("%1: %2").arg(text(p.outcomes[i].shows), text(p.outcomes[i].means));
        m_outcomes->setText(outcomes.join(QLatin1Char('\n')));
    }
}

void BeliefView::goThere()
{
    if (m_diagnosis.enough || m_diagnosis.probes.empty())
        return;
    const proof::Place place = m_diagnosis.probes.front().spot.place;
    m_desk.selection.setCondition(place.condition);
    m_desk.selection.setStation(place.station.key);
}

} // namespace vicegrip::app
