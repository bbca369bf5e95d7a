#include "app/stages/brief/range_chart.h"

#include "app/desk/desk.h"
#include "app/look/look.h"
#include "core/units/shown.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr look::Px kHead{64}, kRangeRow{42}, kRangeLeft{8}, kRangeRight{12};

QString pressure(double pa, const QString& unit, units::Dimension dimension)
{
    const std::string u = unit.toStdString();
    return text(units::format(pa, dimension, u, u == "bar" ? 1 : 0));
}

} // namespace

RangeChart::RangeChart(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("range-chart"));
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Sensor spans against the engine's pressures"));
}

QSize RangeChart::sizeHint() const
{
    return {700_px, kHead + kRangeRow * static_cast<int>(m_advice.ranking.size()) + 4_px};
}

void RangeChart::show(const brief::Advice& advice, const QString& unit)
{
    const std::string id = chosen() == nullptr ? std::string() : chosen()->id.value;
    m_advice = advice;
    m_unit = unit;
    m_low = m_high = 0;
    for (const auto& m : m_advice.marks) {
        m_low = std::min(m_low, m.pa);
        m_high = std::max(m_high, m.pa);
    }
    for (const auto& c : m_advice.ranking)
        m_high = std::max(m_high, std::min(c.sensor.high, 2.2 * m_advice.marks.back().pa));
    m_high *= 1.04;
    m_row = 0;
    for (size_t i = 0; i < m_advice.ranking.size(); ++i)
        if (m_advice.ranking[i].sensor.id.value == id)
            m_row = static_cast<int>(i);
    updateGeometry();
    describe();
    update();
}

const parts::Part* RangeChart::chosen() const
{
    return m_row >= 0 && m_row < static_cast<int>(m_advice.ranking.size())
               ? &m_advice.ranking[static_cast<size_t>(m_row)].sensor
               : nullptr;
}

void RangeChart::describe()
{
    const auto* s = chosen();
    setAccessibleDescription(s == nullptr ? QString()
                                          : text(s->name) + QStringLiteral(". ") +
                                                text(m_advice.ranking[static_cast<size_t>(m_row)].verdict));
}

double RangeChart::xOf(double pa) const
{
    return kRangeLeft + (pa - m_low) / (m_high - m_low) * (width() - kRangeLeft - kRangeRight);
}

int RangeChart::topOf(int row) const
{
    return kHead + row * kRangeRow;
}

void RangeChart::paintEvent(QPaintEvent*)
{
    if (m_advice.marks.empty())
        return;
    const auto& c = look::colours();
    const auto dimension =
        m_advice.ranking.empty() ? units::Dimension::AbsolutePressure : m_advice.ranking.front().sensor.measures;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto rule = [&](const brief::PressureMark& mark, const QColor& ink, double from, double to) {
        p.setPen(QPen(ink, mark.mustRead ? 1.5 : 1, mark.mustRead ? Qt::SolidLine : Qt::DashLine));
        p.drawLine(QPointF(xOf(mark.pa), from), QPointF(xOf(mark.pa), to));
    };
    for (size_t i = 0; i < m_advice.ranking.size(); ++i) {
        const brief::Candidate& candidate = m_advice.ranking[i];
        const int top = topOf(static_cast<int>(i));
        if (static_cast<int>(i) == m_row)
            p.fillRect(QRect(0, top, width(), kRangeRow), c.selected);
        for (const auto& mark : m_advice.marks) // strong across the bars, faint behind the words
            rule(mark, c.line, top, top + kRangeRow);
        const double a = xOf(std::max(candidate.sensor.low, m_low)),
                     b = std::min<double>(xOf(candidate.sensor.high), width());
        const QRectF bar(a, top + 25_px, b - a, 9_px);
        const QColor ink = candidate.reads && !candidate.overVolts ? c.done : c.failing;
        p.setPen(QPen(ink, 1.5));
        p.setBrush(candidate.current ? QBrush(ink) : Qt::NoBrush);
        p.drawRect(bar);
        for (const auto& mark : m_advice.marks)
            rule(mark, c.accent, bar.top() - 4_px, bar.bottom() + 4_px);
        p.setFont(look::textFont(look::Size::Small, candidate.current));
        p.setPen(c.ink);
        const QString name = text(candidate.sensor.name) + (candidate.current ? tr("  (fitted)") : QString());
        p.drawText(QRectF(kRangeLeft, top + 3_px, width() - 130_px, 18_px), Qt::AlignVCenter | Qt::AlignLeft,
                   p.fontMetrics().elidedText(name, Qt::ElideRight, width() - 140_px));
        p.setFont(look::numbers(look::Size::Small));
        p.setPen(c.inkSoft);
        p.drawText(QRectF(0, top + 3_px, width() - kRangeRight, 18_px), Qt::AlignVCenter | Qt::AlignRight,
                   tr("%1 a count").arg(text(units::formatDifference(candidate.pa_per_count, dimension, "kPa", 3))));
    }
    // Marks over the bars; their names on two lines by turns, so that neighbours do not meet.
    double taken[2] = {-1e9, -1e9};
    for (const auto& mark : m_advice.marks) {
        const double x = xOf(mark.pa);
        rule(mark, c.accent, kHead - 6_px, kHead);
        const QString words = text(mark.name) + QLatin1Char(' ') + pressure(mark.pa, m_unit, dimension);
        p.setFont(look::textFont(look::Size::Small));
        const double w = p.fontMetrics().horizontalAdvance(words);
        const double left = std::clamp(x - w / 2, 2.0, width() - w - 2);
        const int line = left > taken[0] + 8_px ? 0 : left > taken[1] + 8_px ? 1 : 2;
        if (line < 2)
            taken[line] = left + w;
        p.setPen(c.ink);
        p.drawText(QPointF(left, 16_px + line * 19_px), words);
        p.setPen(c.line);
        p.drawLine(QPointF(x, 20_px + line * 19_px), QPointF(x, kHead - 6_px));
    }
    if (hasFocus()) {
        p.setPen(QPen(c.accent, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRect(1, topOf(m_row), width() - 2, kRangeRow - 1));
    }
}

void RangeChart::choose(int row)
{
    row = std::clamp(row, 0, std::max(static_cast<int>(m_advice.ranking.size()) - 1, 0));
    if (row == m_row)
        return;
    m_row = row;
    describe();
    update();
    emit chosenChanged();
}

void RangeChart::mousePressEvent(QMouseEvent* event)
{
    if (event->pos().y() >= kHead)
        choose((event->pos().y() - kHead) / kRangeRow);
}

void RangeChart::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Down || event->key() == Qt::Key_Up)
        choose(m_row + (event->key() == Qt::Key_Down ? 1 : -1));
    else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        emit takeAsked();
    else
        QWidget::keyPressEvent(event);
}

} // namespace vicegrip::app
