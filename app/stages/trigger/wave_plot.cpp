#include "app/stages/trigger/wave_plot.h"

#include "app/look/look.h"
#include "app/widgets/text.h"
#include "core/units/units.h"

#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr look::Px kWaveLeft{58}, kWaveRight{10}, kWaveTop{8}, kTimes{22}, kTeeth{30};

QString levelText(double v, const Opened& opened)
{
    if (opened.capture->seen.ofFullScale)
        return text(units::formatNumber(100 * v, 0)) + QStringLiteral(" %");
    return text(units::formatNumber(v, std::abs(v) < 10 ? 1 : 0)) + QStringLiteral(" V");
}

/// 1, 2 or 5 times a power of ten, so that about `lines` of them fit.
double stepFor(double span, int lines)
{
    const double rough = span / lines, power = std::pow(10, std::floor(std::log10(rough))), times = rough / power;
    return power * (times < 1.5 ? 1 : times < 3.5 ? 2 : times < 7.5 ? 5 : 10);
}

} // namespace

WavePlot::WavePlot(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("wave"));
    setAccessibleName(tr("The capture over time; what it says stands in the list"));
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(300_px, 150_px);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

/// A turn and a little more, where it begins to be known.
void WavePlot::show(std::shared_ptr<const Opened> opened)
{
    const bool other = !m_opened || m_opened->capture != opened->capture;
    m_opened = std::move(opened);
    if (other) {
        constexpr double kTurns = 1.3;
        const double all = std::max(1e-6, m_opened->capture->seen.seconds);
        const trigger::Report* report = m_opened->look ? &m_opened->look->report : nullptr;
        m_span = report != nullptr && report->rpm > 0 ? std::min(all, kTurns * trigger::kMinute_s / report->rpm) : all;
        m_now = std::min(all / 2, 2 * m_span);
    }
    setAccessibleDescription(m_opened->capture->file);
    update();
    emit moved(m_now);
}

void WavePlot::goTo(double time_s)
{
    const double all = m_opened ? m_opened->capture->seen.seconds : 0;
    m_now = std::clamp(time_s, 0.0, std::max(0.0, all));
    update();
    emit moved(m_now);
}

QRectF WavePlot::field() const
{
    return QRectF(rect()).adjusted(kWaveLeft, kWaveTop, -kWaveRight, -kTimes - kTeeth);
}

double WavePlot::timeAt(double x) const
{
    const QRectF f = field();
    return m_now + (x - f.center().x()) / f.width() * m_span;
}

double WavePlot::xAt(double time_s) const
{
    const QRectF f = field();
    return f.center().x() + (time_s - m_now) / m_span * f.width();
}

void WavePlot::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const auto& c = look::colours();
    const QRectF f = field();
    if (!m_opened || f.width() < 20 || f.height() < 20)
        return;
    p.fillRect(f, c.card);
    paintTime(p, f);
    const auto& how = m_opened->how;
    if (how.beside && *how.beside < m_opened->capture->seen.channels.size()) {
        const double split = f.top() + 0.62 * f.height();
        paintChannel(p, QRectF(f.topLeft(), QPointF(f.right(), split)), how.channel, true);
        paintChannel(p, QRectF(QPointF(f.left(), split + 6_px), f.bottomRight()), *how.beside, false);
    } else {
        paintChannel(p, f, how.channel, true);
    }
    paintTeeth(p, QRectF(f.left(), f.bottom() + kTimes, f.width(), kTeeth));
    p.setPen(QPen(c.accent, 2));
    p.drawLine(QPointF(f.center().x(), f.top()), QPointF(f.center().x(), height()));
    if (hasFocus()) {
        p.setPen(QPen(c.accent, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(f.adjusted(-1, -1, 1, 1));
    }
}

void WavePlot::paintTime(QPainter& p, const QRectF& box) const
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
        QRectF at(x - kWide / 2.0, box.bottom() + 2_px, kWide, kTimes - 2_px);
        const double beyond = p.fontMetrics().horizontalAdvance(QStringLiteral("00.00 s")) / 2.0;
        if (x + beyond > width())
            continue;
        p.drawText(at, Qt::AlignCenter,
                   text(units::formatNumber(std::abs(t) < step / 2 ? 0.0 : t, decimals)) + QStringLiteral(" s"));
    }
}

