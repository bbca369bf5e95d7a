#include "app/widgets/caution.h"

#include "app/look/look.h"

#include <QPainter>

namespace vicegrip::app {

Caution::Caution(QWidget* parent) : QLabel(parent)
{
    setObjectName(QStringLiteral("caution"));
    setFont(look::textFont(look::Size::Small));
    setWordWrap(true);
    setContentsMargins(16_px, 10_px, 12_px, 10_px);
}

void Caution::paintEvent(QPaintEvent* event)
{
    QPainter p(this);
    p.fillRect(rect(), look::colours().caution);
    p.fillRect(QRect(0, 0, 4_px, height()), look::colours().stale);
    p.end();
    QLabel::paintEvent(event);
}

} // namespace vicegrip::app
