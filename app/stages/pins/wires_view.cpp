#include "app/stages/pins/wires_view.h"

#include "app/stages/pins/list_table.h"
#include "app/widgets/labels.h"
#include "core/harness/colour.h"
#include "core/harness/cut_list.h"
#include "core/parts/conductor.h"

#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

using units::Dimension;

enum Column { Name, From, To, Colour, Area, Drawn, Cut, Strip, Note, kColumns };

constexpr double kShortest_m = 0.01, kLongest_m = 50;

QString metres(double m)
{
    return text(units::format(m, Dimension::Length, "m", 2));
}

/// What was typed into a cell, put into the wire.
Result<void> put(job::Wire& wire, int column, const std::string& typed)
{
    if (column == Colour)
        return harness::parseColour(typed).map([&](const std::string& letters) { wire.colour = letters; });
    if (column == Area)
        return units::parse(typed, Dimension::Area, "mm²").and_then([&](double m2) -> Result<void> {
            if (m2 < 0.05e-6 || m2 > 120e-6)
                return fail(ErrorCode::Range, "expected 0.05 to 120 mm², or a gauge such as 20 AWG");
            wire.area_m2 = m2;
            return {};
        });
    return units::parse(typed, Dimension::Length, "m").and_then([&](double m) -> Result<void> {
        if (m < kShortest_m || m > kLongest_m)
            return fail(ErrorCode::Range, "expected a length from 1 cm to 50 m");
        wire.length_m = m;
        return {};
    });
}

} // namespace

WiresView::WiresView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_table(new ListTable("wires", tr("Wires"),
                            {{tr("Wire"), 56, true},
                             {tr("From"), 0, false},
                             {tr("To"), 0, false},
                             {tr("Colour"), 70, true},
                             {tr("Area"), 86, true},
                             {tr("Length"), 76, true},
                             {tr("Cut to"), 76, true},
                             {tr("Strip"), 104, true},
                             {{}, 0, false}})),
      m_said(label({}, look::Size::Small, false, true))
{
    m_table->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                             QAbstractItemView::AnyKeyPressed);
    m_table->setSelectionBehavior(QAbstractItemView::SelectItems);
    m_said->setObjectName(QStringLiteral("wires-said"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_said);
    column->addWidget(m_table, 1);
    connect(m_table, &QTableWidget::itemChanged, this, &WiresView::typed);
    say({}, false);
}

void WiresView::say(const QString& sentence, bool bad)
{
    m_said->setText(sentence.isEmpty() ? tr("Type a colour, an area or a length as you read it: BU/WH, 20 AWG, 85 cm. "
                                            "Cut to: with 3 % slack, 8 cm at each plug, splices staggered (typical).")
                                       : sentence);
    setInk(m_said, bad ? look::colours().failing : look::colours().inkSoft);
}

void WiresView::refresh()
{
    const auto job = m_desk.store.job();
    std::vector<QStringList> rows;
    const auto cuts = harness::cutList(*job);
    for (const job::Wire& w : job->wires) {
        const auto cut = std::ranges::find(cuts, w.id, &harness::Cut::wire);
        rows.push_back({text(w.id.value), text(cut->from), text(cut->to), text(w.colour),
                        text(parts::areaText(w.area_m2)), metres(w.length_m), metres(cut->cut_m),
                        text(units::formatNumber(cut->stripFrom_m * 1e3, 1)) + QStringLiteral(" / ") +
                            text(units::formatNumber(cut->stripTo_m * 1e3, 1)) + tr(" mm"),
                        text(cut->note)});
    }
    m_table->fill(rows);
    const QSignalBlocker quiet(m_table);
    for (int row = 0; row < m_table->rowCount(); ++row)
        for (int column = 0; column < kColumns; ++column) {
            QTableWidgetItem* cell = m_table->item(row, column);
            const bool typeable = column == Colour || column == Area || column == Drawn;
            cell->setFlags(typeable ? cell->flags() | Qt::ItemIsEditable : cell->flags() & ~Qt::ItemIsEditable);
            cell->setForeground(typeable ? look::colours().accent : look::colours().ink);
        }
}

void WiresView::typed(QTableWidgetItem* cell)
{
    const auto job = m_desk.store.job();
    const auto row = static_cast<size_t>(cell->row());
    if (row >= job->wires.size())
        return;
    job::Wire changed = job->wires[row];
    if (const auto done = put(changed, cell->column(), cell->text().toStdString()); !done) {
        say(text(changed.id.value) + QStringLiteral(": ") + QString::fromStdString(done.error().sentence), true);
        refresh(); // what stands in the job stands in the cell
        return;
    }
    const auto kept = m_desk.store.edit(tr("Wire %1: %2").arg(text(changed.id.value), cell->text()),
                                        [&](job::Job& j) { j.wires[row] = changed; });
    say(kept ? QString() : QString::fromStdString(kept.error().sentence), !kept);
    refresh();
}

} // namespace vicegrip::app
