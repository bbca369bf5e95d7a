#include "app/widgets/time_plot.h"

#include "app/widgets/text.h"
#include "core/units/units.h"

#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {

double stepFor(double span, int lines)
{
    const double rough = span / lines, power = std::pow(10, std::floor(std::log10(rough))), times = rough / power;
    return power * (times < 1.5 ? 1 : times < 3.5 ? 2 : times < 7.5 ? 5 : 10);
}

void TimePlot::goTo(double time_s)
{
    m_now = std::clamp(time_s, 0.0, std::max(0.0, all_s()));
    update();
    emit moved(m_now);
}

void TimePlot::setExtent(double now_s, double span_s)
{
    m_now = now_s;
    m_span = std::max(least_s(), span_s);
    update();
}

double TimePlot::timeAt(double x) const
{
    const QRectF f = field();
    return m_now + (x - f.center().x()) / f.width() * m_span;
}

double TimePlot::xAt(double time_s) const
{
    const QRectF f = field();
    return f.center().x() + (time_s - m_now) / m_span * f.width();
}

void TimePlot::paintTime(QPainter& p, const QRectF& box) const
{
    const auto& c = look::colours();
    const double step = stepFor(m_span, std::max(2, static_cast<int>(box.width() / 110_px)));
    const int decimals = std::clamp(static_cast<int>(-std::floor(std::log10(step))), 0, 7);
    p.setFont(look::numbers(look::Size::Small));
    for (double t = std::ceil(timeAt(box.left()) / step) * step; t <= timeAt(box.right()); t += step) {
        const double x = xAt(t);
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()));
        p.setPen(c.inkSoft);
        constexpr look::Px kWide{100};
        QRectF at(x - kWide / 2.0, box.bottom() + 2_px, kWide, kTimesHigh - 2_px);
        const double beyond = p.fontMetrics().horizontalAdvance(QStringLiteral("00.00 s")) / 2.0;
        if (x + beyond > width())
            continue;
        p.drawText(at, Qt::AlignCenter,
                   text(units::formatNumber(std::abs(t) < step / 2 ? 0.0 : t, decimals)) + QStringLiteral(" s"));
    }
}

void TimePlot::paintNow(QPainter& p, const QRectF& box, double bottom) const
{
    p.setPen(QPen(look::colours().accent, 2));
    p.drawLine(QPointF(box.center().x(), box.top()), QPointF(box.center().x(), bottom));
    if (hasFocus()) {
        p.setBrush(Qt::NoBrush);
        p.drawRect(box.adjusted(-1, -1, 1, 1));
    }
}

void TimePlot::paintValues(QPainter& p, const QRectF& box, const Values& of, const std::function<double(double)>& y,
                           const QColor& ink) const
{
    constexpr double kFew = 3; // in a pixel
    const size_t count = of.values.size();
    const size_t from = of.indexAt(timeAt(box.left())), to = std::min(count, of.indexAt(timeAt(box.right())) + 2);
    if (static_cast<double>(to - std::min(from, to)) > kFew * box.width()) {
        // Upright strokes: one crooked line of as many points is stroked as a path, which takes seconds.
        QList<QLineF> columns;
        capture::Overview::Extent was;
        for (double x = box.left(); x < box.right(); x += 1) {
            const size_t first = of.indexAt(timeAt(x)), last = of.indexAt(timeAt(x + 1)) + (of.stairs ? 1 : 0);
            if (timeAt(x) < 0 || first >= count)
                continue;
            const auto e = of.overview->of(first, std::min(count, std::max(first + 1, last)));
            const float least = columns.isEmpty() ? e.low : std::min(e.low, was.high),
                        most = columns.isEmpty() ? e.high : std::max(e.high, was.low);
            columns << QLineF(x, y(least), x, y(most));
            was = e;
        }
        p.setPen(QPen(ink, 1));
        p.drawLines(columns);
        return;
    }
    QPolygonF line;
    for (size_t i = from; i < to; ++i) {
        const double x = of.stairs ? std::max(box.left() - 1, xAt(of.timeOf(i))) : xAt(of.timeOf(i));
        if (of.stairs && !line.isEmpty())
            line << QPointF(x, line.back().y());
        line << QPointF(x, y(of.values[i]));
    }
    if (of.stairs && !line.isEmpty())
        line << QPointF(box.right(), line.back().y());
    p.setPen(QPen(ink, 1.3));
    p.setRenderHint(QPainter::Antialiasing, !of.stairs);
    p.drawPolyline(line);
}

void TimePlot::zoom(double factor)
{
    const double least = least_s();
    m_span = std::clamp(m_span * factor, least, std::max(least, 2 * all_s()));
    update();
}

void TimePlot::wheelEvent(QWheelEvent* event)
{
    zoom(std::pow(0.85, event->angleDelta().y() / 120.0));
    event->accept();
}

void TimePlot::mousePressEvent(QMouseEvent* event)
{
    m_grabbed = event->position().x();
}

void TimePlot::mouseMoveEvent(QMouseEvent* event)
{
    if ((event->buttons() & Qt::LeftButton) == 0)
        return;
    const double by = (event->position().x() - m_grabbed) / std::max(1.0, field().width()) * m_span;
    m_grabbed = event->position().x();
    goTo(m_now - by);
}

void TimePlot::keyPressEvent(QKeyEvent* event)
{
    constexpr double kStep = 0.05;
    const double step = event->modifiers().testFlag(Qt::ShiftModifier) ? 10 * kStep : kStep;
    switch (event->key()) {
    case Qt::Key_Left:
        goTo(m_now - step * m_span);
        break;
    case Qt::Key_Right:
        goTo(m_now + step * m_span);
        break;
    case Qt::Key_Home:
        goTo(0);
        break;
    case Qt::Key_End:
        goTo(all_s());
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        zoom(1 / 1.5);
        break;
    case Qt::Key_Minus:
        zoom(1.5);
        break;
    case Qt::Key_0:
        m_span = std::max(least_s(), all_s());
        goTo(m_span / 2);
        break;
    default:
        QWidget::keyPressEvent(event);
    }
}

void TimePlot::focusInEvent(QFocusEvent* event)
{
    QWidget::focusInEvent(event);
    update();
}

void TimePlot::focusOutEvent(QFocusEvent* event)
{
    QWidget::focusOutEvent(event);
    update();
}

} // namespace vicegrip::app
