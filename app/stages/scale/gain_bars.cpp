#include "app/stages/scale/gain_bars.h"

#include "app/look/look.h"
#include "app/widgets/circuit_text.h"

#include <QFontMetrics>
#include <QPainter>

namespace vicegrip::app {
namespace {

constexpr look::Px kBar{7}, kBelow{6};

} // namespace

GainBars::GainBars(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("gain-bars"));
    setAccessibleName(tr("Worst error"));
}

void GainBars::show(const scaling::Table& table, const parts::Part& sensor, bool chosen)
{
    const auto bar = [&](const QString& name, double error, bool strong) {
        const double most = std::max(table.evenError, table.worstError);
        return Bar{name, errorText(sensor, error), most > 0 ? error / most : 0, strong};
    };
    m_bars.clear();
    if (chosen)
        m_bars.push_back(bar(tr("evenly spaced"), table.evenError, false));
    m_bars.push_back(bar(chosen ? tr("these points") : tr("worst error"), table.worstError, true));
    QStringList spoken;
    for (const Bar& b : m_bars)
        spoken << b.name + QLatin1Char(' ') + b.number;
    setAccessibleDescription(spoken.join(QStringLiteral(", ")));
    updateGeometry();
    update();
}

void GainBars::clear()
{
    m_bars.clear();
    setAccessibleDescription({});
    updateGeometry();
    update();
}

QSize GainBars::sizeHint() const
{
    const int line = QFontMetrics(look::textFont(look::Size::Small)).height();
    return {120_px, static_cast<int>(m_bars.size()) * (line + kBar + kBelow)};
}

void GainBars::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const auto& c = look::colours();
    const int line = QFontMetrics(look::textFont(look::Size::Small)).height();
    int y = 0;
    for (const Bar& b : m_bars) {
        painter.setPen(b.strong ? c.ink : c.inkSoft);
        painter.setFont(look::textFont(look::Size::Small));
        painter.drawText(QRect(0, y, width(), line), Qt::AlignLeft | Qt::AlignVCenter, b.name);
        painter.setFont(look::numbers(look::Size::Small));
        painter.drawText(QRect(0, y, width(), line), Qt::AlignRight | Qt::AlignVCenter, b.number);
        const QRect track(0, y + line, width(), kBar);
        painter.fillRect(track, c.line);
        painter.fillRect(QRect(track.topLeft(), QSize(qRound(width() * b.share), kBar)),
                         b.strong ? c.accent : c.inkSoft);
        y += line + kBar + kBelow;
    }
}

} // namespace vicegrip::app
