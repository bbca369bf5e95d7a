#include "app/stages/board/board_model.h"

#include "app/look/look.h"
#include "app/widgets/circuit_text.h"

#include <cmath>

namespace vicegrip::app {
namespace {

/// The station the ECU reports this through, by its place among the circuit's; -1 when there is none.
int reported(const std::vector<proof::Standing>& stations, proof::StationKind kind)
{
    for (size_t i = 0; i < stations.size(); ++i)
        if (stations[i].place.station.kind == kind)
            return static_cast<int>(i);
    return -1;
}

} // namespace

void BoardModel::refresh()
{
    beginResetModel();
    m_analysis = m_desk.store.analysis();
    endResetModel();
}

void BoardModel::refreshLive()
{
    if (rowCount() > 0)
        emit dataChanged(index(0, Volts), index(rowCount() - 1, Value));
}

int BoardModel::rowOf(const job::CircuitId& circuit) const
{
    for (size_t i = 0; m_analysis && i < m_analysis->circuits.size(); ++i)
        if (m_analysis->circuits[i].id == circuit)
            return static_cast<int>(i);
    return -1;
}

int BoardModel::rowCount(const QModelIndex& parent) const
{
    return parent.isValid() || !m_analysis ? 0 : static_cast<int>(m_analysis->circuits.size());
}

BoardModel::Now BoardModel::now(const proof::CircuitView& view, Column column) const
{
    const job::Circuit& circuit = *job::find(*m_analysis->job, view.id);
    const auto kind = column == Volts ? proof::StationKind::Input : proof::StationKind::Value;
    const auto& stations = proof::stations(view, job::Condition::KeyOn);
    const int at = reported(stations, kind);
    if (at < 0 || (column == Value && view.scale == proof::State::NotNeeded))
        return {QStringLiteral("–"), {}, false};
    const proof::Place& place = stations[static_cast<size_t>(at)].place;
    const auto reading = m_desk.live.now(*m_analysis->job, circuit, place);
    if (!reading) {
        if (m_desk.live.whyMissing(*m_analysis->job, circuit, kind) == Live::Missing::NotTold)
            return {QStringLiteral("–"), tr("Nothing that comes tells it: page Links (Ctrl+L) says what does."), false};
        const auto old_s = m_desk.live.staleFor_s(inputIndex(*m_analysis->job, view.id), kind);
        return {m_desk.live.missing(*m_analysis->job, circuit, kind, QStringLiteral("–")),
                old_s ? tr("The ECU says nothing of it any more, since %1 s.").arg(std::floor(*old_s)) : QString(),
                false};
    }
    const QString shown = text(job::readingText(*reading, place.unit));
    const auto* promises = m_desk.promises.known(m_analysis, view.id, m_desk.selection.heardUnder());
    if (promises == nullptr)
        return {shown, tr("What it must read is being worked out."), false};
    const proof::Expectation* e = &(*promises)[static_cast<size_t>(at)];
    if (!e->promises())
        return {shown, text(e->trouble), false};
    if (!m_desk.live.untouched(*m_analysis->job, circuit))
        return {shown, tr("The bench's hands hold its sensor: the promise is for rest."), false};
    const bool off = !e->allows(*reading);
    return {off ? shown + QStringLiteral(" ✗") : shown, text(proof::verdictText(*e, *reading)), off};
}

QVariant BoardModel::data(const QModelIndex& index, int role) const
{
    if (!m_analysis || index.row() >= rowCount())
        return {};
    const proof::CircuitView& view = m_analysis->circuits[static_cast<size_t>(index.row())];
    const job::Circuit* circuit = job::find(*m_analysis->job, view.id);
    const auto column = static_cast<Column>(index.column());
    const proof::State state = column == Pins ? view.pins : column == Meter ? view.meter : view.scale;
    const bool isStage = column == Pins || column == Meter || column == Scale;
    if (role == CircuitRole)
        return text(view.id.value);
    if (role == StateRole)
        return isStage ? static_cast<int>(state) : -1;
    if (role == Qt::AccessibleTextRole && isStage)
        return said(proof::stateName(state));
    if (role == Qt::FontRole)
        return column == Name                                                      ? look::textFont(look::Size::Body)
               : column == Signal || (column == Input && !job::isSeated(*circuit)) ? look::textFont(look::Size::Small)
                                                                                   : look::numbers(look::Size::Small);
    if (role == Qt::TextAlignmentRole && (column == Volts || column == Value))
        return static_cast<int>(Qt::AlignRight | Qt::AlignVCenter);
    if (role == Qt::ForegroundRole && column == Input && !job::isSeated(*circuit))
        return look::colours().failing;
    if ((role == Qt::ForegroundRole || role == Qt::ToolTipRole) && (column == Volts || column == Value)) {
        const Now live = now(view, column);
        if (role == Qt::ToolTipRole)
            return live.verdict;
        return live.off ? QVariant(look::colours().failing) : QVariant();
    }
    if (role == Qt::ToolTipRole && column == Signal)
        return signalText(*m_analysis->job, *circuit);
    if (role == Qt::ForegroundRole && column == Signal)
        return look::colours().inkSoft;
    if (role != Qt::DisplayRole)
        return {};
    switch (column) {
    case Name:
        return text(circuit->name);
    case Signal:
        return signalText(*m_analysis->job, *circuit);
    case Input:
        return job::isSeated(*circuit) ? text(job::seatOf(*circuit)) : tr("no seat");
    case Volts:
    case Value:
        return now(view, column).shown;
    default:
        return {};
    }
}

QVariant BoardModel::headerData(int section, Qt::Orientation orientation, int role) const
{
    if (orientation != Qt::Horizontal)
        return {};
    if (role == Qt::TextAlignmentRole)
        return static_cast<int>((section < Volts    ? Qt::AlignLeft
                                 : section <= Value ? Qt::AlignRight
                                                    : Qt::AlignHCenter) |
                                Qt::AlignVCenter);
    if (role == Qt::FontRole)
        return look::textFont(look::Size::Small);
    if (role != Qt::DisplayRole)
        return {};
    switch (static_cast<Column>(section)) {
    case Name:
        return tr("Circuit");
    case Signal:
        return tr("Signal");
    case Input:
        return tr("Seat");
    case Volts:
        return tr("Input now");
    case Value:
        return tr("Value now");
    case Pins:
        return tr("Pins");
    case Meter:
        return tr("Meter");
    case Scale:
        return tr("Scale");
    case kColumns:
        break;
    }
    return {};
}

} // namespace vicegrip::app
