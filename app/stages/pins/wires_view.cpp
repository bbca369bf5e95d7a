#include "app/stages/pins/wires_view.h"

#include "app/stages/pins/wire_advice.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/paste_panel.h"
#include "core/materials/cut_list.h"
#include "core/parts/conductor.h"
#include "core/pasted/pasted_wires.h"
#include "core/pinning/pin_use.h"
#include "core/wires/colour.h"
#include "core/wires/joins.h"
#include "core/wires/wire_typed.h"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QPushButton>
#include <QShortcut>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

enum Column { Name, From, Through, To, Function, Colour, Area, Drawn, Cut, Strip, kColumns };

/// "4.5/4.5 mm": what is stripped at the two ends.
QString strips(const materials::Cut& cut)
{
    const auto end = [](double m) { return units::format(m, units::Dimension::Length, "mm", 1); };
    const std::string from = end(cut.stripFrom_m);
    return text(from.substr(0, from.find(' ')) + "/" + end(cut.stripTo_m));
}

QString metres(double m)
{
    return text(units::format(m, units::Dimension::Length, "m", 2));
}

/// What was typed into a cell, put into the wire.
Result<void> put(job::Wire& wire, int column, const std::string& typed)
{
    if (column == Colour)
        return wires::parseColour(typed).map([&](const std::string& letters) { wire.colour = letters; });
    if (column == Area)
        return wires::areaShown(typed).map([&](double m2) { wire.area_m2 = m2; });
    return wires::lengthShown(typed).map([&](double m) { wire.length_m = m; });
}

/// What a wire is for: what the plug's cavity at its one end is for, else at the other.
QString functionOf(const std::map<job::PointRef, pinning::PinUse>& uses, const job::Wire& wire)
{
    for (const bool single : {true, false}) // "Coolant temp, signal" says more than "Sensor ground of 7"
        for (const job::PointRef* end : {&wire.from, &wire.to})
            if (const auto it = uses.find(*end); it != uses.end() && it->second.circuit.empty() != single)
                return text(it->second.purpose);
    return {};
}

} // namespace

WiresView::WiresView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_stack(new QStackedWidget),
      m_paste(
          new PastePanel("paste-wires", tr("A list of wires, a line each"),
                         tr("Paste a list: from, to, colour, area, length, between tabs, semicolons or wide gaps; a "
                            "first line may name the columns and their units.")))
{
    m_stack->addWidget(buildTable());
    m_stack->addWidget(m_paste);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_stack);
    connect(m_paste, &PastePanel::typed, this, &WiresView::readPaste);
    connect(m_paste, &PastePanel::taken, this, &WiresView::takePaste);
    connect(m_paste, &PastePanel::left, this, &WiresView::leavePaste);
    handFocus(this, m_table);
    say({}, false);
}

WiresView::~WiresView() = default;

QWidget* WiresView::buildTable()
{
    auto* page = new QWidget;
    m_table = new ListTable("wires", tr("Wires"),
                            {{tr("Wire"), 46, true},
                             {tr("From"), 106, false},
                             {tr("Through"), 0, false},
                             {tr("To"), 106, false},
                             {tr("Function"), 0, false},
                             {tr("Colour"), 62, true},
                             {tr("Area"), 80, true},
                             {tr("Length"), 70, true},
                             {tr("Cut to"), 70, true},
                             {tr("Strip"), 92, true}});
    m_table->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                             QAbstractItemView::AnyKeyPressed);
    m_table->setSelectionBehavior(QAbstractItemView::SelectItems);
    m_said = label({}, look::Size::Small, false, true);
    m_said->setObjectName(QStringLiteral("wires-said"));
    m_advice = new WireAdvice(m_desk);
    auto* buttons = new QHBoxLayout;
    const auto button = [&](const char* name, auto what) {
        auto* b = new QPushButton;
        b->setObjectName(QLatin1String(name));
        b->setFont(look::textFont(look::Size::Small));
        buttons->addWidget(b);
        connect(b, &QPushButton::clicked, this, what);
        return b;
    };
    m_areasButton = button("take-areas", &WiresView::takeAreas);
    m_coloursButton = button("take-colours", &WiresView::takeColours);
    m_unusedButton = button("remove-unused", &WiresView::takeOutUnused);
    buttons->addStretch();
    m_pasteButton = button("paste-list", &WiresView::paste);
    m_pasteButton->setText(tr("Paste a list   Ctrl+V"));
    connect(new QShortcut(QKeySequence::Paste, page), &QShortcut::activated, this, &WiresView::paste);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_said);
    column->addWidget(m_table, 1);
    column->addWidget(m_advice);
    column->addLayout(buttons);
    connect(m_table, &QTableWidget::itemChanged, this, &WiresView::typed);
    connect(m_table, &QTableWidget::currentCellChanged, this, [this] { showAdvice(); });
    return page;
}

