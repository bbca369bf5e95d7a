#include "app/stages/inputs/seating_view.h"

#include "app/look/look.h"
#include "core/electrics/wiring.h"
#include "core/harness/edits.h"
#include "core/seating/compatibility.h"
#include "core/seating/drivers.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr look::Px kCircuitHeight{42}, kSeatHeight{28}, kHeadingHeight{46}, kTop{4};
constexpr look::Px kBetween{12}; ///< a unit's inputs and its outputs
constexpr double kLeftShare = 0.34, kRightFrom = 0.43;

/// The sign of a sensor ground (IEC 60617), hanging from `top`: circuits that carry it share the unit's cavities.
void paintGround(QPainter& p, const QPointF& top)
{
    p.drawLine(top, top + QPointF(0, 4_px));
    for (int bar = 0; bar < 3; ++bar) {
        const QPointF middle = top + QPointF(0, 4_px + 2.5_px * bar);
        p.drawLine(middle - QPointF(5_px - 2.0_px * bar, 0), middle + QPointF(5_px - 2.0_px * bar, 0));
    }
}

QString joined(const std::vector<std::string>& words)
{
    QStringList out;
    for (const std::string& w : words)
        out << text(w);
    return out.join(QStringLiteral("  ·  "));
}

} // namespace

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

void SeatingView::paintCircuit(QPainter& p, size_t index)
{
    const auto& c = look::colours();
    const job::Circuit& circuit = m_job->circuits[index];
    const QRect box = circuitRect(static_cast<int>(index));
    const bool selected = static_cast<int>(index) == selectedCircuit();
    const bool seated = job::isSeated(circuit);
    p.fillRect(box, selected ? c.selected : c.card);
    p.setPen(QPen(seated                                ? c.line
                  : circuit.want == job::Want::Required ? c.failing
                                                        : c.inkSoft,
                  seated ? 1 : 1.5, seated ? Qt::SolidLine : Qt::DashLine));
    p.setBrush(Qt::NoBrush);
    p.drawRect(box);
    p.setFont(look::textFont(look::Size::Small, true));
    p.setPen(c.ink);
    const QRect inside = box.adjusted(8_px, 2, -8_px, -2);
    const QString right = circuit.locked ? tr("locked") : seated ? QString() : said(fields::enumName(circuit.want));
    const int rightWidth = right.isEmpty() ? 0 : p.fontMetrics().horizontalAdvance(right) + 8_px;
    p.drawText(inside.adjusted(0, 0, -rightWidth, 0), Qt::AlignTop | Qt::AlignLeft,
               p.fontMetrics().elidedText(text(circuit.name), Qt::ElideRight, inside.width() - rightWidth));
    p.setFont(look::textFont(look::Size::Small));
    p.setPen(seated ? c.inkSoft : circuit.want == job::Want::Required ? c.failing : c.inkSoft);
    p.drawText(inside, Qt::AlignTop | Qt::AlignRight, right);
    if (const parts::Part* part = job::partOf(*m_job, circuit)) {
        QString marks = joined(seating::demands(*part));
        if (const job::Resistor* r = index < m_fitted.size() ? m_fitted[index] : nullptr)
            marks += tr("  ·  %1 fitted").arg(text(units::formatOhms(r->ohm)));
        p.setPen(c.inkSoft);
        p.drawText(inside, Qt::AlignBottom | Qt::AlignLeft,
                   p.fontMetrics().elidedText(marks, Qt::ElideRight, inside.width() - 16_px));
        if (!parts::isDriven(*part) && harness::onSensorGround(*part))
            paintGround(p, QPointF(inside.right() - 4_px, inside.bottom() - 11_px));
    }
}

