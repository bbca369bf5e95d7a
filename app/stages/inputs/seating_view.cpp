#include "app/stages/inputs/seating_view.h"

#include "app/look/look.h"
#include "core/electrics/wiring.h"
#include "core/seating/compatibility.h"
#include "core/seating/drivers.h"

#include <QKeyEvent>
#include <QMouseEvent>

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr look::Px kCircuitHeight{42}, kSeatHeight{28}, kHeadingHeight{46}, kTop{4};
constexpr look::Px kBetween{12}; ///< a unit's inputs and its outputs
constexpr double kLeftShare = 0.34, kRightFrom = 0.43;

} // namespace

QString seatingWords(const std::vector<std::string>& words)
{
    QStringList out;
    for (const std::string& w : words)
        out << text(w);
    return out.join(QStringLiteral("  ·  "));
}

SeatingView::SeatingView(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk), m_job(desk.store.job())
{
    setObjectName(QStringLiteral("seating"));
    setAccessibleName(tr("Seating plan"));
    setFocusPolicy(Qt::StrongFocus);
}

void SeatingView::layRows()
{
    m_rows.clear();
    int top = kTop;
    const auto budgets = seating::supplyBudgets(*m_job);
    for (size_t u = 0; const parts::Ecu* unit : job::units(*m_job)) {
        m_rows.push_back({nullptr, nullptr, budgets[u++], top});
        top += kHeadingHeight;
        for (const parts::EcuInput& input : unit->inputs) {
            m_rows.push_back({&input, nullptr, {}, top});
            top += kSeatHeight;
        }
        top += unit->outputs.empty() ? 0 : kBetween;
        for (const parts::EcuOutput& output : unit->outputs) {
            m_rows.push_back({nullptr, &output, {}, top});
            top += kSeatHeight;
        }
    }
}

QSize SeatingView::sizeHint() const
{
    const int left = kTop + kCircuitHeight * static_cast<int>(m_job->circuits.size());
    const int right = m_rows.empty() ? 0 : m_rows.back().top + kSeatHeight;
    return {700_px, std::max({left, right, 200_px}) + 4_px};
}

int SeatingView::selectedCircuit() const
{
    for (size_t i = 0; i < m_job->circuits.size(); ++i)
        if (m_job->circuits[i].id == m_desk.selection.circuit())
            return static_cast<int>(i);
    return -1;
}

void SeatingView::refresh()
{
    m_job = m_desk.store.job();
    layRows();
    const electrics::Wiring wiring(*m_job);
    m_fitted.clear();
    for (const job::Circuit& c : m_job->circuits)
        m_fitted.push_back(wiring.pullUp(c));
    m_refusals.clear();
    if (const int i = selectedCircuit(); i >= 0)
        m_refusals = seating::refusals(*m_job, m_job->circuits[static_cast<size_t>(i)]);
    if (m_pointed >= static_cast<int>(m_rows.size()))
        m_pointed = -1;
    describe();
    updateGeometry();
    update();
    if (m_desk.selection.circuit() != m_shown) // once the rows have their room
        QMetaObject::invokeMethod(this, &SeatingView::bringIntoSight, Qt::QueuedConnection);
}

/// The circuit that was selected elsewhere, and where there is room for both its seat.
void SeatingView::bringIntoSight()
{
    const int selected = selectedCircuit();
    if (selected < 0 || !isVisible())
        return;
    m_shown = m_desk.selection.circuit();
    for (size_t row = 0; row < m_rows.size(); ++row)
        if (m_rows[row].isSeat() && m_rows[row].seats(m_job->circuits[static_cast<size_t>(selected)]))
            emit keepInSight(seatRect(row));
    emit keepInSight(circuitRect(selected));
}

QRect SeatingView::circuitRect(int index) const
{
    return {2, kTop + index * kCircuitHeight, static_cast<int>(width() * kLeftShare), kCircuitHeight - 4_px};
}

QRect SeatingView::seatRect(size_t row) const
{
    const int left = static_cast<int>(width() * kRightFrom);
    return {left, m_rows[row].top, width() - left - 2, m_rows[row].isSeat() ? kSeatHeight : kHeadingHeight};
}

QString SeatingView::SeatRow::id() const
{
    return input != nullptr ? text(input->id.value) : output != nullptr ? text(output->id.value) : QString();
}

std::vector<std::string> SeatingView::SeatRow::capabilities() const
{
    return input != nullptr ? seating::capabilities(*input) : seating::capabilities(*output);
}

bool SeatingView::SeatRow::seats(const job::Circuit& circuit) const
{
    return (input != nullptr && input->id == circuit.input) || (output != nullptr && output->id == circuit.output);
}

const job::Circuit* SeatingView::SeatRow::occupant(const job::Job& job) const
{
    return input != nullptr    ? job::seatedOn(job, input->id)
           : output != nullptr ? job::drivenBy(job, output->id)
                               : nullptr;
}

QString SeatingView::reasonFor(const SeatRow& row) const
{
    for (const seating::Refusal& r : m_refusals)
        if (row.input != nullptr ? r.input == row.input->id : row.output != nullptr && r.output == row.output->id)
            return text(r.reason);
    return {};
}