void WiresView::say(const QString& sentence, bool bad)
{
    const materials::Habits& habits = m_desk.preferences.now().habits;
    const QString hint = tr("Type a colour, an area or a length as you read it: BU/WH, 20 AWG, 85 cm. Cut to: with %1 "
                            "slack, %2 at each plug, splices staggered.")
                             .arg(percentText(habits.slack, 0),
                                  text(units::format(habits.serviceLoop_m, units::Dimension::Length, "cm", 0)));
    m_said->setText(sentence.isEmpty() ? hint : sentence);
    setInk(m_said, bad ? look::colours().failing : look::colours().inkSoft);
}

void WiresView::choose(const job::WireId& wire)
{
    for (int row = 0; row < m_table->rowCount(); ++row)
        if (m_table->item(row, 0)->text() == text(wire.value)) {
            m_table->setCurrentCell(row, 0);
            m_table->scrollToItem(m_table->item(row, 0), QAbstractItemView::PositionAtCenter);
            m_table->setFocus();
        }
}

void WiresView::refresh()
{
    const auto analysis = m_desk.store.analysis();
    const auto& job = analysis->job;
    m_areas = analysis::areas(*analysis);
    m_colours = wires::adviseColours(*job);
    m_unused = wires::unusedWires(*job, electrics::Wiring(*job));
    m_notes.clear();
    const auto cuts = materials::cutList(*job, m_desk.preferences.now().habits);
    const auto uses = pinning::pinUses(*job);
    auto on = wires::through(*job);
    std::vector<QStringList> rows;
    for (const job::Wire& w : job->wires) {
        const auto cut = std::ranges::find(cuts, w.id, &materials::Cut::wire);
        const bool unused = std::ranges::find(m_unused, w.id) != m_unused.end();
        m_notes[w.id] = text(materials::noteShown(*cut));
        rows.push_back({text(w.id.value), text(cut->from), text(on[w.id]), text(cut->to),
                        unused ? tr("nothing: take it out") : functionOf(uses, w), text(w.colour),
                        text(parts::areaText(w.area_m2)), metres(w.length_m), metres(cut->cut_m), strips(*cut)});
    }
    m_table->fill(rows);
    const QSignalBlocker quiet(m_table);
    const auto& c = look::colours();
    int thin = 0, alike = 0;
    for (int row = 0; row < m_table->rowCount(); ++row) {
        const job::Wire& w = job->wires[static_cast<size_t>(row)];
        const bool narrow = !m_areas[w.id].suffices(w.area_m2), clash = !m_colours[w.id].why.empty();
        thin += narrow ? 1 : 0;
        alike += clash ? 1 : 0;
        for (int column = 0; column < kColumns; ++column) {
            QTableWidgetItem* cell = m_table->item(row, column);
            const bool typeable = column == Colour || column == Area || column == Drawn;
            const bool wrong = (column == Area && narrow) || (column == Colour && clash);
            cell->setFlags(typeable ? cell->flags() | Qt::ItemIsEditable : cell->flags() & ~Qt::ItemIsEditable);
            cell->setForeground(wrong ? c.failing : typeable ? c.accent : column == Strip ? c.inkSoft : c.ink);
        }
    }
    const auto offer = [](QAbstractButton* button, const QString& words, int count) {
        button->setText(words + QString::number(count));
        button->setVisible(count > 0);
    };
    offer(m_areasButton, tr("Take the proposed areas: "), thin);
    offer(m_coloursButton, tr("Take the proposed colours: "), alike);
    const int unused = static_cast<int>(m_unused.size());
    offer(m_unusedButton, tr("Take out unused wires: "), unused);
    if (m_table->currentRow() < 0 && m_table->rowCount() > 0)
        m_table->setCurrentCell(0, Area);
    showAdvice();
}

