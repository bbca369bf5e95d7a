#include "app/widgets/figure_view.h"

#include "app/widgets/text.h"

#include <QEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>

namespace vicegrip::app {
namespace {

using drawn::Ink;

constexpr look::Px kReadable{42}; ///< tenths of a pixel to a mm: words of 2.3 mm are ten pixels high

QColor inkOf(Ink ink)
{
    const auto& c = look::colours();
    switch (ink) {
    case Ink::Line:
        return c.ink;
    case Ink::Soft:
        return c.inkSoft;
    case Ink::Faint:
        return c.line;
    case Ink::Paper:
        return c.card;
    case Ink::Fill:
        return c.list;
    case Ink::Accent:
        return c.accent;
    }
    return c.ink;
}

QPointF point(const drawn::At& at)
{
    return {at.x, at.y};
}

QPainterPath pathOf(const drawn::Stroke& s)
{
    QPainterPath path;
    for (size_t i = 0; i < s.points.size(); ++i)
        i == 0 ? path.moveTo(point(s.points[i])) : path.lineTo(point(s.points[i]));
    if (s.closed)
        path.closeSubpath();
    return path;
}

struct Painting
{
    QPainter& p;

    void operator()(const drawn::Stroke& s) const
    {
        const QPainterPath path = pathOf(s);
        p.setBrush(s.closed && s.fill ? QBrush(inkOf(*s.fill)) : Qt::NoBrush);
        if (s.wire.empty()) {
            p.setPen(QPen(inkOf(s.ink), s.width_mm, s.dashed ? Qt::DashLine : Qt::SolidLine));
            p.drawPath(path);
            return;
        }
        const QString letters = text(s.wire);
        p.strokePath(path, QPen(look::colours().ink, s.width_mm + 0.3));
        p.strokePath(path, QPen(look::wire(letters.section(QLatin1Char('/'), 0, 0)), s.width_mm));
        if (letters.contains(QLatin1Char('/'))) {
            QPen tracer(look::wire(letters.section(QLatin1Char('/'), 1, 1)), s.width_mm * 0.4);
            tracer.setDashPattern({5, 2.5});
            p.strokePath(path, tracer);
        }
    }
    void operator()(const drawn::Disc& d) const
    {
        p.setPen(Qt::NoPen);
        p.setBrush(inkOf(d.ink));
        p.drawEllipse(point(d.centre), d.radius_mm, d.radius_mm);
    }
    void operator()(const drawn::Words& w) const
    {
        // Laid out a hundred times as large: typefaces have whole sizes.
        constexpr double kFine = 100;
        QFont font = w.even ? look::numbers(look::Size::Small) : look::textFont(look::Size::Small, w.bold);
        font.setBold(w.bold);
        font.setPixelSize(static_cast<int>(w.size_mm * kFine));
        p.save();
        p.translate(point(w.at));
        p.scale(1 / kFine, 1 / kFine);
        p.setFont(font);
        p.setPen(inkOf(w.ink));
        const double wide = QFontMetricsF(font).horizontalAdvance(text(w.text));
        p.drawText(QPointF(w.align == drawn::Align::Left     ? 0
                           : w.align == drawn::Align::Middle ? -wide / 2
                                                             : -wide,
                           0),
                   text(w.text));
        p.restore();
    }
};

} // namespace

FigureView::FigureView(const char* objectName, const QString& spoken, QWidget* parent)
    : QScrollArea(parent), m_sheet(new QWidget)
{
    setObjectName(QLatin1String(objectName));
    setAccessibleName(spoken);
    setFrameShape(QFrame::NoFrame);
    setFocusPolicy(Qt::StrongFocus);
    setWidget(m_sheet);
    m_sheet->installEventFilter(this);
}

void FigureView::show(const drawn::Figure& figure)
{
    m_figure = figure;
    setAccessibleDescription(text(figure.spoken));
    fit();
}

void FigureView::emphasise(std::set<std::string> about)
{
    m_emphasised = std::move(about);
    m_sheet->update();
}

void FigureView::setWhole(bool whole)
{
    m_whole = whole;
    fit();
}

void FigureView::fit()
{
    if (m_figure.width_mm <= 0)
        return;
    const QSize room = maximumViewportSize();
    const double whole = std::min(room.width() / m_figure.width_mm, room.height() / m_figure.height_mm);
    m_scale = m_whole ? whole : std::max(kReadable / 10.0, std::min(whole, 6.0));
    m_sheet->resize(static_cast<int>(m_figure.width_mm * m_scale), static_cast<int>(m_figure.height_mm * m_scale));
    m_sheet->update();
}

void FigureView::resizeEvent(QResizeEvent* event)
{
    QScrollArea::resizeEvent(event);
    fit();
}

bool FigureView::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == m_sheet && event->type() == QEvent::Paint) {
        paint();
        return true;
    }
    if (watched == m_sheet && event->type() == QEvent::MouseButtonPress)
        pick(static_cast<QMouseEvent*>(event)->position() / m_scale);
    return QScrollArea::eventFilter(watched, event);
}

void FigureView::paint()
{
    QPainter p(m_sheet);
    p.setRenderHint(QPainter::Antialiasing);
    p.scale(m_scale, m_scale);
    QColor halo = look::colours().accent;
    halo.setAlpha(70);
    // Halos lie under everything, so that no word is lost in one.
    for (const drawn::Shape& shape : m_figure.shapes)
        if (const auto* s = std::get_if<drawn::Stroke>(&shape.what); s != nullptr && m_emphasised.contains(shape.about))
            p.strokePath(pathOf(*s), QPen(halo, s->width_mm + 2.6, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    for (const drawn::Shape& shape : m_figure.shapes)
        std::visit(Painting{p}, shape.what);
}

void FigureView::pick(const QPointF& at)
{
    constexpr double kNear_mm = 3;
    QPainterPathStroker stroker;
    stroker.setWidth(kNear_mm);
    for (auto shape = m_figure.shapes.rbegin(); shape != m_figure.shapes.rend(); ++shape)
        if (const auto* stroke = std::get_if<drawn::Stroke>(&shape->what); stroke != nullptr && !shape->about.empty()) {
            const QPainterPath path = pathOf(*stroke);
            if (stroke->closed ? path.contains(at) : stroker.createStroke(path).contains(at)) {
                emit picked(text(shape->about));
                return;
            }
        }
}

} // namespace vicegrip::app
