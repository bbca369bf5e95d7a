#include "app/stages/meter/trace_plot.h"

#include "app/desk/desk.h"
#include "app/look/look.h"
#include "core/units/units.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr look::Px kTraceLeft{64}, kTraceBelow{24}, kTraceTop{22}, kTraceRight{10};
constexpr double kShown_s = 20, kStep_s = 5;

} // namespace

TracePlot::TracePlot(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("wiggle-trace"));
    setAccessibleName(tr("What the input reads, the last 20 s"));
    setMinimumSize(260_px, 90_px);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void TracePlot::show(const wiggle::Watch& watch, double most, const QString& unit)
{
    const auto& trace = watch.trace();
    m_now = trace.empty() ? 0 : trace.back().at_s;
    const auto from = std::ranges::lower_bound(trace, m_now - kShown_s, {}, &wiggle::Heard::at_s);
    m_line.assign(from, trace.end());
    m_dropOuts = watch.dropOuts();
    std::erase_if(m_dropOuts, [this](const wiggle::DropOut& d) { return d.to_s < m_now - kShown_s; });
    m_marks = watch.marks();
    m_most = most;
    m_unit = unit;
    m_why.clear();
    setAccessibleDescription(tr("%n drop-outs", nullptr, static_cast<int>(watch.dropOuts().size())));
    update();
}

void TracePlot::clear(const QString& why)
{
    m_line.clear();
    m_why = why;
    setAccessibleDescription(why);
    update();
}

void TracePlot::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const auto& c = look::colours();
    p.setFont(look::textFont(look::Size::Small));
    if (m_line.empty()) {
        p.setPen(c.inkSoft);
        p.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap, m_why);
        return;
    }
    p.setFont(look::numbers(look::Size::Small));
    const QRectF f = QRectF(rect()).adjusted(kTraceLeft, kTraceTop, -kTraceRight, -kTraceBelow);
    const auto x = [&](double at_s) { return f.right() + f.width() * (at_s - m_now) / kShown_s; };
    const auto y = [&](double reading) { return f.bottom() - f.height() * std::clamp(reading / m_most, 0.0, 1.0); };
    for (double ago = 0; ago <= kShown_s; ago += kStep_s) {
        const double at = x(m_now - ago);
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(at, f.top()), QPointF(at, f.bottom()));
        p.setPen(c.ink);
        constexpr look::Px kWide{60};
        QRectF box(at - kWide / 2.0, f.bottom() + 2_px, kWide, kTraceBelow - 2_px);
        box.moveRight(std::min<double>(box.right(), width()));
        p.drawText(box, Qt::AlignCenter, ago == 0 ? tr("now") : QStringLiteral("−%1 s").arg(ago));
    }
    constexpr int kLines = 2;
    for (int i = 0; i <= kLines; ++i) {
        const double reading = m_most * i / kLines;
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(f.left(), y(reading)), QPointF(f.right(), y(reading)));
        p.setPen(c.ink);
        p.drawText(QRectF(0, y(reading) - 10_px, kTraceLeft - 8_px, 20_px), Qt::AlignRight | Qt::AlignVCenter,
                   text(units::formatNumber(reading, m_most < 10 ? 1 : 0)) + u' ' + m_unit);
    }
    for (const wiggle::DropOut& d : m_dropOuts)
        p.fillRect(QRectF(QPointF(std::max(f.left(), x(d.from_s)), f.top()),
                          QPointF(std::max(x(d.to_s), x(d.from_s) + 2_px), f.bottom())),
                   c.failingFill);
    for (size_t i = 0; i < m_marks.size(); ++i) {
        const double from = std::max(f.left(), x(m_marks[i].at_s));
        const double to = i + 1 < m_marks.size() ? x(m_marks[i + 1].at_s) : f.right();
        if (to <= f.left())
            continue;
        p.setPen(QPen(c.inkSoft, 1, Qt::DashLine));
        if (x(m_marks[i].at_s) >= f.left())
            p.drawLine(QPointF(from, 2_px), QPointF(from, f.bottom()));
        p.setPen(c.ink);
        p.drawText(QRectF(from + 4_px, 0, std::max(0.0, to - from - 4_px), kTraceTop), Qt::AlignLeft | Qt::AlignVCenter,
                   m_marks[i].hold ? QString::number(*m_marks[i].hold + 1) : QStringLiteral("–"));
    }
    p.setRenderHint(QPainter::Antialiasing);
    QPainterPath path(QPointF(x(m_line.front().at_s), y(m_line.front().reading)));
    for (const wiggle::Heard& h : m_line) {
        path.lineTo(x(h.at_s), path.currentPosition().y()); // it holds until it says something else
        path.lineTo(x(h.at_s), y(h.reading));
    }
    p.setPen(QPen(c.accent, 2));
    p.drawPath(path);
}

} // namespace vicegrip::app
