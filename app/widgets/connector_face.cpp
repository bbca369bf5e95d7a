#include "app/widgets/connector_face.h"

#include "app/look/look.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

using pinning::PinState;

constexpr look::Px kMostPixels{11000}; ///< per metre: a 4 mm pitch is 44 pixels
constexpr double kRim = 0.75; ///< pitches from the outer cavities' cells to the housing's edge
constexpr look::Px kNumbers{34}; ///< pixels beside the rows, for what is moulded there
constexpr look::Px kKeyTall{10};

void drawWire(QPainter& p, const QRectF& box, const QString& colours)
{
    const QStringList both = colours.split(QLatin1Char('/'));
    p.fillRect(box, look::wire(both.first()));
    if (both.size() > 1) {
        const QRectF tracer(box.left(), box.center().y() - box.height() * 0.14, box.width(), box.height() * 0.28);
        p.fillRect(tracer, look::wire(both.last()));
    }
}

void drawCross(QPainter& p, const QRectF& box)
{
    p.drawLine(box.topLeft(), box.bottomRight());
    p.drawLine(box.topRight(), box.bottomLeft());
}

} // namespace

ConnectorFace::ConnectorFace(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("connector-face"));
    setAccessibleName(tr("Connector face"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
}

QSize ConnectorFace::sizeHint() const
{
    const parts::FaceSize size = parts::sizeOf(m_layout);
    const double wide = std::max(width(), 520_px) - 2 * kNumbers - 2 * kKeyTall;
    const double scale = std::min<double>(kMostPixels, wide / std::max(size.width_m, 1e-3));
    const double tall = (size.height_m + 2 * kRim * m_layout.rowPitch_m) * scale + 2 * kKeyTall + 8_px;
    return {520_px, static_cast<int>(std::clamp(tall, 110.0_px, 280.0_px))};
}

void ConnectorFace::show(const parts::Layout& layout, std::vector<Cell> cells, parts::Face face, int current)
{
    m_layout = layout;
    m_cavities = parts::cavities(m_layout);
    m_cells = std::move(cells);
    m_face = face;
    m_current = current;
    m_places.clear();
    for (const Cell& cell : m_cells) {
        const auto it = std::ranges::find(m_cavities, cell.cavity.toStdString(), &parts::Cavity::name);
        m_places.push_back(it == m_cavities.end() ? nullptr : &*it);
    }
    const QString side = m_face == parts::Face::Wire ? tr("wire side") : tr("mating face, mirrored");
    setAccessibleDescription(
        m_current < 0 ? side : side + QStringLiteral(". ") + m_cells[static_cast<size_t>(m_current)].spoken);
    updateGeometry();
    update();
}

void ConnectorFace::place()
{
    const parts::FaceSize size = parts::sizeOf(m_layout);
    const double tall = size.height_m + 2 * kRim * m_layout.rowPitch_m;
    m_scale = std::min({1.0 * kMostPixels, (width() - 2 * kNumbers - 2 * kKeyTall) / std::max(size.width_m, 1e-3),
                        (height() - 2 * kKeyTall - 8_px) / tall});
    m_origin = QPointF((width() - size.width_m * m_scale) / 2, (height() - size.height_m * m_scale) / 2);
}

QRectF ConnectorFace::box(size_t index) const
{
    if (m_places[index] == nullptr)
        return {};
    const parts::Cavity& c = *m_places[index];
    const double side = c.size_m * m_scale;
    const QPointF middle = m_origin + QPointF(parts::onFace(c.x_m, parts::sizeOf(m_layout), m_face), c.y_m) * m_scale;
    return {middle.x() - side / 2, middle.y() - side / 2, side, side};
}

void ConnectorFace::paintHousing(QPainter& p)
{
    const auto& c = look::colours();
    const parts::FaceSize size = parts::sizeOf(m_layout);
    const double rx = kNumbers, ry = kRim * m_layout.rowPitch_m * m_scale;
    const QRectF housing(m_origin.x() - rx, m_origin.y() - ry, size.width_m * m_scale + 2 * rx,
                         size.height_m * m_scale + 2 * ry);
    const bool mating = m_face == parts::Face::Mating;
    p.setPen(QPen(c.ink, 1.5));
    p.setBrush(mating ? c.rail : c.list);
    parts::KeySide key = m_layout.key;
    if (mating && key == parts::KeySide::Left)
        key = parts::KeySide::Right;
    else if (mating && key == parts::KeySide::Right)
        key = parts::KeySide::Left;
    const double long_ = std::min(96.0_px, housing.width() * 0.3);
    switch (key) {
    case parts::KeySide::Top:
        p.drawRect(QRectF(housing.center().x() - long_ / 2, housing.top() - kKeyTall, long_, kKeyTall));
        break;
    case parts::KeySide::Bottom:
        p.drawRect(QRectF(housing.center().x() - long_ / 2, housing.bottom(), long_, kKeyTall));
        break;
    case parts::KeySide::Left:
        p.drawRect(QRectF(housing.left() - kKeyTall, housing.center().y() - 16_px, kKeyTall, 32_px));
        break;
    case parts::KeySide::Right:
        p.drawRect(QRectF(housing.right(), housing.center().y() - 16_px, kKeyTall, 32_px));
        break;
    case parts::KeySide::None:
        break;
    }
    p.drawRoundedRect(housing, 8_px, 8_px);
}

void ConnectorFace::paintCavity(QPainter& p, size_t index)
{
    if (m_places[index] == nullptr)
        return;
    const auto& c = look::colours();
    const Cell& cell = m_cells[index];
    const QRectF square = box(index);
    const bool current = static_cast<int>(index) == m_current;
    const bool inside = cell.state == PinState::Seated || cell.state == PinState::Counted;
    p.setPen(Qt::NoPen);
    p.setBrush(c.card);
    p.drawRect(square);
    if (!cell.colours.isEmpty() && m_face == parts::Face::Wire)
        drawWire(p,
                 inside ? square
                        : square.adjusted(square.width() * 0.2, square.height() * 0.2, -square.width() * 0.2,
                                          -square.height() * 0.2),
                 cell.colours);
    if (m_face == parts::Face::Mating) { // the slot a blade goes into: open while nothing sits behind it
        const double wide = square.width() * 0.56, tall = square.height() * 0.2;
        const QRectF slot(square.center().x() - wide / 2, square.center().y() - tall / 2, wide, tall);
        p.setPen(QPen(c.ink, 1));
        p.setBrush(inside ? QBrush(c.ink) : Qt::NoBrush);
        p.drawRect(slot);
    }
    p.setBrush(Qt::NoBrush);
    const bool wanted = cell.state == PinState::Planned || cell.state == PinState::BlankDue;
    p.setPen(QPen(cell.state == PinState::Wrong ? c.failing
                  : inside                      ? c.ink
                                                : c.inkSoft,
                  cell.state == PinState::Wrong ? 2 : 1.2, wanted ? Qt::DashLine : Qt::SolidLine));
    p.drawRect(square);
    if (cell.state == PinState::Wrong)
        drawCross(p, square);
    if (cell.state == PinState::BlankDue || cell.state == PinState::BlankIn) {
        if (cell.state == PinState::BlankIn)
            p.fillRect(square.adjusted(1, 1, -1, -1), c.line);
        p.setPen(QPen(c.inkSoft, 1.5));
        p.drawLine(QPointF(square.left() + square.width() * 0.25, square.center().y()),
                   QPointF(square.right() - square.width() * 0.25, square.center().y()));
    }
    if (cell.state == PinState::Counted) { // a tick on a small card, so that it shows on every colour
        const double s = std::min(13.0_px, square.width() * 0.5);
        const QRectF card(square.right() - s, square.bottom() - s, s, s);
        p.fillRect(card, cell.proved ? c.done : c.card);
        p.setPen(QPen(cell.proved ? c.card : c.done, 1.8));
        p.drawPolyline(QPolygonF({{card.left() + s * 0.2, card.top() + s * 0.55},
                                  {card.left() + s * 0.42, card.top() + s * 0.78},
                                  {card.left() + s * 0.82, card.top() + s * 0.25}}));
    }
    if (m_places[index]->printed)
        paintNumber(p, index);
    if (current) {
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(c.accent, hasFocus() ? 4 : 3));
        p.drawRect(square.adjusted(-4_px, -4_px, 4_px, 4_px));
    }
}