void WavePlot::paintChannel(QPainter& p, const QRectF& box, size_t channel, bool main) const
{
    const auto& c = look::colours();
    const auto& seen = m_opened->capture->seen;
    const capture::Channel& ch = seen.channels[channel];
    const capture::Overview& overview = m_opened->capture->overviews[channel];
    const auto extent = overview.all();
    const double room = 0.08 * std::max(1e-3F, extent.high - extent.low), low = extent.low - room,
                 high = extent.high + room;
    const auto y = [&](double v) { return box.bottom() - box.height() * (v - low) / (high - low); };
    p.setFont(look::numbers(look::Size::Small));
    const double step = stepFor(high - low, box.height() > 120_px ? 4 : box.height() > 60_px ? 2 : 1);
    for (double v = std::ceil(low / step) * step; v <= high; v += step) {
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(box.left(), y(v)), QPointF(box.right(), y(v)));
        p.setPen(c.inkSoft);
        p.drawText(QRectF(0, y(v) - 10_px, kWaveLeft - 8_px, 20_px), Qt::AlignRight | Qt::AlignVCenter,
                   levelText(std::abs(v) < step / 2 ? 0.0 : v, *m_opened));
    }
    p.save();
    p.setClipRect(box);
    if (main && m_opened->look) { // what its edges are taken at
        p.setPen(QPen(c.stale, 1, Qt::DashLine));
        for (const double v : {m_opened->look->levels.low_v, m_opened->look->levels.high_v})
            p.drawLine(QPointF(box.left(), y(v)), QPointF(box.right(), y(v)));
    }
    paintLine(p, box, channel, y, main ? c.ink : c.inkSoft);
    p.restore();
    p.setPen(main ? c.ink : c.inkSoft);
    p.setFont(look::textFont(look::Size::Small, main));
    const QRectF corner = box.adjusted(6_px, 2_px, -6_px, 0);
    const QRectF label = p.boundingRect(corner, Qt::AlignRight | Qt::AlignTop, text(ch.name));
    p.fillRect(label.adjusted(-4_px, 0, 4_px, 0), c.card);
    p.drawText(corner, Qt::AlignRight | Qt::AlignTop, text(ch.name));
}

