#include "app/widgets/key_button.h"

#include "app/look/look.h"

#include <QPainter>
#include <QShortcut>

namespace vicegrip::app {
namespace {

constexpr look::Px kPadding{18}, kBetween{12}, kCap{9};

} // namespace

KeyButton::KeyButton(const QString& text, const QString& key, bool primary, QWidget* parent)
    : QAbstractButton(parent), m_key(key), m_primary(primary)
{
    setText(text);
    setAccessibleName(text);
    setFocusPolicy(Qt::TabFocus);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    setCursor(Qt::PointingHandCursor);
}

KeyButton* KeyButton::bound(QWidget* view, const char* objectName, const QString& text, Qt::Key key, bool primary)
{
    auto* out = new KeyButton(text, QKeySequence(key).toString(QKeySequence::NativeText), primary);
    out->setObjectName(QLatin1String(objectName));
    connect(new QShortcut(QKeySequence(key), view), &QShortcut::activated, out, [out] { out->click(); });
    return out;
}

void KeyButton::setPrimary(bool primary)
{
    m_primary = primary;
    update();
}

QSize KeyButton::sizeHint() const
{
    const int label = QFontMetrics(look::textFont(look::Size::Body, true)).horizontalAdvance(text());
    const int cap = m_key.isEmpty()
                        ? 0
                        : kBetween + 2 * kCap + QFontMetrics(look::numbers(look::Size::Small)).horizontalAdvance(m_key);
    return {2 * kPadding + label + cap, look::kButton};
}

void KeyButton::paintEvent(QPaintEvent*)
{
    const auto& c = look::colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    QColor fill = m_primary ? c.accent : c.card;
    QColor ink = m_primary ? c.accentInk : c.accent;
    if (isChecked())
        fill = c.selected;
    if (isDown())
        fill = m_primary ? c.accent.darker(115) : c.selected;
    if (!isEnabled()) {
        fill = c.list;
        ink = c.inkSoft;
    }
    p.setPen(QPen(isEnabled() ? c.accent : c.line, 1.2));
    p.setBrush(fill);
    const QRectF body = QRectF(rect()).adjusted(1, 1, -1, -1);
    p.drawRoundedRect(body, 3_px, 3_px);
    if (hasFocus()) {
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(ink, 1, Qt::DotLine));
        p.drawRoundedRect(body.adjusted(3_px, 3_px, -3_px, -3_px), 2, 2);
    }
    p.setPen(ink);
    p.setFont(look::textFont(look::Size::Body, true));
    const int label = p.fontMetrics().horizontalAdvance(text());
    p.drawText(QRect(kPadding, 0, label + 2, height()), Qt::AlignVCenter, text());
    if (m_key.isEmpty())
        return;
    p.setFont(look::numbers(look::Size::Small));
    const int cap = 2 * kCap + p.fontMetrics().horizontalAdvance(m_key);
    const QRectF box(kPadding + label + kBetween, (height() - 22_px) / 2.0, cap, 22_px);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(ink, 0.8));
    p.drawRoundedRect(box, 3_px, 3_px);
    p.drawText(box, Qt::AlignCenter, m_key);
}

} // namespace vicegrip::app