/// A moulded number stands beside its row where the cavity is the row's end, else above the cavity.
void ConnectorFace::paintNumber(QPainter& p, size_t index)
{
    constexpr look::Px kWide{30}, kTall{16}, kApart{6};
    const QRectF square = box(index);
    const auto count = parts::countOf(m_layout, m_places[index]->name, m_face);
    p.setFont(look::numbers(look::Size::Small));
    p.setPen(look::colours().ink);
    QRectF where(square.center().x() - kWide / 2.0, square.top() - kTall - 5_px, kWide, kTall);
    int align = Qt::AlignHCenter | Qt::AlignBottom;
    if (count && m_layout.printed == parts::Printed::Corners && count->inRow > 1) {
        const bool left = count->fromLeft == 1;
        where = QRectF(left ? square.left() - kApart - kWide : square.right() + kApart,
                       square.center().y() - kTall / 2.0, kWide, kTall);
        align = (left ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter;
    }
    p.drawText(where, align, m_cells[index].cavity);
}

/// "count 6 from the 16", as a line under the cavities that are counted.
void ConnectorFace::paintCount(QPainter& p)
{
    if (m_current < 0 || m_places[static_cast<size_t>(m_current)] == nullptr)
        return;
    const auto count = parts::countOf(m_layout, m_places[static_cast<size_t>(m_current)]->name, m_face);
    if (!count || count->printed.empty() || count->steps == 0)
        return;
    size_t from = m_cells.size();
    for (size_t i = 0; i < m_cells.size(); ++i)
        if (m_cells[i].cavity.toStdString() == count->printed)
            from = i;
    if (from == m_cells.size() || m_places[from] == nullptr)
        return;
    const auto& c = look::colours();
    const QRectF a = box(from), b = box(static_cast<size_t>(m_current));
    const double y = std::max(a.bottom(), b.bottom()) + 7_px;
    p.setPen(QPen(c.accent, 2));
    p.drawLine(QPointF(a.center().x(), y), QPointF(b.center().x(), y));
    for (double x : {a.center().x(), b.center().x()})
        p.drawLine(QPointF(x, y - 4_px), QPointF(x, y));
}

void ConnectorFace::paintEvent(QPaintEvent*)
{
    place();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintHousing(p);
    for (size_t i = 0; i < m_cells.size(); ++i)
        if (static_cast<int>(i) != m_current)
            paintCavity(p, i);
    if (m_current >= 0)
        paintCavity(p, static_cast<size_t>(m_current));
    paintCount(p);
}

void ConnectorFace::mousePressEvent(QMouseEvent* event)
{
    for (size_t i = 0; i < m_cells.size(); ++i)
        if (box(i).adjusted(-3_px, -3_px, 3_px, 3_px).contains(event->position()))
            emit picked(static_cast<int>(i));
}

/// To the nearest cavity in a direction, as the face shows it.
void ConnectorFace::move(int right, int down)
{
    if (m_current < 0 || m_places[static_cast<size_t>(m_current)] == nullptr) {
        if (!m_cells.empty()) // nothing is in hand: the walk begins at the first
            emit picked(0);
        return;
    }
    const QPointF from = box(static_cast<size_t>(m_current)).center();
    int best = -1;
    double least = 0;
    for (size_t i = 0; i < m_cells.size(); ++i) {
        const QPointF by = m_places[i] == nullptr ? QPointF() : box(i).center() - from;
        const double along = by.x() * right + by.y() * down, aside = std::abs(by.x() * down) + std::abs(by.y() * right);
        if (m_places[i] == nullptr || along <= 1 || (right != 0 && aside > 1))
            continue;
        if (const double far = along * (down != 0 ? 4 : 1) + aside; best < 0 || far < least) {
            best = static_cast<int>(i);
            least = far;
        }
    }
    if (best >= 0)
        emit picked(best);
}

void ConnectorFace::keyPressEvent(QKeyEvent* event)
{
    switch (event->key()) {
    case Qt::Key_Left:
        move(-1, 0);
        return;
    case Qt::Key_Right:
        move(1, 0);
        return;
    case Qt::Key_Up:
        move(0, -1);
        return;
    case Qt::Key_Down:
        move(0, 1);
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

void ConnectorFace::resizeEvent(QResizeEvent* event)
{
    QWidget::resizeEvent(event);
    updateGeometry(); // a wider face is a taller one
}

void ConnectorFace::focusInEvent(QFocusEvent* event)
{
    QWidget::focusInEvent(event);
    update();
}

void ConnectorFace::focusOutEvent(QFocusEvent* event)
{
    QWidget::focusOutEvent(event);
    update();
}

} // namespace vicegrip::app
