#include "app/stages/trigger/strip_drawing.h"

#include "app/widgets/text.h"
#include "core/units/units.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr double kPitches = 1.8; ///< that are seen
constexpr double kUnsaid = 1.4; ///< of the strip's length: how thick a wheel is drawn that nobody has said

} // namespace

StripDrawing::StripDrawing(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("strip-drawing"));
    setAccessibleName(tr("The sensor's strip over the teeth"));
    setMinimumSize(220_px, 110_px);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void StripDrawing::show(const std::optional<trigger::Strip>& strip, std::optional<double> after_deg)
{
    m_strip = strip;
    m_after = after_deg;
    setAccessibleDescription(
        strip ? tr("Turned by %1° from along the teeth").arg(text(units::formatNumber(strip->lies_deg, 0)))
              : QString());
    setVisible(strip.has_value());
    update();
}

void StripDrawing::paintEvent(QPaintEvent*)
{
    if (!m_strip)
        return;
    const trigger::Strip& s = *m_strip;
    const auto& c = look::colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(look::textFont(look::Size::Small));
    const double foot = 2 * p.fontMetrics().lineSpacing() + 4_px;
    const QRectF room = QRectF(rect()).adjusted(0, 0, 0, -foot);
    const double thick = s.thick_m > 0 ? s.thick_m : kUnsaid * s.long_m;
    const double tall = std::max(s.long_m, 2 * std::abs(s.beside_m) + thick) * 1.1;
    const double scale = std::min(room.width() / (kPitches * s.tooth_m), room.height() / tall); // pixels a metre
    const QPointF middle = room.center();
    p.save();
    p.setClipRect(room);
    const double tooth = s.tooth_m / 2 * scale, top = middle.y() + (s.beside_m - thick / 2) * scale;
    const int each_side = static_cast<int>(std::ceil(room.width() / 2 / (s.tooth_m * scale)));
    for (int i = -each_side; i <= each_side; ++i) {
        const QRectF metal(middle.x() + i * s.tooth_m * scale - tooth / 2, top, tooth, thick * scale);
        p.fillRect(metal, c.line);
        p.setPen(QPen(c.inkSoft, 1));
        p.drawRect(metal);
    }
    const auto strip = [&](double lies_deg, const QPen& pen, const QBrush& fill) {
        p.save();
        p.translate(middle);
        p.rotate(lies_deg);
        p.setPen(pen);
        p.setBrush(fill);
        const double wide = std::max(s.wide_m * scale, 2.0), high = s.long_m * scale;
        p.drawRect(QRectF(-wide / 2, -high / 2, wide, high));
        p.restore();
    };
    if (m_after)
        strip(*m_after, QPen(c.done, 2, Qt::DashLine), Qt::NoBrush);
    strip(s.lies_deg, QPen(c.accent, 1.5), c.accent);
    p.restore();
    p.setPen(c.inkSoft);
    const QString pitch = text(units::format(s.tooth_m, units::Dimension::Length, "mm", 1));
    const QString legend = m_after ? tr("filled: now; dashed: once turned") : tr("seen from behind the sensor");
    p.drawText(QRectF(0, room.bottom(), width(), foot), Qt::AlignHCenter | Qt::AlignBottom,
               tr("teeth %1 apart, to scale").arg(pitch) + QLatin1Char('\n') + legend);
}

} // namespace vicegrip::app
