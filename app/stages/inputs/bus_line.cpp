#include "app/stages/inputs/bus_line.h"

#include "app/look/look.h"
#include "app/widgets/text.h"
#include "core/units/units.h"

#include <QPainter>

#include <cmath>

namespace vicegrip::app {
namespace {

constexpr look::Px kLineX{16}, kDot{6}, kTextX{34}, kEnd{14};

QString metres(double m)
{
    return text(units::format(m, units::Dimension::Length, "m", 2));
}

} // namespace

BusLine::BusLine(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("bus-line"));
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    hide();
}

int BusLine::heightOfRow() const
{
    return 2 * QFontMetrics(look::textFont(look::Size::Small)).height() + 4_px;
}

void BusLine::show(const bus::Bus* line, const job::CircuitId& selected)
{
    m_line = line != nullptr ? std::optional(*line) : std::nullopt;
    m_selected = selected;
    setVisible(m_line.has_value());
    if (!m_line)
        return;
    const QString spoken = text(bus::orderText(*m_line));
    setAccessibleName(tr("The bus in order"));
    setAccessibleDescription(spoken);
    setToolTip(spoken);
    updateGeometry();
    update();
}

QSize BusLine::sizeHint() const
{
    const size_t rows = m_line ? m_line->nodes.size() : 0;
    return {200_px, static_cast<int>(rows) * heightOfRow() + 2 * kEnd};
}

bool BusLine::isClosed(size_t end) const
{
    return !m_line->open[end];
}

void BusLine::paintEvent(QPaintEvent*)
{
    if (!m_line)
        return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& c = look::colours();
    const int row = heightOfRow(), count = static_cast<int>(m_line->nodes.size());
    const auto yOf = [&](int i) { return kEnd + i * row + row / 4; };
    const qreal left = kLineX - 3_px, right = kLineX + 3_px;
    for (const auto& [x, colour] : {std::pair(left, "YE"), {right, "GN"}}) { // high and low
        p.setPen(QPen(c.inkSoft, 4_px, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(x, yOf(0)), QPointF(x, yOf(count - 1)));
        p.setPen(QPen(look::wire(QLatin1String(colour)), 2.5, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(x, yOf(0)), QPointF(x, yOf(count - 1)));
    }
    for (const size_t end : {0U, 1U}) { // a bar closes the pair; an open end is said in its row
        const int y = end == 0 ? yOf(0) - kEnd + 4_px : yOf(count - 1) + kEnd - 4_px;
        p.setPen(
            QPen(isClosed(end) ? c.done : c.failing, 3_px, isClosed(end) ? Qt::SolidLine : Qt::DotLine, Qt::FlatCap));
        p.drawLine(QPointF(kLineX - 9_px, y), QPointF(kLineX + 9_px, y));
    }
    for (int i = 0; i < count; ++i) {
        const bus::Node& n = m_line->nodes[static_cast<size_t>(i)];
        const bool chosen = !n.circuit.empty() && n.circuit == m_selected;
        p.setPen(QPen(chosen ? c.accent : c.ink, 2));
        p.setBrush(chosen ? c.accent : c.list);
        p.drawEllipse(QPointF(kLineX, yOf(i)), kDot, kDot);
        QString ends;
        for (const bus::Terminator& t : m_line->terminators)
            if (t.name == n.name)
                ends = tr(", %1 inside").arg(text(units::format(t.ohm, units::Dimension::Resistance, "Ω", 0)));
        const bool open = (i == 0 && !isClosed(0)) || (i == count - 1 && !isClosed(1));
        p.setFont(look::textFont(look::Size::Small, chosen));
        p.setPen(open ? c.failing : c.ink);
        const QRect words(kTextX, yOf(i) - row / 4, width() - kTextX, row / 2);
        p.drawText(
            words, Qt::AlignVCenter,
            p.fontMetrics().elidedText(text(n.name) + (open ? tr(", open end") : ends), Qt::ElideRight, words.width()));
        p.setFont(look::textFont(look::Size::Small));
        p.setPen(c.inkSoft);
        QString below = n.stub_m > 0 ? tr("%1 beside the line").arg(metres(n.stub_m)) : QString();
        if (i + 1 < count) {
            const double on_m = m_line->nodes[static_cast<size_t>(i) + 1].along_m - n.along_m;
            below =
                tr("%1 on").arg(metres(std::abs(on_m))) + (below.isEmpty() ? QString() : QStringLiteral(" · ") + below);
        }
        p.drawText(QRect(kTextX, yOf(i) + row / 4, width() - kTextX, row / 2), Qt::AlignVCenter, below);
    }
}

} // namespace vicegrip::app
