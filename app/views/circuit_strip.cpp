#include "app/views/circuit_strip.h"

#include "app/look/look.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/state_glyph.h"

#include <QPainter>

namespace vicegrip::app {
namespace {

using proof::StationKind;

constexpr look::Px kMarkSize{24}, kLineY{84}, kLabelY{46}, kExpectedY{104}, kReadY{126}, kFooterY{150};

parts::PinRole roleShown(const std::vector<proof::Judged>& stations, const std::string& selected)
{
    for (const proof::Judged& j : stations)
        if (j.expectation.station.key == selected)
            return j.expectation.station.role;
    return parts::PinRole::Signal;
}

} // namespace

void StripStation::show(const proof::Judged& judged, bool selected, bool pointed)
{
    const proof::Expectation& e = judged.expectation;
    m_state = judged.state;
    m_selected = selected;
    m_pointed = pointed;
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(app::text(e.station.label));
    QString words = e.promises() ? CircuitStrip::tr("must read %1").arg(app::text(job::readingText(e.due, e.unit)))
                    : e.switches ? CircuitStrip::tr("switches between %1").arg(dueOrDash(e))
                                 : app::text(e.trouble);
    if (judged.last != nullptr)
        words += CircuitStrip::tr(", read %1").arg(app::text(job::readingText(judged.last->reading, e.unit)));
    words += QStringLiteral(", ") + app::said(proof::stateName(judged.state));
    if (pointed)
        words += CircuitStrip::tr(", tells most");
    setAccessibleDescription(words);
    setToolTip(judged.reason.empty() ? words : app::text(judged.reason));
    update();
}

void StripStation::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const auto& c = look::colours();
    const QRectF box = QRectF(rect()).adjusted(4_px, 4_px, -4_px, -4_px);
    p.fillRect(rect(), c.list);
    if (m_selected || hasFocus()) {
        p.setPen(QPen(c.accent,
                      m_selected && hasFocus() ? 4_px
                      : m_selected             ? 3_px
                                               : 1.5,
                      m_selected ? Qt::SolidLine : Qt::DotLine));
        const qreal inset = m_selected && hasFocus() ? 2 : 1.5;
        p.drawRect(QRectF(rect()).adjusted(inset, inset, -inset, -inset));
    }
    drawState(p, box, m_state);
    if (m_pointed) { // a finger from above
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(c.list, 1));
        p.setBrush(c.accent);
        const qreal half = 6_px, tip = 9_px, x = width() / 2.0;
        p.drawPolygon(QPolygonF({{x - half, 0}, {x + half, 0}, {x, tip}}));
    }
}

CircuitStrip::CircuitStrip(Desk& desk, QWidget* parent) : QWidget(parent), m_desk(desk)
{
    setObjectName(QStringLiteral("circuit-strip"));
    setFixedHeight(look::kStrip);
    setAccessibleName(tr("Strip of the selected circuit"));
}

void CircuitStrip::refresh()
{
    for (const Mark& mark : m_marks) {
        mark.button->hide();
        mark.button->deleteLater();
    }
    m_marks.clear();
    m_analysis = m_desk.store.analysis();
    const job::Job& job = *m_analysis->job;
    const job::Circuit* circuit = job::find(job, m_desk.selection.circuit());
    const auto* view = analysis::find(*m_analysis, m_desk.selection.circuit());
    const std::string& wish = m_desk.selection.wish();
    const parts::Part* sensor = circuit != nullptr ? job::sensorOf(job, *circuit) : nullptr;
    m_hose = sensor != nullptr && parts::isInside(*sensor);
    m_title = circuit != nullptr ? text(circuit->name) : wish.empty() ? tr("No circuit selected") : text(wish);
    m_subtitle.clear();
    m_footer.clear();
    if (circuit == nullptr || view == nullptr) {
        m_footer = !wish.empty()          ? tr("It is not among the circuits of this job.")
                   : job.circuits.empty() ? tr("The brief brings circuits in: Ctrl+1.")
                                          : tr("Alt+Down goes to the first.");
        update();
        return;
    }
    const job::Condition condition = m_desk.selection.condition();
    const auto stations = m_desk.promises.of(circuit->id, condition);
    const parts::PinRole role = roleShown(stations, m_desk.selection.station());
    const QString line = busText(job, *circuit); // who hangs on it says more than that it is one
    m_subtitle = (line.isEmpty() ? signalText(job, *circuit) : line) + QStringLiteral(", ") +
                 conditionText(job, condition) + QStringLiteral(", ") +
                 text(parts::roleWords(*job::partOf(job, *circuit), role)) + (m_hose ? tr(" by a hose") : tr(" wire"));
    m_footer = text(m_analysis->networkTrouble);
    for (const proof::Judged& j : stations) {
        if (j.expectation.station.role != role)
            continue;
        Mark mark;
        mark.judged = j;
        if (!m_marks.empty())
            m_marks.back().wire =
                wireBetween(job, m_marks.back().judged.expectation.station.point, j.expectation.station.point);
        mark.button = new StripStation(this);
        mark.button->setObjectName(QStringLiteral("station-") + text(j.expectation.station.key));
        const QString key = text(j.expectation.station.key);
        mark.button->show(j, key.toStdString() == m_desk.selection.station(),
                          key.toStdString() == m_desk.selection.pointed());
        connect(mark.button, &QAbstractButton::clicked, this, [this, key] { emit stationChosen(key); });
        m_marks.push_back(mark);
        if (m_footer.isEmpty() && (j.state == proof::State::Stale || j.state == proof::State::Failing))
            m_footer = text(j.expectation.station.label) + QStringLiteral(": ") + text(j.reason);
    }
    if (!job::isSeated(*circuit))
        m_footer = tr("It has no seat on the ECU yet: Ctrl+2 finds it one, and the wiring is drawn from there.");
    if (m_footer.isEmpty())
        m_footer = tr("Upper figure: must read. Lower: last reading.");
    place();
    for (const Mark& mark : m_marks)
        mark.button->setVisible(true);
    update();
}

