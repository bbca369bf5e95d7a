#include "app/widgets/state_glyph.h"

#include "app/look/look.h"

#include <QPainter>
#include <QPainterPath>

namespace vicegrip::app {
namespace {

void drawTick(QPainter& p, const QRectF& r, const QColor& ink)
{
    p.setPen(QPen(ink, r.width() * 0.13, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.setBrush(Qt::NoBrush);
    QPainterPath tick(QPointF(r.left() + r.width() * 0.26, r.top() + r.height() * 0.52));
    tick.lineTo(r.left() + r.width() * 0.44, r.top() + r.height() * 0.70);
    tick.lineTo(r.left() + r.width() * 0.76, r.top() + r.height() * 0.32);
    p.drawPath(tick);
}

} // namespace

QColor inkOf(proof::State state)
{
    const auto& c = look::colours();
    switch (state) {
    case proof::State::Done:
        return c.done;
    case proof::State::Failing:
        return c.failing;
    case proof::State::Stale:
        return c.stale;
    case proof::State::Untouched:
    case proof::State::NotNeeded:
        return c.inkSoft;
    }
    return c.ink;
}

void drawState(QPainter& p, const QRectF& box, proof::State state)
{
    const auto& c = look::colours();
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF r = box.adjusted(1, 1, -1, -1);
    const qreal round = r.width() * 0.14;
    switch (state) {
    case proof::State::Untouched:
        p.setPen(QPen(c.inkSoft, 1.5));
        p.setBrush(c.card);
        p.drawRoundedRect(r, round, round);
        break;
    case proof::State::Done:
        p.setPen(Qt::NoPen);
        p.setBrush(c.done);
        p.drawRoundedRect(r, round, round);
        drawTick(p, r, c.card);
        break;
    case proof::State::Failing:
        // A heavy frame around a solid exclamation of a bar: it stands out in grey too.
        p.setPen(QPen(c.failing, 2.2_px));
        p.setBrush(c.failingFill);
        p.drawRoundedRect(r, round, round);
        p.setPen(QPen(c.failing, r.width() * 0.15, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(QPointF(r.left() + r.width() * 0.28, r.top() + r.height() * 0.28),
                   QPointF(r.right() - r.width() * 0.28, r.bottom() - r.height() * 0.28));
        p.drawLine(QPointF(r.right() - r.width() * 0.28, r.top() + r.height() * 0.28),
                   QPointF(r.left() + r.width() * 0.28, r.bottom() - r.height() * 0.28));
        break;
    case proof::State::Stale: {
        QPen pen(c.stale, 1.8);
        pen.setDashPattern({2.4, 1.4});
        p.setPen(pen);
        p.setBrush(c.staleFill);
        p.drawRoundedRect(r, round, round);
        p.setPen(QPen(c.stale, r.width() * 0.12, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(QPointF(r.left() + r.width() * 0.28, r.bottom() - r.height() * 0.28),
                   QPointF(r.right() - r.width() * 0.28, r.top() + r.height() * 0.28));
        break;
    }
    case proof::State::NotNeeded:
        p.setPen(QPen(c.inkSoft, 1.5));
        p.drawLine(QPointF(r.left() + 2, r.center().y()), QPointF(r.right() - 2, r.center().y()));
        break;
    }
    p.restore();
}

void StateDelegate::paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const
{
    if ((option.state & QStyle::State_Selected) != 0)
        p->fillRect(option.rect, look::colours().selected);
    const QVariant state = index.data(kStateRole);
    if (!state.isValid()) // a heading within the list
        return;
    const QPointF middle = QRectF(option.rect).center();
    drawState(*p, QRectF(middle.x() - 8_px, middle.y() - 8_px, 16_px, 16_px), static_cast<proof::State>(state.toInt()));
}

} // namespace vicegrip::app