void WiresView::showAdvice()
{
    const auto job = m_desk.store.job();
    const auto row = static_cast<size_t>(m_table->currentRow());
    const job::Wire* wire = m_table->currentRow() < 0 || row >= job->wires.size() ? nullptr : &job->wires[row];
    m_advice->show(wire, wire == nullptr ? wires::AreaChoice{} : m_areas[wire->id],
                   wire == nullptr ? wires::ColourAdvice{} : m_colours[wire->id],
                   wire == nullptr ? QString() : m_notes[wire->id]);
}

bool WiresView::edit(const QString& description, const Change& change)
{
    const auto kept = m_desk.store.edit(description, change);
    say(kept ? QString() : QString::fromStdString(kept.error().sentence), !kept);
    refresh();
    return kept.has_value();
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
    edit(tr("Wire %1: %2").arg(text(changed.id.value), cell->text()), [&](job::Job& j) { j.wires[row] = changed; });
}

void WiresView::takeAreas()
{
    const auto areas = m_areas;
    edit(tr("Proposed areas"), [&](job::Job& job) {
        for (job::Wire& w : job.wires)
            if (const auto it = areas.find(w.id); it != areas.end() && !it->second.suffices(w.area_m2))
                w.area_m2 = it->second.area_m2;
    });
}

void WiresView::takeColours()
{
    const auto colours = m_colours;
    edit(tr("Proposed colours"), [&](job::Job& job) {
        for (job::Wire& w : job.wires)
            if (const auto it = colours.find(w.id); it != colours.end())
                w.colour = it->second.colour;
    });
}

void WiresView::takeOutUnused()
{
    const auto unused = m_unused;
    edit(tr("Unused wires taken out"), [&](job::Job& job) { wires::removeWires(job, unused); });
}

void WiresView::paste()
{
    m_stack->setCurrentWidget(m_paste);
    m_paste->setText(QApplication::clipboard()->text());
    readPaste();
    m_paste->setFocus();
}

void WiresView::readPaste()
{
    const auto job = m_desk.store.job();
    const auto read = pasted::pasteWires(*job, m_paste->text().toStdString());
    if (!read) {
        m_paste->show({}, QString::fromStdString(read.error().sentence), {});
        return;
    }
    std::vector<PastePanel::Line> lines;
    int good = 0;
    for (const pasted::PastedWire& p : *read) {
        good += p.wire ? 1 : 0;
        const QString becomes =
            p.wire ? tr("%1 to %2, %3, %4, %5. ")
                         .arg(text(job::spoken(*job, p.wire->from)), text(job::spoken(*job, p.wire->to)),
                              text(p.wire->colour), text(parts::areaText(p.wire->area_m2)), metres(p.wire->length_m))
                   : QString();
        lines.push_back({p.line, becomes + text(p.trouble), p.wire.has_value()});
    }
    const int left = static_cast<int>(lines.size()) - good;
    m_paste->show(lines,
                  lines.empty() ? tr("Nothing pasted yet.") : tr("%1 understood, %2 left out").arg(good).arg(left),
                  good == 0 ? QString() : tr("Draw %1").arg(good));
}

void WiresView::takePaste()
{
    const auto read = pasted::pasteWires(*m_desk.store.job(), m_paste->text().toStdString());
    if (read && edit(tr("Wires from a list"), [&](job::Job& job) { pasted::drawPasted(job, *read); }))
        leavePaste();
}

void WiresView::leavePaste()
{
    m_stack->setCurrentIndex(0);
    m_table->setFocus();
}

} // namespace vicegrip::app