qreal CircuitStrip::xOf(size_t index) const
{
    const qreal left = look::kMargin + 44_px, right = width() - look::kMargin - 44_px;
    const size_t before = m_hose ? 1 : 0;
    if (m_marks.size() + before < 2)
        return left;
    return left + (right - left) * static_cast<qreal>(index + before) / static_cast<qreal>(m_marks.size() + before - 1);
}

void CircuitStrip::refreshLive()
{
    update();
}

void CircuitStrip::place()
{
    for (size_t i = 0; i < m_marks.size(); ++i)
        m_marks[i].button->setGeometry(static_cast<int>(xOf(i)) - kMarkSize / 2 - 4_px, kLineY - kMarkSize / 2 - 4_px,
                                       kMarkSize + 8_px, kMarkSize + 8_px);
}

void CircuitStrip::resizeEvent(QResizeEvent*)
{
    place();
}

void CircuitStrip::drawLines(QPainter& p) const
{
    const auto& c = look::colours();
    for (size_t i = 0; i + 1 < m_marks.size(); ++i) {
        const qreal from = xOf(i) + kMarkSize / 2.0, to = xOf(i + 1) - kMarkSize / 2.0;
        const QStringList colours = m_marks[i].wire.split(QLatin1Char('/'), Qt::SkipEmptyParts);
        if (colours.isEmpty()) {
            const bool contact = m_marks[i + 1].judged.expectation.station.kind == StationKind::Probe;
            p.setPen(QPen(c.inkSoft, contact ? 1.6 : 1.2, contact ? Qt::DotLine : Qt::SolidLine));
            p.drawLine(QPointF(from, kLineY), QPointF(to, kLineY));
            continue;
        }
        p.setPen(QPen(c.inkSoft, 8_px, Qt::SolidLine, Qt::FlatCap)); // a rim, so that a white wire shows on paper
        p.drawLine(QPointF(from, kLineY), QPointF(to, kLineY));
        p.setPen(QPen(look::wire(colours.first()), 6_px, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(from, kLineY), QPointF(to, kLineY));
        if (colours.size() > 1) {
            QPen tracer(look::wire(colours.last()), 2, Qt::CustomDashLine, Qt::FlatCap);
            tracer.setDashPattern({6, 4});
            p.setPen(tracer);
            p.drawLine(QPointF(from, kLineY), QPointF(to, kLineY));
        }
        p.setFont(look::numbers(look::Size::Small));
        p.setPen(c.inkSoft);
        p.drawText(QRectF(from, kLineY - 24_px, to - from, 18_px), Qt::AlignCenter, m_marks[i].wire);
    }
}

/// Port, hose: what stands for the wires of a sensor inside the unit.
void CircuitStrip::drawHose(QPainter& p) const
{
    const auto& c = look::colours();
    const qreal port = look::kMargin + 44_px, column = xOf(0) - port;
    p.setPen(QPen(c.inkSoft, 9_px, Qt::SolidLine, Qt::FlatCap));
    p.drawLine(QPointF(port, kLineY), QPointF(xOf(0) - kMarkSize / 2.0, kLineY));
    p.setPen(QPen(c.list, 4_px, Qt::SolidLine, Qt::FlatCap)); // hollow
    p.drawLine(QPointF(port, kLineY), QPointF(xOf(0) - kMarkSize / 2.0, kLineY));
    p.setPen(QPen(c.inkSoft, 2));
    p.setBrush(c.list);
    p.drawEllipse(QPointF(port, kLineY), 8_px, 8_px);
    p.setFont(look::textFont(look::Size::Small));
    p.setPen(c.ink);
    p.drawText(QRectF(port - column / 2, kLabelY - 4_px, column, 18_px), Qt::AlignCenter, tr("Port"));
    p.setPen(c.inkSoft);
    p.drawText(QRectF(port, kLineY - 26_px, column, 18_px), Qt::AlignCenter, tr("hose"));
}

/// What the ECU says now, else what was read last.
void CircuitStrip::drawReading(QPainter& p, const QRectF& row, const proof::Judged& judged) const
{
    const auto& c = look::colours();
    const proof::Expectation& e = judged.expectation;
    const job::Circuit* circuit = job::find(*m_analysis->job, m_desk.selection.circuit());
    QString said = judged.last != nullptr ? text(job::readingText(judged.last->reading, e.unit)) : QStringLiteral("–");
    p.setPen(inkOf(judged.state));
    if (const auto now = circuit == nullptr ? std::nullopt : m_desk.live.now(*m_analysis->job, *circuit, e)) {
        said = tr("now %1").arg(text(job::readingText(*now, e.unit)));
        p.setPen(c.accent);
        if (e.promises() && !e.allows(*now) && m_desk.live.untouched(*m_analysis->job, *circuit)) {
            said += QStringLiteral(" ✗");
            p.setPen(c.failing);
        }
    } else if (circuit != nullptr && e.station.kind != StationKind::Probe && e.promises()) {
        const auto why = m_desk.live.whyMissing(*m_analysis->job, *circuit, e.station.kind);
        if (why == Live::Missing::Stale || why == Live::Missing::NoTable) {
            said = tr("now: %1").arg(m_desk.live.missing(*m_analysis->job, *circuit, e.station.kind, {}));
            p.setPen(c.accent);
        }
    }
    if (p.fontMetrics().horizontalAdvance(said) > row.width()) // its colour says "now" as well
        said.remove(tr("now %1").arg(QString()));
    drawInside(p, row, said);
}

/// In the middle of its row, and never past the strip's ends.
void CircuitStrip::drawInside(QPainter& p, const QRectF& row, const QString& said) const
{
    constexpr look::Px kEdge{6};
    const qreal wide = p.fontMetrics().horizontalAdvance(said) + 1;
    const qreal last = std::max<qreal>(kEdge, width() - kEdge - wide);
    p.drawText(QRectF(std::clamp<qreal>(row.center().x() - wide / 2, kEdge, last), row.top(), wide, row.height()),
               Qt::AlignCenter, said);
}

void CircuitStrip::drawTexts(QPainter& p) const
{
    const auto& c = look::colours();
    if (m_hose && !m_marks.empty())
        drawHose(p);
    const qreal column = m_marks.size() > 1 ? xOf(1) - xOf(0) : 160_px;
    for (size_t i = 0; i < m_marks.size(); ++i) {
        const proof::Judged& j = m_marks[i].judged;
        const proof::Expectation& e = j.expectation;
        const auto row = [&](int y) { return QRectF(xOf(i) - column / 2, y, column, 18_px); };
        p.setFont(look::textFont(look::Size::Small, e.needed));
        p.setPen(c.ink);
        p.drawText(row(kLabelY - 4_px), Qt::AlignCenter,
                   p.fontMetrics().elidedText(text(e.station.label), Qt::ElideRight, static_cast<int>(column)));
        p.setFont(look::numbers(look::Size::Body));
        drawInside(p, row(kExpectedY), dueOrDash(e));
        p.setFont(look::numbers(look::Size::Small));
        drawReading(p, row(kReadY), j);
    }
}

void CircuitStrip::paintEvent(QPaintEvent*)
{
    const auto& c = look::colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), c.list);
    p.fillRect(QRect(0, 0, width(), 2), c.accent);
    p.setPen(c.ink);
    p.setFont(look::textFont(look::Size::Body, true));
    p.drawText(QPointF(look::kMargin, 28_px), m_title);
    const int after = look::kMargin + p.fontMetrics().horizontalAdvance(m_title) + 16_px;
    p.setFont(look::textFont(look::Size::Small));
    p.setPen(c.inkSoft);
    p.drawText(QPointF(after, 28_px), m_subtitle);
    drawLines(p);
    drawTexts(p);
    p.setFont(look::textFont(look::Size::Small));
    p.setPen(c.inkSoft);
    p.drawText(QRectF(look::kMargin, kFooterY, width() - 2 * look::kMargin, 20_px), Qt::AlignVCenter,
               p.fontMetrics().elidedText(m_footer, Qt::ElideRight, width() - 2 * look::kMargin));
}

} // namespace vicegrip::app
