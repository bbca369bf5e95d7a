#include "app/stages/scale/settling_plot.h"

#include "app/desk/desk.h"
#include "app/look/look.h"
#include "app/widgets/circuit_text.h"
#include "core/units/units.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr look::Px kSettlingLeft{58}, kSettlingBelow{26}, kSettlingTop{10}, kSettlingRight{12};
constexpr double kMinute = 60;

} // namespace

SettlingPlot::SettlingPlot(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("settling-plot"));
    setAccessibleName(tr("What the flex sensor will show after the fill"));
    setMinimumSize(300_px, 120_px);
}

void SettlingPlot::show(const fuel::Settling& settling, double before, double after)
{
    m_settling = settling;
    m_before = before;
    m_after = after;
    setAccessibleDescription(tr("%1 for %2 s, then towards %3, there after %4 minutes")
                                 .arg(percentText(before, 0), text(units::formatNumber(settling.purge_s(), 0)),
                                      percentText(after, 0),
                                      text(units::formatNumber(settling.settled_s() / kMinute, 1))));
    update();
}

void SettlingPlot::showSeen(const std::vector<fuel::Shown>& seen)
{
    m_seen = seen;
    update();
}

void SettlingPlot::clear(const QString& why)
{
    m_settling.reset();
    m_why = why;
    setAccessibleDescription(why);
    update();
}

void SettlingPlot::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto& c = look::colours();
    const QRectF f = QRectF(rect()).adjusted(kSettlingLeft, kSettlingTop, -kSettlingRight, -kSettlingBelow);
    painter.setFont(look::textFont(look::Size::Small));
    if (!m_settling) {
        painter.setPen(c.inkSoft);
        painter.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap, m_why);
        return;
    }
    painter.setFont(look::numbers(look::Size::Small));
    const double minutes = std::max(
        1.0, std::ceil(std::max(m_settling->settled_s() * 1.15, m_seen.empty() ? 0 : m_seen.back().at_s) / kMinute));
    double highest = std::max(m_before, m_after);
    for (const fuel::Shown& s : m_seen)
        highest = std::max(highest, s.content);
    const double most = std::min(1.0, std::ceil(highest * 10 + 0.5) / 10);
    const auto place = [&](double seconds, double share) {
        return QPointF(f.left() + f.width() * seconds / (minutes * kMinute), f.bottom() - f.height() * share / most);
    };
    const int step = minutes > 40 ? 10 : minutes > 16 ? 4 : minutes > 8 ? 2 : 1;
    for (int m = 0; m <= static_cast<int>(minutes); m += step) {
        const QPointF at = place(m * kMinute, 0);
        painter.setPen(QPen(c.line, 1));
        painter.drawLine(at, QPointF(at.x(), f.top()));
        painter.setPen(c.ink);
        constexpr look::Px kWide{60};
        QRectF box(at.x() - kWide / 2.0, f.bottom() + 4_px, kWide, 20_px);
        box.moveRight(std::min<double>(box.right(), width()));
        painter.drawText(box, Qt::AlignHCenter | Qt::AlignTop, m == 0 ? tr("fill") : tr("%1 min").arg(m));
    }
    for (const double share : {m_before, m_after}) {
        const QPointF at = place(0, share);
        painter.setPen(QPen(c.inkSoft, 1, Qt::DashLine));
        painter.drawLine(at, QPointF(f.right(), at.y()));
        painter.setPen(c.ink);
        painter.drawText(QRectF(0, at.y() - 10_px, kSettlingLeft - 8_px, 20_px), Qt::AlignRight | Qt::AlignVCenter,
                         percentText(share, 0));
    }
    QPainterPath path(place(0, m_before));
    constexpr int kSteps = 160;
    for (int i = 0; i <= kSteps; ++i) {
        const double seconds = minutes * kMinute * i / kSteps;
        path.lineTo(place(seconds, m_settling->at(seconds)));
    }
    painter.setPen(QPen(c.accent, 2.2));
    painter.drawPath(path);
    QPainterPath seen;
    for (size_t i = 0; i < m_seen.size(); ++i)
        i == 0 ? seen.moveTo(place(m_seen[i].at_s, m_seen[i].content))
               : seen.lineTo(place(m_seen[i].at_s, m_seen[i].content));
    painter.setPen(QPen(c.ink, 2.2));
    painter.drawPath(seen);
    if (m_seen.empty())
        return;
    painter.setFont(look::textFont(look::Size::Small));
    const QRectF corner = f.adjusted(0, 0, -6_px, -6_px);
    painter.drawText(corner, Qt::AlignRight | Qt::AlignBottom, tr("the sensor shows"));
    painter.setPen(c.accent);
    painter.drawText(corner.adjusted(0, 0, 0, -20_px), Qt::AlignRight | Qt::AlignBottom, tr("worked out"));
}

} // namespace vicegrip::app