/// A line where a pixel has few samples or changes, what they reach where it has many.
void WavePlot::paintLine(QPainter& p, const QRectF& box, size_t channel, const std::function<double(double)>& y,
                         const QColor& ink) const
{
    const auto& seen = m_opened->capture->seen;
    const capture::Channel& ch = seen.channels[channel];
    const capture::Overview& overview = m_opened->capture->overviews[channel];
    const auto indexAt = [&](double x) { // of what holds there
        const double t = timeAt(x);
        const double samples =
            ch.isOfChanges() ? static_cast<double>(std::ranges::upper_bound(ch.changes_s, t) - ch.changes_s.begin() - 1)
                             : t / seen.step_s;
        return static_cast<size_t>(std::clamp(samples, 0.0, static_cast<double>(ch.volts.size())));
    };
    constexpr double kFew = 3; // in a pixel
    const size_t from = indexAt(box.left()), to = std::min(ch.volts.size(), indexAt(box.right()) + 2);
    if (static_cast<double>(to - std::min(from, to)) > kFew * box.width()) {
        // Upright strokes: one crooked line of as many points is stroked as a path, which takes seconds.
        QList<QLineF> columns;
        capture::Overview::Extent was;
        for (double x = box.left(); x < box.right(); x += 1) {
            const size_t first = indexAt(x), last = indexAt(x + 1) + (ch.isOfChanges() ? 1 : 0);
            if (timeAt(x) < 0 || first >= ch.volts.size())
                continue;
            const auto e = overview.of(first, std::min(ch.volts.size(), std::max(first + 1, last)));
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
        const double at_s = ch.isOfChanges() ? ch.changes_s[i] : static_cast<double>(i) * seen.step_s;
        const double x = ch.isOfChanges() ? std::max(box.left() - 1, xAt(at_s)) : xAt(at_s);
        if (ch.isOfChanges() && !line.isEmpty())
            line << QPointF(x, line.back().y());
        line << QPointF(x, y(ch.volts[i]));
    }
    if (ch.isOfChanges() && !line.isEmpty())
        line << QPointF(box.right(), line.back().y());
    p.setPen(QPen(ink, 1.3));
    p.setRenderHint(QPainter::Antialiasing, !ch.isOfChanges());
    p.drawPolyline(line);
}

/// The teeth by number under their edges; where it was lost, a mark that is no number.
void WavePlot::paintTeeth(QPainter& p, const QRectF& strip) const
{
    const auto& c = look::colours();
    p.fillRect(strip, c.list);
    if (!m_opened->look)
        return;
    const trigger::Report& r = m_opened->look->report;
    const auto from = std::ranges::lower_bound(r.times_s, timeAt(strip.left())) - r.times_s.begin(),
               to = std::ranges::upper_bound(r.times_s, timeAt(strip.right())) - r.times_s.begin();
    p.setFont(look::numbers(look::Size::Small));
    const double each = strip.width() / static_cast<double>(std::max<std::ptrdiff_t>(1, to - from));
    constexpr std::ptrdiff_t kMostTicks = 4000;
    const std::ptrdiff_t stride = std::max<std::ptrdiff_t>(1, (to - from) / kMostTicks);
    const auto every = static_cast<int>(std::ceil(24_px / each)); // that is numbered
    for (auto i = from; i < to; i += stride) {
        const int tooth = r.followed.tooth[static_cast<size_t>(i)];
        const double x = xAt(r.times_s[static_cast<size_t>(i)]);
        p.setPen(QPen(tooth < 0 ? c.failing : tooth == 0 ? c.accent : c.inkSoft, tooth == 0 ? 2 : 1));
        p.drawLine(QPointF(x, strip.top()), QPointF(x, strip.top() + (tooth == 0 ? 10_px : 6_px)));
        if (tooth < 0 || (every > 1 && tooth % every != 0) || each * static_cast<double>(r.wheel.teeth.size()) < 24_px)
            continue;
        p.setPen(tooth == 0 ? c.accent : c.ink);
        p.drawText(QRectF(x - 20_px, strip.top() + 9_px, 40_px, strip.height() - 9_px), Qt::AlignCenter,
                   QString::number(tooth + 1));
    }
    p.setPen(QPen(c.failing, 3));
    for (const trigger::Loss& l : r.followed.losses)
        if (const double x = xAt(l.time_s); x >= strip.left() && x <= strip.right())
            p.drawLine(QPointF(x, strip.top()), QPointF(x, strip.bottom()));
}

void WavePlot::zoom(double factor)
{
    if (!m_opened)
        return;
    const auto& seen = m_opened->capture->seen;
    constexpr double kLeastSamples = 20, kLeast_s = 1e-6;
    const double least = seen.step_s > 0 ? kLeastSamples * seen.step_s : kLeast_s;
    m_span = std::clamp(m_span * factor, least, std::max(least, 2 * seen.seconds));
    update();
}

void WavePlot::wheelEvent(QWheelEvent* event)
{
    zoom(std::pow(0.85, event->angleDelta().y() / 120.0));
    event->accept();
}

void WavePlot::mousePressEvent(QMouseEvent* event)
{
    m_grabbed = event->position().x();
}

void WavePlot::mouseMoveEvent(QMouseEvent* event)
{
    if ((event->buttons() & Qt::LeftButton) == 0)
        return;
    const double by = (event->position().x() - m_grabbed) / std::max(1.0, field().width()) * m_span;
    m_grabbed = event->position().x();
    goTo(m_now - by);
}

void WavePlot::keyPressEvent(QKeyEvent* event)
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
        goTo(m_opened ? m_opened->capture->seen.seconds : 0);
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        zoom(1 / 1.5);
        break;
    case Qt::Key_Minus:
        zoom(1.5);
        break;
    case Qt::Key_0:
        if (m_opened) {
            m_span = std::max(1e-6, m_opened->capture->seen.seconds);
            goTo(m_span / 2);
        }
        break;
    default:
        QWidget::keyPressEvent(event);
    }
}

void WavePlot::focusInEvent(QFocusEvent* event)
{
    QWidget::focusInEvent(event);
    update();
}

void WavePlot::focusOutEvent(QFocusEvent* event)
{
    QWidget::focusOutEvent(event);
    update();
}

} // namespace vicegrip::app
