#include "app/stages/brief/consequence_list.h"

#include "app/desk/part_library.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QShortcut>
#include <QSignalBlocker>
#include <QTableWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

using brief::Standing;

constexpr look::Px kReasonRow{38}; ///< two lines of a reason

enum Column { Mark, Name, Want, Because, kColumns };

/// Standings are told by sign and word, not by colour alone.
QString markOf(Standing s)
{
    switch (s) {
    case Standing::Added:
        return ConsequenceList::tr("+  to add");
    case Standing::Changing:
        return ConsequenceList::tr("~  another part");
    case Standing::Leaving:
        return ConsequenceList::tr("–  no longer needed");
    case Standing::Declined:
        return ConsequenceList::tr("×  taken out by you");
    case Standing::Kept:
        return ConsequenceList::tr("=  kept by you");
    case Standing::Own:
        return ConsequenceList::tr("=  your own");
    case Standing::There:
        break;
    }
    return ConsequenceList::tr("=  there");
}

QColor inkOf(Standing s)
{
    const auto& c = look::colours();
    return s == Standing::Added      ? c.done
           : s == Standing::Changing ? c.stale
           : s == Standing::Leaving  ? c.failing
           : s == Standing::There    ? c.ink
                                     : c.inkSoft;
}

} // namespace

ConsequenceList::ConsequenceList(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_summary(label({}, look::Size::Body)),
      m_table(new QTableWidget(0, kColumns)),
      m_apply(new KeyButton(tr("Bring the circuits in line"), QStringLiteral("Ctrl+Enter"), true)),
      m_takeOut(new KeyButton(tr("Take out"), QStringLiteral("Del"), false)),
      m_keep(new KeyButton(tr("Keep"), QStringLiteral("K"), false)),
      m_bringBack(new KeyButton(tr("Bring back"), QStringLiteral("B"), false))
{
    m_summary->setObjectName(QStringLiteral("consequences-summary"));
    m_table->setObjectName(QStringLiteral("consequences"));
    m_table->setAccessibleName(tr("Circuits the facts ask for"));
    m_table->setHorizontalHeaderLabels({tr("Standing"), tr("Circuit"), tr("Want"), tr("Because")});
    m_table->setFont(look::textFont(look::Size::Small));
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(kReasonRow);
    m_table->setWordWrap(true);
    m_table->horizontalHeader()->setHighlightSections(false);
    m_table->horizontalHeader()->setSectionsClickable(false);
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    m_table->horizontalHeader()->setFont(look::textFont(look::Size::Small));
    m_table->horizontalHeader()->setSectionResizeMode(Because, QHeaderView::Stretch);
    for (const int column : {Mark, Name, Want}) // what is left is for the reason
        m_table->horizontalHeader()->setSectionResizeMode(column, QHeaderView::ResizeToContents);
    m_table->setShowGrid(false);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setTabKeyNavigation(false);
    m_table->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_table->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);

    auto* actions = new QHBoxLayout;
    m_apply->setObjectName(QStringLiteral("apply-brief"));
    m_takeOut->setObjectName(QStringLiteral("take-out"));
    m_keep->setObjectName(QStringLiteral("keep"));
    m_bringBack->setObjectName(QStringLiteral("bring-back"));
    for (KeyButton* b : {m_takeOut, m_keep, m_bringBack})
        actions->addWidget(b);
    actions->addStretch();
    auto* first = new QHBoxLayout;
    first->setSpacing(14_px);
    first->addWidget(m_apply);
    first->addWidget(m_summary, 1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addLayout(first);
    column->addWidget(m_table);
    column->addLayout(actions);

    connect(m_apply, &KeyButton::clicked, this, &ConsequenceList::applyBrief);
    connect(m_takeOut, &KeyButton::clicked, this, &ConsequenceList::takeOut);
    connect(m_keep, &KeyButton::clicked, this, &ConsequenceList::keep);
    connect(m_bringBack, &KeyButton::clicked, this, &ConsequenceList::bringBack);
    connect(m_table, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
        if (row == before)
            return;
        sayWhatChanges();
        select();
        emit selectionMoved();
    });
    const auto key = [this](const QKeySequence& keys, void (ConsequenceList::*what)()) {
        auto* shortcut = new QShortcut(keys, m_table);
        shortcut->setContext(Qt::WidgetShortcut);
        connect(shortcut, &QShortcut::activated, this, what);
    };
    key(QKeySequence(Qt::Key_Delete), &ConsequenceList::takeOut);
    key(QKeySequence(Qt::Key_K), &ConsequenceList::keep);
    key(QKeySequence(Qt::Key_B), &ConsequenceList::bringBack);
}

/// The row's circuit is the one that is selected everywhere; of a row that has none yet, its name is.
void ConsequenceList::select()
{
    if (const auto* c = current())
        c->circuits.empty() ? m_desk.selection.setCircuit({}, c->name)
                            : m_desk.selection.setCircuit(c->circuits.front());
}

const brief::Consequence* ConsequenceList::current() const
{
    const int row = m_table->currentRow();
    return row < 0 || row >= static_cast<int>(m_all.size()) ? nullptr : &m_all[static_cast<size_t>(row)];
}

job::FunctionId ConsequenceList::selected() const
{
    const auto* c = current();
    return c == nullptr ? job::FunctionId{} : c->function;
}

