#include "app/stages/pins/harness_view.h"

#include "app/stages/pins/branch_plot.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/wires/wire_typed.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QShortcut>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

enum Column { From, To, Length, Wall, Wires, Bundle, Sleeve, Shrink, Grommet, kColumns };

QString millimetres(double m)
{
    return m > 0 ? text(units::format(m, units::Dimension::Length, "mm", 1)) : QString();
}

} // namespace

HarnessView::HarnessView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_scroll(new QScrollArea),
      m_drawing(new BranchPlot),
      m_table(new ListTable("stretches", tr("Stretches of the harness"),
                            {{tr("From"), 0, false},
                             {tr("To"), 0, false},
                             {tr("Length"), 78, true},
                             {tr("Wall"), 64, false},
                             {tr("Wires"), 60, true},
                             {tr("Bundle"), 86, true},
                             {tr("Sleeve"), 80, true},
                             {tr("Shrink, before to after"), 154, true},
                             {tr("Grommet, hole in the wall"), 168, true}})),
      m_said(label({}, look::Size::Small, false, true)),
      m_new(new QLineEdit),
      m_wall(new QPushButton(tr("Through a wall   W"))),
      m_remove(new QPushButton(tr("Remove   Del"))),
      m_propose(new QPushButton(tr("Propose from the wires")))
{
    m_said->setObjectName(QStringLiteral("stretches-said"));
    m_new->setObjectName(QStringLiteral("new-stretch"));
    m_new->setAccessibleName(tr("New stretch: two places and a length"));
    m_new->setPlaceholderText(tr("New stretch: Y2 CLT 40 cm"));
    m_wall->setObjectName(QStringLiteral("stretch-wall"));
    m_remove->setObjectName(QStringLiteral("stretch-remove"));
    m_propose->setObjectName(QStringLiteral("stretch-propose"));
    m_table->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                             QAbstractItemView::AnyKeyPressed);
    m_table->setSelectionBehavior(QAbstractItemView::SelectItems);
    auto* row = new QHBoxLayout;
    row->addWidget(m_new, 1);
    for (QPushButton* b : {m_wall, m_remove, m_propose}) {
        b->setFont(look::textFont(look::Size::Small));
        row->addWidget(b);
    }
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    m_scroll->setWidget(m_drawing);
    m_scroll->setWidgetResizable(true);
    m_scroll->setFrameShape(QFrame::NoFrame);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_scroll->setFocusPolicy(Qt::NoFocus);
    column->addWidget(m_scroll, 7);
    column->addWidget(m_said);
    column->addWidget(m_table, 4);
    column->addLayout(row);
    connect(m_table, &QTableWidget::itemChanged, this, &HarnessView::typed);
    connect(m_table, &QTableWidget::currentCellChanged, this, [this](int now, int, int before, int) {
        if (now == before)
            return;
        m_drawing->show(*m_desk.store.job(), m_stretches, now);
        m_scroll->ensureVisible(0, m_drawing->endOf(now), 0, 40_px);
    });
    connect(m_drawing, &BranchPlot::picked, this, &HarnessView::pick);
    connect(m_new, &QLineEdit::returnPressed, this, &HarnessView::add);
    connect(m_wall, &QPushButton::clicked, this, &HarnessView::toggleWall);
    connect(m_remove, &QPushButton::clicked, this, &HarnessView::remove);
    connect(m_propose, &QPushButton::clicked, this, &HarnessView::propose);
    connect(new QShortcut(QKeySequence(Qt::Key_W), this), &QShortcut::activated, this, &HarnessView::toggleWall);
    connect(new QShortcut(QKeySequence::Delete, this), &QShortcut::activated, this, &HarnessView::remove);
    handFocus(this, m_table);
}

int HarnessView::current() const
{
    return m_table->currentRow() < static_cast<int>(m_stretches.size()) ? m_table->currentRow() : -1;
}

void HarnessView::say(const QString& sentence, bool bad)
{
    m_said->setText(!sentence.isEmpty()   ? sentence
                    : m_stretches.empty() ? tr("Nobody has said how the harness lies. Propose it from the drawn wires, "
                                               "then type what the tape says.")
                                          : tr("Type a length off the tape: every wire along that stretch follows. "
                                               "Bundle with 10 % looseness; sleeve, shrink and grommet from the usual "
                                               "sizes (typical)."));
    setInk(m_said, bad ? look::colours().failing : look::colours().inkSoft);
}