bool SeatingView::wouldTake(const SeatRow& row) const
{
    const int selected = selectedCircuit();
    if (selected < 0 || !row.isSeat())
        return false;
    const bool driven = job::actuatorOf(*m_job, m_job->circuits[static_cast<size_t>(selected)]) != nullptr;
    return driven == (row.output != nullptr) && reasonFor(row).isEmpty();
}

int SeatingView::circuitAt(const QPoint& where) const
{
    for (size_t i = 0; i < m_job->circuits.size(); ++i)
        if (circuitRect(static_cast<int>(i)).contains(where))
            return static_cast<int>(i);
    return -1;
}

int SeatingView::seatAt(const QPoint& where) const
{
    for (size_t r = 0; r < m_rows.size(); ++r)
        if (m_rows[r].isSeat() && seatRect(r).contains(where))
            return static_cast<int>(r);
    return -1;
}

void SeatingView::selectCircuit(int index)
{
    if (m_job->circuits.empty())
        return;
    index = std::clamp(index, 0, static_cast<int>(m_job->circuits.size()) - 1);
    m_pointed = -1;
    const job::CircuitId id = m_job->circuits[static_cast<size_t>(index)].id;
    m_desk.selection.setCircuit(id);
    emit keepInSight(circuitRect(index));
    describe();
    update();
}

void SeatingView::pointAt(int row)
{
    if (row < 0 || row >= static_cast<int>(m_rows.size()) || !m_rows[static_cast<size_t>(row)].isSeat())
        return;
    m_pointed = row;
    emit keepInSight(seatRect(static_cast<size_t>(row)));
    describe();
    update();
}

void SeatingView::walk(int step)
{
    if (m_pointed < 0) {
        selectCircuit(selectedCircuit() + step);
        return;
    }
    int row = m_pointed + step;
    if (row >= 0 && row < static_cast<int>(m_rows.size()) && !m_rows[static_cast<size_t>(row)].isSeat())
        row += step; // headings are stepped over
    pointAt(row);
}

void SeatingView::mousePressEvent(QMouseEvent* event)
{
    if (const int circuit = circuitAt(event->pos()); circuit >= 0) {
        selectCircuit(circuit);
        m_dragged = circuit;
        m_drag = event->pos();
    } else if (const int row = seatAt(event->pos()); row >= 0) {
        pointAt(row);
        if (const job::Circuit* there = m_rows[static_cast<size_t>(row)].occupant(*m_job))
            m_desk.selection.setCircuit(job::CircuitId(there->id));
    }
}

void SeatingView::mouseMoveEvent(QMouseEvent* event)
{
    if (m_dragged < 0)
        return;
    m_drag = event->pos();
    update();
}

void SeatingView::mouseReleaseEvent(QMouseEvent* event)
{
    const int dragged = std::exchange(m_dragged, -1);
    const int row = seatAt(event->pos());
    if (dragged >= 0 && row >= 0)
        emit seatAsked(m_rows[static_cast<size_t>(row)].id());
    update();
}

void SeatingView::keyPressEvent(QKeyEvent* event)
{
    switch (event->key()) {
    case Qt::Key_Up:
    case Qt::Key_Down:
        walk(event->key() == Qt::Key_Down ? 1 : -1);
        return;
    case Qt::Key_Right: {
        // To its own seat, else to the first that would take it.
        const int selected = selectedCircuit();
        for (size_t r = 0; selected >= 0 && r < m_rows.size(); ++r) {
            const job::Circuit& circuit = m_job->circuits[static_cast<size_t>(selected)];
            if (m_rows[r].seats(circuit) || (!job::isSeated(circuit) && wouldTake(m_rows[r]))) {
                pointAt(static_cast<int>(r));
                return;
            }
        }
        pointAt(1);
        return;
    }
    case Qt::Key_Left:
        selectCircuit(selectedCircuit());
        return;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (m_pointed >= 0)
            emit seatAsked(m_rows[static_cast<size_t>(m_pointed)].id());
        return;
    case Qt::Key_Delete:
        emit unseatAsked();
        return;
    case Qt::Key_L:
        emit lockAsked();
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

void SeatingView::describe()
{
    const int selected = selectedCircuit();
    QString words;
    if (selected >= 0) {
        const job::Circuit& c = m_job->circuits[static_cast<size_t>(selected)];
        words = text(c.name) + (job::isSeated(c) ? tr(" sits on ") + text(job::seatOf(c)) : tr(" has no seat"));
    }
    if (m_pointed >= 0) {
        const SeatRow& row = m_rows[static_cast<size_t>(m_pointed)];
        const QString reason = reasonFor(row);
        words += QStringLiteral(". ") + row.id() + QStringLiteral(": ") +
                 (reason.isEmpty() ? seatingWords(row.capabilities()) : reason);
    }
    setAccessibleDescription(words);
    emit described(m_pointed >= 0 ? words : QString());
}

} // namespace vicegrip::app
