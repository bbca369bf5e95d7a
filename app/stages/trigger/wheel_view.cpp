#include "app/stages/trigger/wheel_view.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace vicegrip::app {
namespace {

constexpr look::Px kSensorTall{34}, kSensorWide{26}, kRoom{10};
constexpr double kRoot = 0.86, kHub = 0.62; // of the radius to the tips

QPointF onCircle(QPointF middle, double radius, double clockwise_deg)
{
    const double a = clockwise_deg * std::numbers::pi / 180;
    return middle + QPointF(radius * std::sin(a), -radius * std::cos(a));
}

} // namespace

WheelView::WheelView(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("wheel"));
    setAccessibleName(tr("The wheel before its sensor"));
    setMinimumSize(120_px, 120_px);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void WheelView::show(const trigger::Wheel& wheel, std::vector<Mark> marks, const QString& middle, const QString& below)
{
    m_wheel = wheel;
    m_marks = std::move(marks);
    m_middle = middle;
    m_below = below;
    setAccessibleDescription(middle + QStringLiteral(". ") + below);
    update();
}

void WheelView::clear()
{
    show({}, {}, {}, {});
}

void WheelView::setTurned(double deg)
{
    m_turned = deg;
    update();
}

/// It turns clockwise: what comes later stands before the sensor, to the left of it.
double WheelView::screenAngle(double wheel_deg) const
{
    return (m_turned - wheel_deg) * trigger::kCrankTurn_deg / m_wheel.turn_deg;
}

void WheelView::paintTooth(QPainter& p, QPointF middle, double root, double tip, size_t tooth) const
{
    const auto& c = look::colours();
    const trigger::Tooth& t = m_wheel.teeth[tooth];
    const double from = screenAngle(t.from_deg), to = screenAngle(t.to_deg), slant = 0.12 * (to - from);
    QPolygonF shape{onCircle(middle, root, from), onCircle(middle, tip, from + slant),
                    onCircle(middle, tip, to - slant), onCircle(middle, root, to)};
    const Mark mark = tooth < m_marks.size() ? m_marks[tooth] : Mark::Plain;
    const QColor ink = mark == Mark::Seen     ? c.done
                       : mark == Mark::Missed ? c.failing
                       : mark == Mark::Due    ? c.accent
                                              : c.inkSoft;
    p.setPen(QPen(ink, mark == Mark::Plain ? 1 : 1.5));
    p.setBrush(mark == Mark::Plain ? QBrush(c.card) : mark == Mark::Missed ? QBrush(c.failingFill) : QBrush(ink));
    p.drawPolygon(shape);
    if (mark != Mark::Missed)
        return;
    const QPointF at = onCircle(middle, root - kRoom, (from + to) / 2); // not by colour alone
    const double r = 4.0_px;
    p.setPen(QPen(c.failing, 2));
    p.drawLine(at - QPointF(r, r), at + QPointF(r, r));
    p.drawLine(at - QPointF(r, -r), at + QPointF(r, -r));
}

void WheelView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = look::colours();
    const double tip = std::min(width() / 2.0 - kRoom, (height() - kSensorTall - 2 * kRoom) / 2.0);
    if (tip < 20 || m_wheel.teeth.empty())
        return;
    const QPointF middle(width() / 2.0, height() - kRoom - tip);
    const double root = kRoot * tip;
    p.setPen(QPen(c.inkSoft, 1));
    p.setBrush(c.card);
    p.drawEllipse(middle, root, root);
    p.setBrush(c.paper);
    p.drawEllipse(middle, kHub * tip, kHub * tip);
    for (size_t t = 0; t < m_wheel.teeth.size(); ++t)
        paintTooth(p, middle, root, tip, t);

    // The sensor, its face a line's width from the tips.
    const QRectF body(middle.x() - kSensorWide / 2.0, middle.y() - tip - 4_px - kSensorTall, kSensorWide, kSensorTall);
    p.setPen(QPen(c.ink, 1.5));
    p.setBrush(c.ink);
    p.drawRect(QRectF(body.left() + body.width() / 4, body.bottom() - 8_px, body.width() / 2, 8_px));
    p.setBrush(c.list);
    p.drawRect(body.adjusted(0, 0, 0, -8.0_px));

    // Which way it turns.
    const double arc = kHub * tip - 12_px;
    p.setPen(QPen(c.inkSoft, 1.5));
    p.setBrush(Qt::NoBrush);
    QPainterPath way;
    way.arcMoveTo(QRectF(middle.x() - arc, middle.y() - arc, 2 * arc, 2 * arc), 120);
    way.arcTo(QRectF(middle.x() - arc, middle.y() - arc, 2 * arc, 2 * arc), 120, -60);
    p.drawPath(way);
    const QPointF end = onCircle(middle, arc, 30);
    p.drawLine(end, onCircle(middle, arc - 6_px, 24));
    p.drawLine(end, onCircle(middle, arc + 6_px, 24));

    constexpr look::Px kLeastArc{56}; // for words
    if (arc < kLeastArc)
        return;
    p.setPen(c.ink);
    p.setFont(look::textFont(look::Size::Title, true));
    const QRectF words(middle.x() - arc * 0.85, middle.y() - 32_px, 1.7 * arc, 32_px);
    p.drawText(words, Qt::AlignHCenter | Qt::AlignBottom, m_middle);
    p.setFont(look::textFont(look::Size::Small));
    p.setPen(c.inkSoft);
    p.drawText(words.translated(0, 34_px), Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap, m_below);
}

} // namespace vicegrip::app
