#include "app/stages/trigger/wave_plot.h"

#include "app/look/look.h"
#include "app/widgets/text.h"
#include "core/units/units.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr look::Px kWaveLeft{58}, kWaveRight{10}, kWaveTop{8}, kTeeth{30};

QString levelText(double v, const Opened& opened)
{
    if (opened.capture->seen.ofFullScale)
        return text(units::formatNumber(100 * v, 0)) + QStringLiteral(" %");
    return text(units::formatNumber(v, std::abs(v) < 10 ? 1 : 0)) + QStringLiteral(" V");
}

} // namespace

WavePlot::WavePlot(QWidget* parent) : TimePlot(parent)
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
        const double span =
            report != nullptr && report->rpm > 0 ? std::min(all, kTurns * trigger::kMinute_s / report->rpm) : all;
        setExtent(std::min(all / 2, 2 * span), span);
    }
    setAccessibleDescription(m_opened->capture->file);
    goTo(now_s());
}

QRectF WavePlot::field() const
{
    return QRectF(rect()).adjusted(kWaveLeft, kWaveTop, -kWaveRight, -kTimesHigh - kTeeth);
}

double WavePlot::all_s() const
{
    return m_opened ? m_opened->capture->seen.seconds : 0;
}

double WavePlot::least_s() const
{
    constexpr double kLeastSamples = 20, kLeast_s = 1e-6;
    const double step_s = m_opened ? m_opened->capture->seen.step_s : 0;
    return step_s > 0 ? kLeastSamples * step_s : kLeast_s;
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
    paintTeeth(p, QRectF(f.left(), f.bottom() + kTimesHigh, f.width(), kTeeth));
    paintNow(p, f, height());
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

void WavePlot::paintLine(QPainter& p, const QRectF& box, size_t channel, const std::function<double(double)>& y,
                         const QColor& ink) const
{
    const auto& seen = m_opened->capture->seen;
    const capture::Channel& ch = seen.channels[channel];
    const auto indexAt = [&](double t) {
        const double samples =
            ch.isOfChanges() ? static_cast<double>(std::ranges::upper_bound(ch.changes_s, t) - ch.changes_s.begin() - 1)
                             : t / seen.step_s;
        return static_cast<size_t>(std::clamp(samples, 0.0, static_cast<double>(ch.volts.size())));
    };
    const auto timeOf = [&](size_t i) {
        return ch.isOfChanges() ? ch.changes_s[i] : static_cast<double>(i) * seen.step_s;
    };
    paintValues(p, box, {ch.volts, &m_opened->capture->overviews[channel], indexAt, timeOf, ch.isOfChanges()}, y, ink);
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

} // namespace vicegrip::app
