#include "app/stages/handover/again_view.h"

#include "app/desk/when.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {

AgainView::AgainView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_changeList(
          new ListTable("changes", tr("What can change"), {{tr("What changed"), 0, false}, {tr("Costs"), 60, true}})),
      m_againList(new ListTable("again", tr("What is to be proved again, in the order of risk"),
                                {{tr("Risk"), 140, false},
                                 {tr("Prove again"), 0, false},
                                 {tr("It rests on"), 0, false},
                                 {tr("Now"), 60, false}})),
      m_title(label({}, look::Size::Title, true)),
      m_said(label({}, look::Size::Small, false, true)),
      m_go(KeyButton::bound(this, "again-go", tr("To its place"), Qt::Key_G, true)),
      m_same(KeyButton::bound(this, "again-same", tr("Read again: as before"), Qt::Key_T, false))
{
    m_title->setObjectName(QStringLiteral("again-title"));
    m_said->setObjectName(QStringLiteral("again-said"));
    m_changeList->setFixedWidth(270_px);
    m_changeList->growRows();
    m_againList->growRows();
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    keys->addWidget(m_go);
    keys->addWidget(m_same);
    keys->addStretch(1);
    auto* right = new QVBoxLayout;
    right->setSpacing(look::kGap);
    right->addWidget(m_title);
    right->addWidget(m_said);
    right->addWidget(m_againList, 1);
    right->addLayout(keys);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, look::kGap, 0, 0);
    row->setSpacing(look::kMargin);
    row->addWidget(m_changeList);
    row->addLayout(right, 1);
    connect(m_changeList, &QTableWidget::currentCellChanged, this, &AgainView::showAgain);
    connect(m_againList, &QTableWidget::currentCellChanged, this,
            [this] { m_same->setEnabled(current() != nullptr && !current()->station.empty()); });
    connect(m_go, &KeyButton::clicked, this, &AgainView::toPlace);
    connect(m_same, &KeyButton::clicked, this, &AgainView::renew);
    handFocus(this, m_changeList);
}

void AgainView::refresh()
{
    const auto analysis = m_desk.store.analysis();
    const job::Job& job = *analysis->job;
    std::vector<std::pair<size_t, recheck::Change>> costs;
    for (recheck::Change& c : recheck::changesOf(job)) {
        const size_t cost = recheck::after(job, analysis->facts, c).size();
        costs.emplace_back(cost, std::move(c));
    }
    // What would cost something first: the rest costs nothing.
    std::stable_partition(costs.begin(), costs.end(), [](const auto& c) { return c.first > 0; });
    m_changes.clear();
    std::vector<QStringList> rows;
    for (auto& [cost, change] : costs) {
        rows.push_back({text(change.words), cost == 0 ? QStringLiteral("–") : QString::number(cost)});
        m_changes.push_back(std::move(change));
    }
    m_changeList->fill(rows);
    if (m_changeList->currentRow() < 0 && !rows.empty())
        m_changeList->setCurrentCell(0, 0);
    showAgain();
}

void AgainView::showAgain()
{
    const auto change = static_cast<size_t>(std::max(0, m_changeList->currentRow()));
    if (change >= m_changes.size())
        return;
    const auto analysis = m_desk.store.analysis();
    m_again = recheck::after(*analysis->job, analysis->facts, m_changes[change]);
    std::vector<QStringList> rows;
    for (const recheck::Again& a : m_again)
        rows.push_back(
            {said(recheck::riskName(a.risk)), text(a.what), text(a.rests), a.stands ? tr("stands") : tr("stale")});
    m_againList->fill(rows);
    if (!rows.empty() && m_againList->currentRow() < 0)
        m_againList->setCurrentCell(0, 0);
    m_title->setText(tr("After: %1").arg(text(m_changes[change].words)));
    m_said->setText(
        rows.empty() ? tr("Nothing that was read rests on it.")
                     : tr("What was proved through it, %1 in all, says nothing after it. What sets sparks comes first.")
                           .arg(rows.size()));
    for (KeyButton* key : {m_go, m_same})
        key->setEnabled(!rows.empty());
    if (current() != nullptr)
        m_same->setEnabled(!current()->station.empty());
}

const recheck::Again* AgainView::current() const
{
    const auto row = static_cast<size_t>(std::max(0, m_againList->currentRow()));
    return row < m_again.size() ? &m_again[row] : nullptr;
}

void AgainView::toPlace()
{
    const recheck::Again* again = current();
    if (again == nullptr)
        return;
    if (again->circuit.empty()) {
        emit goTo(analysis::Stage::Start);
        return;
    }
    m_desk.selection.setCircuit(again->circuit);
    const bool reading = !again->station.empty();
    if (reading) {
        m_desk.selection.setCondition(again->condition);
        m_desk.selection.setStation(again->station);
    }
    emit goTo(reading || again->risk != recheck::Risk::Spark ? analysis::Stage::Meter : analysis::Stage::Trigger);
}

/// A reading that somebody took once more, and that is as it was.
void AgainView::renew()
{
    const recheck::Again* again = current();
    if (again == nullptr)
        return;
    const recheck::Again copy = *again;
    const auto analysis = m_desk.store.analysis();
    const auto done =
        m_desk.store.edit(tr("Read again, as before: %1").arg(text(copy.what)), [&](job::Job& job) -> Result<void> {
            return recheck::renew(job, *analysis, copy, nowText());
        });
    m_said->setText(done ? tr("Kept again, as of now: %1").arg(text(copy.what)) : text(done.error().sentence));
}

} // namespace vicegrip::app
