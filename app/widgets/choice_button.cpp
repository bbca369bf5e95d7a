#include "app/widgets/choice_button.h"

#include "app/look/look.h"

#include <QPainter>

namespace vicegrip::app {
namespace {

constexpr look::Px kHeight{58}, kSide{14}, kTop{9}, kFull{460}, kLeast{240};

} // namespace

ChoiceButton::ChoiceButton(const QString& name, const QString& detail, const QString& key, QWidget* parent)
    : QAbstractButton(parent), m_detail(detail), m_key(key)
{
    setText(name);
    setShortcut({}); // an ampersand in a name is an ampersand
    setAccessibleName(name);
    setAccessibleDescription(detail);
    setToolTip(detail);
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setCursor(Qt::PointingHandCursor);
    setMinimumHeight(kHeight);
}

void ChoiceButton::setNext(bool next)
{
    m_next = next;
    update();
}

QSize ChoiceButton::sizeHint() const
{
    return {kFull, minimumHeight()};
}

QSize ChoiceButton::minimumSizeHint() const
{
    return {kLeast, minimumHeight()};
}

/// A sentence that is too long goes on in a second line; a path has its middle left out.
void ChoiceButton::resizeEvent(QResizeEvent*)
{
    const QFontMetrics letters(look::textFont(look::Size::Small));
    m_wrapped = m_detail.endsWith(QLatin1Char('.')) && letters.horizontalAdvance(m_detail) > width() - 2 * kSide;
    setMinimumHeight(kHeight + (m_wrapped ? letters.lineSpacing() : 0));
}

void ChoiceButton::paintEvent(QPaintEvent*)
{
    const auto& c = look::colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const qreal width = hasFocus() || m_next ? 2 : 1;
    p.setPen(QPen(hasFocus() ? c.ink : m_next ? c.accent : c.line, width));
    p.setBrush(underMouse() || isDown() ? c.selected : c.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(width / 2, width / 2, -width / 2, -width / 2), 2, 2);
    QRect inside = rect().adjusted(kSide, kTop, -kSide, -kTop);
    if (!m_key.isEmpty()) {
        p.setFont(look::numbers(look::Size::Small));
        p.setPen(c.inkSoft);
        const int room = p.fontMetrics().horizontalAdvance(m_key);
        p.drawText(inside, Qt::AlignRight | Qt::AlignTop, m_key);
        inside.setRight(inside.right() - room - kSide);
    }
    p.setFont(look::textFont(look::Size::Body, true));
    p.setPen(c.ink);
    p.drawText(inside, Qt::AlignLeft | Qt::AlignTop,
               p.fontMetrics().elidedText(text(), Qt::ElideMiddle, inside.width()));
    inside.setRight(rect().right() - kSide);
    p.setFont(look::textFont(look::Size::Small));
    p.setPen(c.inkSoft);
    p.drawText(inside, Qt::AlignLeft | Qt::AlignBottom | (m_wrapped ? Qt::TextWordWrap : 0),
               m_wrapped ? m_detail : p.fontMetrics().elidedText(m_detail, Qt::ElideMiddle, inside.width()));
}

void ChoiceButton::enterEvent(QEnterEvent* event)
{
    update();
    QAbstractButton::enterEvent(event);
}

void ChoiceButton::leaveEvent(QEvent* event)
{
    update();
    QAbstractButton::leaveEvent(event);
}

} // namespace vicegrip::app
