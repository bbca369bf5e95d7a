#include "app/look/flat_style.h"

#include "app/look/look.h"

#include <QAbstractItemView>
#include <QPainter>
#include <QStyleOptionComboBox>

namespace vicegrip::app::look {
namespace {

constexpr qreal kRound = 2;
constexpr Px kInset{4}; ///< more room at the sides than the style beneath leaves

/// The edge of what can be put in or pressed: soft at rest, heavy where the keys go.
void drawField(QPainter& p, const QStyleOption& option, const QColor& fill)
{
    const auto& c = colours();
    const bool enabled = option.state.testFlag(QStyle::State_Enabled);
    const bool focused = option.state.testFlag(QStyle::State_HasFocus);
    const qreal width = focused ? 2 : 1;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(!enabled ? c.line : focused ? c.accent : c.inkSoft, width));
    p.setBrush(enabled ? QBrush(fill) : Qt::NoBrush);
    p.drawRoundedRect(QRectF(option.rect).adjusted(width / 2, width / 2, -width / 2, -width / 2), kRound, kRound);
    p.restore();
}

void drawChevron(QPainter& p, const QPointF& middle, const QColor& ink)
{
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(ink, 1.5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.drawPolyline(QPolygonF({middle + QPointF(-4_px, -2), middle + QPointF(0, 2), middle + QPointF(4_px, -2)}));
    p.restore();
}

void drawTick(QPainter& p, const QRectF& box, const QColor& ink)
{
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(ink, 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    const QPointF middle = box.center();
    p.drawPolyline(
        QPolygonF({middle + QPointF(-3.5_px, 0), middle + QPointF(-1, 3_px), middle + QPointF(4_px, -3_px)}));
    p.restore();
}

/// A groove that is full up to where the handle stands; its edge is heavy where the keys go.
void drawSlider(QPainter& p, const QStyleOptionSlider& option, const QRect& handle)
{
    const auto& c = colours();
    const bool focused = option.state.testFlag(QStyle::State_HasFocus);
    const double middle = handle.center().y() + 0.5, groove = 4.0_px;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    const QRectF all(option.rect.left(), middle - groove / 2, option.rect.width(), groove);
    p.setBrush(c.line);
    p.drawRect(all);
    p.setBrush(c.accent);
    p.drawRect(QRectF(all.topLeft(), QPointF(handle.center().x(), all.bottom())));
    p.setPen(QPen(focused ? c.accent : c.inkSoft, focused ? 3 : 1));
    p.setBrush(c.card);
    p.drawRect(QRectF(handle).adjusted(2, 2, -2, -2));
    p.restore();
}

} // namespace

FlatStyle::FlatStyle() : QProxyStyle(QStringLiteral("Fusion"))
{
    setObjectName(QStringLiteral("flat"));
}

void FlatStyle::drawComplexControl(ComplexControl control, const QStyleOptionComplex* option, QPainter* painter,
                                   const QWidget* widget) const
{
    const auto* box = qstyleoption_cast<const QStyleOptionComboBox*>(option);
    if (const auto* slider = qstyleoption_cast<const QStyleOptionSlider*>(option);
        control == CC_Slider && slider != nullptr) {
        drawSlider(*painter, *slider, proxy()->subControlRect(CC_Slider, slider, SC_SliderHandle, widget));
        return;
    }
    if (control != CC_ComboBox || box == nullptr || box->editable) {
        QProxyStyle::drawComplexControl(control, option, painter, widget);
        return;
    }
    const auto& c = colours();
    drawField(*painter, *box, c.card);
    const QRect arrow = proxy()->subControlRect(CC_ComboBox, box, SC_ComboBoxArrow, widget);
    drawChevron(*painter, QRectF(arrow).center(), box->state.testFlag(State_Enabled) ? c.ink : c.inkSoft);
}

/// What does not fit ends in an ellipsis, not under the chevron.
void FlatStyle::drawControl(ControlElement element, const QStyleOption* option, QPainter* painter,
                            const QWidget* widget) const
{
    const auto* box = qstyleoption_cast<const QStyleOptionComboBox*>(option);
    if (element != CE_ComboBoxLabel || box == nullptr || box->editable) {
        QProxyStyle::drawControl(element, option, painter, widget);
        return;
    }
    QStyleOptionComboBox fitting = *box;
    const int room = proxy()->subControlRect(CC_ComboBox, box, SC_ComboBoxEditField, widget).width();
    fitting.currentText = painter->fontMetrics().elidedText(box->currentText, Qt::ElideRight, room);
    QProxyStyle::drawControl(element, &fitting, painter, widget);
}

void FlatStyle::drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                              const QWidget* widget) const
{
    const auto& c = colours();
    if (element == PE_IndicatorCheckBox) {
        drawField(*painter, *option, c.card);
        if (option->state.testFlag(State_On))
            drawTick(*painter, option->rect, option->state.testFlag(State_Enabled) ? c.accent : c.inkSoft);
        return;
    }
    if (element == PE_FrameFocusRect) { // the edges of controls are heavy where the keys go: only cells need a frame
        if (qobject_cast<const QAbstractItemView*>(widget) != nullptr) {
            painter->save();
            painter->setPen(QPen(c.accent, 1));
            painter->drawRect(option->rect.adjusted(0, 0, -1, -1));
            painter->restore();
        }
        return;
    }
    if (element != PE_PanelButtonCommand) {
        QProxyStyle::drawPrimitive(element, option, painter, widget);
        return;
    }
    const bool pressed = option->state.testFlag(State_Sunken) || option->state.testFlag(State_On);
    drawField(*painter, *option, pressed ? c.selected : option->state.testFlag(State_MouseOver) ? c.list : c.paper);
}

/// Words begin where they begin in a typed field.
QRect FlatStyle::subControlRect(ComplexControl control, const QStyleOptionComplex* option, SubControl part,
                                const QWidget* widget) const
{
    const QRect rect = QProxyStyle::subControlRect(control, option, part, widget);
    return control == CC_ComboBox && part == SC_ComboBoxEditField ? rect.adjusted(kInset, 0, 0, 0) : rect;
}

QSize FlatStyle::sizeFromContents(ContentsType type, const QStyleOption* option, const QSize& size,
                                  const QWidget* widget) const
{
    const QSize plain = QProxyStyle::sizeFromContents(type, option, size, widget);
    switch (type) {
    case CT_ComboBox:
        return plain + QSize(kInset, 0);
    case CT_PushButton:
        return plain + QSize(2 * kInset, 2);
    default:
        return plain;
    }
}

/// Margins, spaces and indicators grow with the text; what the style beneath leaves to others (below 0) stays so.
int FlatStyle::pixelMetric(PixelMetric metric, const QStyleOption* option, const QWidget* widget) const
{
    const int plain = QProxyStyle::pixelMetric(metric, option, widget);
    return plain > 1 ? px(plain) : plain;
}

int FlatStyle::styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget,
                         QStyleHintReturn* data) const
{
    return hint == SH_ComboBox_Popup ? 0 // the list drops beneath its field instead of covering it
                                     : QProxyStyle::styleHint(hint, option, widget, data);
}

} // namespace vicegrip::app::look
