#include "app/stages/pins/feeds_view.h"

#include "app/desk/part_library.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/parts/conductor.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QShortcut>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

enum Column { Fuse, Hangs, Draws, Rating, Wire, Verdict };

QString amps(double a)
{
    return a > 0 ? text(feeds::ampsText(a)) : QString();
}

QString consumersOf(const feeds::Feed& feed)
{
    QStringList out;
    for (const feeds::Consumer& c : feed.consumers)
        out.push_back(text(c.name));
    return out.join(QStringLiteral(", "));
}

} // namespace

FeedsView::FeedsView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_said(label({}, look::Size::Small, false, true)),
      m_better(label({}, look::Size::Body, true)),
      m_feedList(new ListTable("feeds", tr("What hangs on each fuse"),
                               {{tr("Fuse"), 190, false},
                                {tr("Feeds"), 0, false},
                                {tr("Draws"), 70, true},
                                {tr("Rating"), 74, true},
                                {tr("Thinnest wire"), 120, true},
                                {tr("Why"), 0, false}})),
      m_proposalList(new ListTable("feed-proposals", tr("What would be better"),
                                   {{tr("Change"), 430, false}, {tr("Because"), 0, false}})),
      m_takeAll(new KeyButton(tr("Take all of them"), tr("Ctrl+Enter"), true)),
      m_take(new KeyButton(tr("Take this one"), tr("Enter"), false))
{
    m_said->setObjectName(QStringLiteral("feeds-said"));
    m_better->setObjectName(QStringLiteral("feeds-better"));
    m_takeAll->setObjectName(QStringLiteral("take-feeds"));
    m_take->setObjectName(QStringLiteral("take-feed"));
    m_feedList->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                                QAbstractItemView::AnyKeyPressed);
    m_feedList->setSelectionBehavior(QAbstractItemView::SelectItems);
    m_feedList->setWordWrap(true);
    m_feedList->verticalHeader()->setDefaultSectionSize(38_px); // two lines of a reason
    m_proposalList->setWordWrap(true);
    m_proposalList->verticalHeader()->setDefaultSectionSize(38_px);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_takeAll);
    buttons->addWidget(m_take);
    buttons->addStretch();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_said);
    column->addWidget(m_feedList, 1);
    column->addWidget(m_better);
    column->addWidget(m_proposalList);
    column->addLayout(buttons);
    connect(m_feedList, &QTableWidget::itemChanged, this, &FeedsView::typed);
    connect(m_takeAll, &KeyButton::clicked, this, &FeedsView::takeAll);
    connect(m_take, &KeyButton::clicked, this, &FeedsView::take);
    for (const auto key : {Qt::Key_Return, Qt::Key_Enter}) {
        connect(new QShortcut(QKeySequence(Qt::CTRL | key), this), &QShortcut::activated, this, &FeedsView::takeAll);
        connect(new QShortcut(QKeySequence(key), m_proposalList, nullptr, nullptr, Qt::WidgetShortcut),
                &QShortcut::activated, this, &FeedsView::take);
    }
    handFocus(this, m_proposalList);
    say({}, false);
}

void FeedsView::say(const QString& sentence, bool bad)
{
    m_said->setText(sentence.isEmpty() ? tr("A fuse carries three quarters of its rating for long. Type a rating as it "
                                            "stands on the fuse. Every wire behind one must outlast it.")
                                       : sentence);
    setInk(m_said, bad ? look::colours().failing : look::colours().inkSoft);
}

