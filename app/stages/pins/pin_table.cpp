#include "app/stages/pins/pin_table.h"

#include "app/look/look.h"
#include "app/widgets/state_glyph.h"

#include <QHeaderView>
#include <QSignalBlocker>

#include <algorithm>

namespace vicegrip::app {
namespace {

using harness::Pin;
using harness::PinState;

enum Column { Mark, Where, What, Wire, OtherEnd, kColumns };
constexpr int kIndexRole = kStateRole + 1;

proof::State glyphOf(PinState state)
{
    switch (state) {
    case PinState::Counted:
    case PinState::BlankIn:
        return proof::State::Done;
    case PinState::Wrong:
        return proof::State::Failing;
    case PinState::Open:
        return proof::State::NotNeeded;
    default:
        return proof::State::Untouched;
    }
}

const harness::PinUse* useOf(const PinTable::Uses& uses, const job::PointRef& at)
{
    const auto it = uses.find(at);
    return it == uses.end() ? nullptr : &it->second;
}

} // namespace

QString stateText(PinState state)
{
    switch (state) {
    case PinState::Open:
        return PinTable::tr("nothing");
    case PinState::BlankDue:
        return PinTable::tr("blank plug");
    case PinState::BlankIn:
        return PinTable::tr("blank plug in");
    case PinState::Planned:
        return PinTable::tr("planned");
    case PinState::InHand:
        return PinTable::tr("in hand");
    case PinState::Seated:
        return PinTable::tr("in, not counted again");
    case PinState::Counted:
        return PinTable::tr("in, counted twice");
    case PinState::Wrong:
        break;
    }
    return PinTable::tr("wrong");
}

QString areaText(const job::Wire& wire)
{
    return text(units::formatNumber(wire.area_m2 * 1e6, 2)) + QStringLiteral(" mm²");
}

PinTable::PinTable(QWidget* parent) : QTableWidget(0, kColumns, parent)
{
    setObjectName(QStringLiteral("pins"));
    setAccessibleName(tr("Cavities"));
    setHorizontalHeaderLabels({{}, tr("Cavity"), tr("What for"), tr("Wire"), tr("Other end")});
    setFont(look::words(look::Size::Small));
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(28);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setSectionsClickable(false);
    horizontalHeader()->setFont(look::words(look::Size::Small));
    horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    horizontalHeader()->setSectionResizeMode(What, QHeaderView::Stretch);
    horizontalHeader()->setSectionResizeMode(OtherEnd, QHeaderView::Stretch);
    setItemDelegateForColumn(Mark, new StateDelegate(this));
    setColumnWidth(Mark, 30);
    setColumnWidth(Where, 62);
    setColumnWidth(Wire, 124);
    setShowGrid(false);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setTabKeyNavigation(false);
    connect(this, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
        if (row >= 0 && row != before)
            emit picked(item(row, Mark)->data(kIndexRole).toInt());
    });
}

void PinTable::show(const job::Job& job, const std::vector<Pin>& pins, const Uses& uses, int current)
{
    const QSignalBlocker quiet(this);
    // Rows are filled again, not made anew: this may be called from a row's own signal.
    setRowCount(static_cast<int>(std::ranges::count_if(pins, [](const Pin& p) { return p.state != PinState::Open; })));
    int row = -1;
    for (size_t i = 0; i < pins.size(); ++i) {
        const Pin& pin = pins[i];
        if (pin.state == PinState::Open)
            continue;
        ++row;
        const harness::PinUse* use = useOf(uses, pin.at);
        QString wires;
        for (const job::Wire& w : job.wires)
            if (std::ranges::find(pin.wires, w.id) != pin.wires.end())
                wires += (wires.isEmpty() ? QString() : QStringLiteral(" + ")) + text(w.colour) + QLatin1Char(' ') +
                         areaText(w);
        const QString texts[kColumns] = {{},
                                         text(pin.at.cavity),
                                         pin.wires.empty() ? stateText(pin.state)
                                         : use == nullptr  ? QString()
                                                           : text(use->words),
                                         wires,
                                         text(harness::otherEnds(job, pin))};
        for (int column = 0; column < kColumns; ++column) {
            QTableWidgetItem* cell = item(row, column);
            if (cell == nullptr)
                setItem(row, column, cell = new QTableWidgetItem);
            cell->setText(texts[column]);
            cell->setToolTip(texts[column]);
            if (column == Where || column == Wire)
                cell->setFont(look::numbers(look::Size::Small));
        }
        item(row, Mark)->setData(kStateRole, static_cast<int>(glyphOf(pin.state)));
        item(row, Mark)->setData(kIndexRole, static_cast<int>(i));
        item(row, Mark)->setToolTip(stateText(pin.state));
        if (static_cast<int>(i) == current)
            setCurrentCell(row, Where);
    }
}

} // namespace vicegrip::app
