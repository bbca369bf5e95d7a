#include "app/stages/pins/pin_table.h"

#include "core/pinning/pin_use.h"

#include "app/widgets/state_glyph.h"
#include "core/parts/conductor.h"

#include <QSignalBlocker>

#include <algorithm>

namespace vicegrip::app {
namespace {

using pinning::Pin;
using pinning::PinState;

enum Column { Mark, Where };
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

} // namespace

QString stateText(PinState state)
{
    return said(pinning::stateName(state));
}

PinTable::PinTable(QWidget* parent)
    : ListTable("pins", tr("Cavities"),
                {{{}, 30, false},
                 {tr("Cavity"), 62, true},
                 {tr("What for"), 0, false},
                 {tr("Wire"), 124, true},
                 {tr("Other end"), 0, false}},
                parent)
{
    setItemDelegateForColumn(Mark, new StateDelegate(this));
    connect(this, &QTableWidget::currentCellChanged, this, [this](int row, int, int before, int) {
        if (row >= 0 && row != before)
            emit picked(item(row, Mark)->data(kIndexRole).toInt());
    });
}

void PinTable::show(const job::Job& job, const std::vector<Pin>& pins, const Uses& uses, int current)
{
    std::vector<size_t> order; // wires first: blank plugs come last
    for (const bool blank : {false, true})
        for (size_t i = 0; i < pins.size(); ++i)
            if (pins[i].state != PinState::Open && pins[i].wires.empty() == blank)
                order.push_back(i);
    std::vector<QStringList> rows;
    for (size_t i : order) {
        const Pin& pin = pins[i];
        const auto use = uses.find(pin.at);
        QStringList wires;
        for (const job::Wire& w : job.wires)
            if (std::ranges::find(pin.wires, w.id) != pin.wires.end())
                wires << text(w.colour) + QLatin1Char(' ') + text(parts::areaText(w.area_m2));
        rows.push_back({{},
                        text(pin.at.cavity),
                        pin.wires.empty()   ? stateText(pin.state)
                        : use == uses.end() ? QString()
                                            : text(use->second.purpose),
                        wires.join(QStringLiteral(" + ")),
                        text(pinning::otherEnds(job, pin))});
    }
    const QSignalBlocker quiet(this);
    fill(rows);
    int shown = -1;
    for (int row = 0; row < rowCount(); ++row) {
        const size_t i = order[static_cast<size_t>(row)];
        item(row, Mark)->setData(kStateRole, static_cast<int>(glyphOf(pins[i].state)));
        item(row, Mark)->setData(kIndexRole, static_cast<int>(i));
        item(row, Mark)->setToolTip(stateText(pins[i].state));
        if (static_cast<int>(i) == current)
            shown = row;
    }
    setCurrentCell(shown, Where);
    if (shown >= 0)
        scrollToItem(item(shown, Where));
}

} // namespace vicegrip::app