void FeedsView::refresh()
{
    const auto job = m_desk.store.job();
    m_feeds = feeds::feedsOf(*job, electrics::Wiring(*job));
    m_proposals = feeds::propose(*job, library());
    fillFeeds();
    std::vector<QStringList> rows;
    for (const feeds::Proposal& p : m_proposals)
        rows.push_back({text(p.what), text(p.why)});
    m_proposalList->fill(rows);
    constexpr int kMostRows = 5; // the rest scrolls: what hangs on each fuse stays in sight
    const auto shown = static_cast<int>(std::min<size_t>(rows.size(), kMostRows));
    m_proposalList->setFixedHeight(m_proposalList->horizontalHeader()->sizeHint().height() +
                                   shown * m_proposalList->verticalHeader()->defaultSectionSize() + 6_px);
    if (m_proposalList->currentRow() < 0 && !rows.empty())
        m_proposalList->selectRow(0);
    const bool any = !m_proposals.empty();
    for (QWidget* w : std::initializer_list<QWidget*>{m_proposalList, m_takeAll, m_take})
        w->setVisible(any);
    m_better->setText(any ? tr("What would be better") : tr("Nothing to change: fuses, wires and relays go together."));
}

void FeedsView::fillFeeds()
{
    std::vector<QStringList> rows;
    for (const feeds::Feed& f : m_feeds) {
        const QString wire =
            f.thinnest ? text(f.thinnest->value) + QStringLiteral("  ") + text(parts::areaText(f.area_m2)) : QString();
        rows.push_back({f.fuse.empty() ? tr("none") : text(f.label.empty() ? f.fuse : f.label), consumersOf(f),
                        amps(f.amps),
                        f.fuse.empty()   ? QString()
                        : f.rating_a > 0 ? amps(f.rating_a)
                                         : tr("not said"),
                        wire, text(f.reason)});
    }
    m_feedList->fill(rows);
    const QSignalBlocker quiet(m_feedList);
    const auto& c = look::colours();
    for (int row = 0; row < m_feedList->rowCount(); ++row) {
        const feeds::Feed& f = m_feeds[static_cast<size_t>(row)];
        for (int column = 0; column < m_feedList->columnCount(); ++column) {
            QTableWidgetItem* cell = m_feedList->item(row, column);
            const bool typeable = column == Rating && !f.fuse.empty();
            cell->setFlags(typeable ? cell->flags() | Qt::ItemIsEditable : cell->flags() & ~Qt::ItemIsEditable);
            cell->setForeground(column == Verdict && f.isWrong ? c.failing : typeable ? c.accent : c.ink);
        }
    }
    if (m_feedList->currentRow() < 0 && m_feedList->rowCount() > 0)
        m_feedList->setCurrentCell(0, Rating);
}

void FeedsView::typed(QTableWidgetItem* cell)
{
    const auto row = static_cast<size_t>(cell->row());
    if (cell->column() != Rating || row >= m_feeds.size())
        return;
    const std::string fuse = m_feeds[row].fuse;
    const auto rating = units::parseShown(cell->text().toStdString(), units::Dimension::Current, "A");
    const bool sound = rating && *rating > 0 && *rating <= feeds::ratings().back();
    if (!sound) {
        say(rating ? tr("A fuse is rated above 0 A and up to %1.").arg(amps(feeds::ratings().back()))
                   : QString::fromStdString(rating.error().sentence),
            true);
        refresh();
        return;
    }
    const auto kept = m_desk.store.edit(tr("Fuse %1: %2").arg(text(fuse), amps(*rating)), [&](job::Job& job) {
        for (job::Switch& s : job.switches)
            if (s.id == fuse)
                s.rating_a = *rating;
    });
    say(kept ? QString() : QString::fromStdString(kept.error().sentence), !kept);
    refresh();
}

void FeedsView::take()
{
    const int row = m_proposalList->currentRow();
    if (row < 0 || row >= static_cast<int>(m_proposals.size()))
        return;
    const feeds::Proposal chosen = m_proposals[static_cast<size_t>(row)];
    // The job may have changed since the list was made: what is proposed for it now is what can be taken.
    for (const feeds::Proposal& now : feeds::propose(*m_desk.store.job(), library()))
        if (now.subject == chosen.subject && now.what == chosen.what) {
            m_desk.store.editOrSay(text(now.what), now.change);
            break;
        }
    refresh();
}

void FeedsView::takeAll()
{
    if (m_proposals.empty())
        return;
    m_desk.store.editOrSay(tr("Feeds as proposed"), [](job::Job& job) { feeds::takeAll(job, library()); });
    refresh();
}

} // namespace vicegrip::app