/// A unit's name; under it how much of its sensor supply is taken, and how many circuits share its sensor ground.
void SeatingView::paintUnit(QPainter& p, const SeatRow& row, const QRect& box)
{
    constexpr look::Px kBar{90};
    const auto& c = look::colours();
    const seating::SupplyBudget& b = row.budget;
    const QRect name(box.left(), box.top(), box.width(), box.height() / 2);
    const QRect below(box.left(), name.bottom(), box.width() - 4_px, box.height() / 2 - 2);
    p.setFont(look::textFont(look::Size::Small, true));
    p.setPen(c.ink);
    p.drawText(name, Qt::AlignVCenter | Qt::AlignLeft,
               p.fontMetrics().elidedText(text(b.unit), Qt::ElideRight, name.width()));

    const bool over = b.drawn_a > b.limit_a;
    const QString load = tr("%1 of %2")
                             .arg(text(units::format(b.drawn_a, units::Dimension::Current, "mA", 0)),
                                  text(units::format(b.limit_a, units::Dimension::Current, "mA", 0)));
    const QString shared = tr("%1 circuits, %2 cavities").arg(b.groundUsers).arg(b.grounds);
    p.setFont(look::textFont(look::Size::Small));
    const int words = p.fontMetrics().horizontalAdvance(load),
              grounds = p.fontMetrics().horizontalAdvance(shared) + 24_px;
    const int length = std::min<int>(kBar, below.width() - words - grounds - 24_px); // the words come first
    p.setPen(over ? c.failing : c.inkSoft);
    if (length > 0) {
        const QRectF bar(below.left() + 1, below.center().y() - 3_px, length, 8_px);
        p.setBrush(Qt::NoBrush);
        p.drawRect(bar);
        p.fillRect(QRectF(bar.topLeft(), QSizeF(length * std::min(b.drawn_a / b.limit_a, 1.0), bar.height())),
                   over ? c.failing : c.accent);
    }
    p.drawText(below.adjusted(length > 0 ? length + 10_px : 0, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, load);
    p.setPen(c.inkSoft);
    p.drawText(below, Qt::AlignVCenter | Qt::AlignRight, shared);
    paintGround(p, QPointF(below.right() - grounds + 12_px, below.center().y() - 4_px));
}

void SeatingView::paintSeat(QPainter& p, size_t index)
{
    const auto& c = look::colours();
    const SeatRow& row = m_rows[index];
    const QRect box = seatRect(index);
    if (!row.isSeat()) {
        paintUnit(p, row, box);
        return;
    }
    const int selected = selectedCircuit();
    const job::Circuit* there = row.occupant(*m_job);
    const bool mine =
        there != nullptr && selected >= 0 && there->id == m_job->circuits[static_cast<size_t>(selected)].id;
    const QString reason = selected >= 0 && !mine ? reasonFor(row) : QString();
    const bool open = !mine && wouldTake(row);
    if (mine)
        p.fillRect(box, c.selected);
    p.setPen(c.line);
    p.drawLine(box.bottomLeft(), box.bottomRight());
    // A filled socket is taken, an open one free; the ring of one that would take the selected circuit is heavy.
    const QPointF socket(box.left() + 9_px, box.center().y());
    p.setPen(QPen(open || mine ? c.accent : c.inkSoft, open || mine ? 2.5_px : 1.2_px));
    p.setBrush(there != nullptr ? QBrush(mine ? c.accent : c.inkSoft) : Qt::NoBrush);
    p.drawEllipse(socket, 5.5_px, 5.5_px);
    p.setFont(look::numbers(look::Size::Small));
    p.setPen(reason.isEmpty() ? c.ink : c.inkSoft);
    const QString id = row.id();
    p.drawText(QRect(box.left() + 22_px, box.top(), 60_px, box.height()), Qt::AlignVCenter | Qt::AlignLeft, id);
    p.setFont(look::textFont(look::Size::Small));
    QString words = joined(row.capabilities());
    if (open)
        words = tr("would take it:  ") + words;
    else if (!reason.isEmpty())
        words = reason.startsWith(QLatin1String("it ")) ? reason.mid(3) : reason; // the row says which
    p.setPen(open ? c.ink : c.inkSoft);
    const QRect inside = box.adjusted(84_px, 0, -4_px, 0);
    p.drawText(inside, Qt::AlignVCenter | Qt::AlignLeft,
               p.fontMetrics().elidedText(words, Qt::ElideRight, inside.width()));
    if (static_cast<int>(index) == m_pointed && hasFocus()) {
        p.setPen(QPen(c.accent, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(box.adjusted(-4_px, 1, -1, -1));
    }
}

void SeatingView::paintSeats(QPainter& p)
{
    const auto& c = look::colours();
    for (size_t i = 0; i < m_job->circuits.size(); ++i) {
        const job::Circuit& circuit = m_job->circuits[i];
        for (size_t r = 0; r < m_rows.size(); ++r) {
            if (!m_rows[r].seats(circuit))
                continue;
            const QRect a = circuitRect(static_cast<int>(i)), b = seatRect(r);
            const QPointF from(a.right() + 1, a.center().y() + 1), to(b.left() + 3_px, b.center().y());
            const bool selected = static_cast<int>(i) == selectedCircuit();
            QPainterPath line(from);
            const double bend = (to.x() - from.x()) * 0.5;
            line.cubicTo(from + QPointF(bend, 0), to - QPointF(bend, 0), to);
            p.setPen(QPen(selected ? c.accent : c.inkSoft, selected ? 2.5_px : 1.2_px,
                          circuit.locked ? Qt::DashDotLine : Qt::SolidLine));
            p.setBrush(Qt::NoBrush);
            p.drawPath(line);
        }
    }
}

void SeatingView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintSeats(p);
    for (size_t i = 0; i < m_job->circuits.size(); ++i)
        paintCircuit(p, i);
    for (size_t r = 0; r < m_rows.size(); ++r)
        paintSeat(p, r);
    const auto& c = look::colours();
    if (m_dragged >= 0) {
        p.setPen(QPen(c.accent, 2.5_px));
        p.drawLine(QPointF(circuitRect(m_dragged).right(), circuitRect(m_dragged).center().y()), QPointF(m_drag));
    }
    if (hasFocus() && m_pointed < 0 && selectedCircuit() >= 0) {
        p.setPen(QPen(c.accent, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(circuitRect(selectedCircuit()));
    }
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
                 (reason.isEmpty() ? joined(row.capabilities()) : reason);
    }
    setAccessibleDescription(words);
    emit described(m_pointed >= 0 ? words : QString());
}

} // namespace vicegrip::app
