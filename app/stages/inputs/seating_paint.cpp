#include "app/look/look.h"
#include "app/stages/inputs/seating_view.h"
#include "core/harness/edits.h"
#include "core/seating/compatibility.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>

/// How the seating plan is drawn.
namespace vicegrip::app {
namespace {

/// The sign of a sensor ground (IEC 60617), hanging from `top`: circuits that carry it share the unit's cavities.
void paintGround(QPainter& p, const QPointF& top)
{
    p.drawLine(top, top + QPointF(0, 4_px));
    for (int bar = 0; bar < 3; ++bar) {
        const QPointF middle = top + QPointF(0, 4_px + 2.5_px * bar);
        p.drawLine(middle - QPointF(5_px - 2.0_px * bar, 0), middle + QPointF(5_px - 2.0_px * bar, 0));
    }
}

} // namespace

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
        QString marks = seatingWords(seating::demands(*part));
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
    if (b.ofNone())
        return;

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
    const bool mine = selected >= 0 && row.seats(m_job->circuits[static_cast<size_t>(selected)]);
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
    QString words = seatingWords(row.capabilities());
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

} // namespace vicegrip::app