void HarnessView::refresh()
{
    const auto job = m_desk.store.job();
    m_stretches = branches::stretches(*job);
    std::vector<QStringList> rows;
    for (size_t i = 0; i < m_stretches.size(); ++i) {
        const job::Branch& b = job->branches[i];
        const branches::Dressing& d = m_stretches[i].dressing;
        const auto named = [&](const std::string& place) {
            const job::Connector* c = job::findConnector(*job, place);
            const job::Joint* j = job::findJoint(*job, place);
            return c != nullptr   ? text(place) + QStringLiteral(", ") + text(c->label)
                   : j != nullptr ? text(place) + QStringLiteral(", ") + text(j->label)
                                  : text(place);
        };
        rows.push_back({named(b.from), named(b.to), text(units::format(b.length_m, units::Dimension::Length, "m", 2)),
                        b.wall ? tr("through") : QString(), QString::number(m_stretches[i].wires.size()),
                        millimetres(d.bundle_m), millimetres(d.sleeve_m),
                        d.shrinkSupplied_m > 0
                            ? millimetres(d.shrinkSupplied_m) + QStringLiteral(" – ") + millimetres(d.shrinkRecovered_m)
                            : QString(),
                        b.wall ? millimetres(d.hole_m) + QStringLiteral(", ") + millimetres(d.wall_m) : QString()});
    }
    m_table->fill(rows);
    {
        const QSignalBlocker quiet(m_table);
        for (int row = 0; row < m_table->rowCount(); ++row)
            for (int column = 0; column < kColumns; ++column) {
                QTableWidgetItem* cell = m_table->item(row, column);
                const bool typeable = column == Length;
                cell->setFlags(typeable ? cell->flags() | Qt::ItemIsEditable : cell->flags() & ~Qt::ItemIsEditable);
                cell->setForeground(typeable ? look::colours().accent : look::colours().ink);
            }
        if (m_table->currentRow() < 0 && m_table->rowCount() > 0)
            m_table->setCurrentCell(0, Length);
    }
    m_wall->setEnabled(current() >= 0);
    m_remove->setEnabled(current() >= 0);
    m_propose->setVisible(m_stretches.empty());
    m_drawing->show(*job, m_stretches, current());
    say({}, false);
}

bool HarnessView::edit(const QString& description, const Change& change)
{
    const auto kept = m_desk.store.edit(description, change);
    refresh();
    if (!kept)
        say(QString::fromStdString(kept.error().sentence), true);
    return kept.has_value();
}

void HarnessView::pick(int branch)
{
    m_table->setCurrentCell(branch, Length);
}

void HarnessView::typed(QTableWidgetItem* cell)
{
    const auto branch = static_cast<size_t>(cell->row());
    const auto length = wires::lengthShown(cell->text().toStdString());
    if (!length) {
        refresh(); // what stands in the job stands in the cell
        say(QString::fromStdString(length.error().sentence), true);
        return;
    }
    edit(tr("Stretch measured: %1").arg(cell->text()),
         [&](job::Job& job) { return branches::setBranchLength(job, branch, *length); });
}

void HarnessView::add()
{
    const auto branch = branches::branchTyped(*m_desk.store.job(), m_new->text().toStdString());
    if (!branch) {
        say(QString::fromStdString(branch.error().sentence), true);
        return;
    }
    if (edit(tr("Stretch %1 to %2").arg(text(branch->from), text(branch->to)),
             [&](job::Job& job) { job.branches.push_back(*branch); }))
        m_new->clear();
}

void HarnessView::remove()
{
    const int row = current();
    if (row >= 0)
        edit(tr("Stretch removed"), [&](job::Job& job) { job.branches.erase(job.branches.begin() + row); });
}

void HarnessView::toggleWall()
{
    const int row = current();
    if (row >= 0)
        edit(tr("Stretch through a wall"), [&](job::Job& job) {
            job::Branch& b = job.branches[static_cast<size_t>(row)];
            b.wall = !b.wall;
        });
}

void HarnessView::propose()
{
    edit(tr("Stretches proposed from the wires"), [](job::Job& job) { job.branches = branches::proposeBranches(job); });
}

} // namespace vicegrip::app
