#include "app/stages/meter/share_bar.h"

#include "app/look/look.h"

#include <QPainter>

namespace vicegrip::app {
namespace {

constexpr look::Px kBar{56}, kNumber{44}, kHigh{18};

QString percent(double share)
{
    return share > 0 && share < 0.01 ? QStringLiteral("< 1 %") : QStringLiteral("%1 %").arg(qRound(100 * share));
}

} // namespace

ShareBar::ShareBar(QWidget* parent) : QWidget(parent)
{
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

void ShareBar::setShare(double share)
{
    m_share = share;
    setAccessibleName(percent(share));
    update();
}

QSize ShareBar::sizeHint() const
{
    return {kBar + kNumber, kHigh};
}

void ShareBar::paintEvent(QPaintEvent* /*event*/)
{
    QPainter p(this);
    const auto& c = look::colours();
    const int high = height() / 3;
    const QRect whole(0, (height() - high) / 2, kBar, high);
    p.fillRect(whole, c.line);
    p.fillRect(QRect(whole.topLeft(), QSize(qRound(whole.width() * m_share), high)), c.accent);
    p.setPen(c.ink);
    p.setFont(look::numbers(look::Size::Small));
    p.drawText(rect(), Qt::AlignRight | Qt::AlignVCenter, percent(m_share));
}

} // namespace vicegrip::app