QRect ConsequenceList::selectedRect() const
{
    const QRect row = m_table->visualItemRect(m_table->item(std::max(m_table->currentRow(), 0), 0));
    return {m_table->viewport()->mapTo(this, row.topLeft()), row.size()};
}

void ConsequenceList::fill(int row, const brief::Consequence& c)
{
    const QString because = c.reason.empty() ? QString()
                            : c.askedBy.empty()
                                ? text(c.reason)
                                : text(c.reason) + QStringLiteral("  (") + text(c.askedBy) + QLatin1Char(')');
    const QString texts[kColumns] = {markOf(c.standing), text(c.name), said(fields::enumName(c.want)), because};
    for (int column = 0; column < kColumns; ++column) {
        QTableWidgetItem* item = m_table->item(row, column);
        if (item == nullptr)
            m_table->setItem(row, column, item = new QTableWidgetItem);
        item->setText(texts[column]);
        item->setToolTip(texts[column]);
        item->setForeground(column == Mark      ? inkOf(c.standing)
                            : column == Because ? look::colours().inkSoft
                                                : look::colours().ink);
    }
}

/// The row of the circuit that is selected; while none is, the row that was shown.
int ConsequenceList::rowToShow(const job::FunctionId& before) const
{
    int row = -1;
    for (size_t i = 0; i < m_all.size(); ++i) {
        if (std::ranges::find(m_all[i].circuits, m_desk.selection.circuit()) != m_all[i].circuits.end())
            return static_cast<int>(i);
        if (m_all[i].function == before)
            row = static_cast<int>(i);
    }
    return row;
}

void ConsequenceList::refresh()
{
    const auto job = m_desk.store.job();
    const job::FunctionId before = selected();
    m_all = brief::consequences(*job, job->brief.value_or(job::Brief{}));
    const QSignalBlocker quiet(m_table);
    m_table->setRowCount(static_cast<int>(m_all.size()));
    for (size_t i = 0; i < m_all.size(); ++i)
        fill(static_cast<int>(i), m_all[i]);
    m_table->setCurrentCell(rowToShow(before), 0);
    m_table->setFixedHeight(m_table->horizontalHeader()->sizeHint().height() + 4_px +
                            kReasonRow * static_cast<int>(std::max<size_t>(m_all.size(), 1)));
    sayWhatChanges();
}

void ConsequenceList::sayWhatChanges()
{
    const auto count = [&](Standing s) {
        return static_cast<int>(std::ranges::count(m_all, s, &brief::Consequence::standing));
    };
    const int added = count(Standing::Added), leaving = count(Standing::Leaving), changing = count(Standing::Changing);
    QStringList parts;
    if (added > 0)
        parts << tr("%1 to add").arg(added);
    if (changing > 0)
        parts << tr("%1 with another part").arg(changing);
    if (leaving > 0)
        parts << tr("%1 no longer needed").arg(leaving);
    if (const int kept = count(Standing::Kept) + count(Standing::Own); kept > 0)
        parts << tr("%1 kept by you").arg(kept);
    if (const int out = count(Standing::Declined); out > 0)
        parts << tr("%1 taken out by you").arg(out);
    const bool open = added > 0 || leaving > 0 || changing > 0;
    m_summary->setText(
        open            ? parts.join(QStringLiteral(",  "))
        : parts.empty() ? tr("The circuits are what the facts ask for.")
                        : tr("The circuits are what the facts ask for;  %1.").arg(parts.join(QStringLiteral(",  "))));
    m_apply->setEnabled(open);
    const auto* c = current();
    const Standing s = c == nullptr ? Standing::There : c->standing;
    m_takeOut->setEnabled(c != nullptr && s != Standing::Declined);
    m_keep->setEnabled(s == Standing::Leaving);
    m_bringBack->setEnabled(s == Standing::Declined);
}

void ConsequenceList::change(const QString& description, const Change& change)
{
    m_desk.store.editOrSay(description, [&](job::Job& job) {
        if (!job.brief)
            job.brief.emplace();
        return change(job);
    });
}

void ConsequenceList::applyBrief()
{
    change(tr("Bring the circuits in line with the brief"), [](job::Job& job) { return brief::apply(job, library()); });
    refresh();
    select(); // what was to be added is a circuit now
}

void ConsequenceList::takeOut()
{
    const auto* c = current();
    if (c == nullptr || c->standing == Standing::Declined)
        return;
    const brief::Consequence out = *c;
    change(tr("Take out %1").arg(text(out.name)), [&](job::Job& job) -> Result<void> {
        if (out.standing == Standing::Added)
            job.brief->declined.push_back(out.function.value);
        std::erase(job.brief->kept, out.function.value);
        for (const job::CircuitId& id : out.circuits)
            if (auto done = brief::decline(job, id); !done)
                return done;
        return {};
    });
}

void ConsequenceList::keep()
{
    const auto* c = current();
    if (c == nullptr || c->standing != Standing::Leaving)
        return;
    change(tr("Keep %1").arg(text(c->name)),
           [function = c->function.value](job::Job& job) { job.brief->kept.push_back(function); });
}

void ConsequenceList::bringBack()
{
    const auto* c = current();
    if (c == nullptr || c->standing != Standing::Declined)
        return;
    change(tr("Bring back %1").arg(text(c->name)),
           [function = c->function.value](job::Job& job) { std::erase(job.brief->declined, function); });
}

} // namespace vicegrip::app
