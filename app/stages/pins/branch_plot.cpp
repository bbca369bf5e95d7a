#include "app/stages/pins/branch_plot.h"

#include "app/desk/desk.h"
#include "app/look/look.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <set>

namespace vicegrip::app {
namespace {

constexpr look::Px kPlotTop{14}, kPlotLeft{34}, kPlotRight{116},
    kPerMetre{420}; ///< pixels of thickness a metre of bundle

/// The halves of an inline pair are one place of the tree.
std::vector<std::string> sameAs(const job::Job& job, const std::string& place)
{
    const job::Connector* c = job::findConnector(job, place);
    if (c != nullptr && c->kind == job::ConnectorKind::Inline)
        return {place, c->mates};
    return {place};
}

/// Where to begin: an ECU's plug that lies on the tree, else the first place.
std::vector<std::string> roots(const job::Job& job)
{
    std::vector<std::string> out;
    for (const job::Connector& c : job.connectors)
        for (const job::Branch& b : job.branches)
            if (c.kind == job::ConnectorKind::Ecu && (b.from == c.id || b.to == c.id))
                out.push_back(c.id);
    for (const job::Branch& b : job.branches)
        out.push_back(b.from);
    return out;
}

} // namespace

BranchPlot::BranchPlot(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("harness-tree"));
    setAccessibleName(tr("The harness, drawn as it branches"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

/// Lays what hangs on a place; gives back the row it is drawn in.
double BranchPlot::lay(const job::Job& job, const std::string& place, int came, double x_m)
{
    const std::vector<std::string> names = sameAs(job, place);
    const int index = static_cast<int>(m_nodes.size());
    QStringList words;
    for (const std::string& n : names) {
        m_index[n] = index;
        words << text(n);
    }
    m_nodes.push_back({words.join(QLatin1Char('|')), x_m, 0, false});
    m_long_m = std::max(m_long_m, x_m);
    std::vector<double> rows;
    for (size_t b = 0; b < job.branches.size(); ++b) {
        const job::Branch& branch = job.branches[b];
        const bool here = std::ranges::find(names, branch.from) != names.end();
        const bool there = std::ranges::find(names, branch.to) != names.end();
        const std::string& other = here ? branch.to : branch.from;
        if (static_cast<int>(b) == came || (!here && !there) || m_index.contains(other))
            continue;
        const int next = static_cast<int>(m_nodes.size());
        rows.push_back(lay(job, other, static_cast<int>(b), x_m + branch.length_m));
        m_lines.push_back({index, next, static_cast<int>(b), 0, branch.wall,
                           text(units::format(branch.length_m, units::Dimension::Length, "m", 2))});
    }
    Node& node = m_nodes[static_cast<size_t>(index)];
    node.leaf = rows.empty();
    node.row = rows.empty() ? m_rows++ : (rows.front() + rows.back()) / 2;
    return node.row;
}

void BranchPlot::show(const job::Job& job, const std::vector<branches::Stretch>& stretches, int current)
{
    m_nodes.clear();
    m_lines.clear();
    m_index.clear();
    m_rows = m_long_m = 0;
    for (const std::string& root : roots(job))
        if (!m_index.contains(root))
            lay(job, root, -1, 0);
    for (Line& line : m_lines)
        line.bundle_m = stretches[static_cast<size_t>(line.branch)].dressing.bundle_m;
    m_current = current;
    setAccessibleDescription(current < 0 ? QString()
                                         : tr("%1 to %2")
                                               .arg(text(job.branches[static_cast<size_t>(current)].from),
                                                    text(job.branches[static_cast<size_t>(current)].to)));
    updateGeometry();
    update();
}

QSize BranchPlot::minimumSizeHint() const
{
    const int row = QFontMetrics(look::textFont(look::Size::Small)).height();
    return {300_px, std::max<int>(160_px, 2 * kPlotTop + static_cast<int>(std::max(0.0, m_rows - 1)) * row)};
}

int BranchPlot::endOf(int branch) const
{
    const auto line = std::ranges::find(m_lines, branch, &Line::branch);
    return line == m_lines.end() ? 0 : qRound(at(m_nodes[static_cast<size_t>(line->to)]).y());
}

QPointF BranchPlot::at(const Node& node) const
{
    const double across = width() - kPlotLeft - kPlotRight, down = height() - 2 * kPlotTop;
    return {kPlotLeft + (m_long_m > 0 ? node.x_m / m_long_m * across : 0),
            kPlotTop + (m_rows > 1 ? node.row / (m_rows - 1) * down : down / 2)};
}

/// Out of the place, down or up to the row, and along it.
QPainterPath BranchPlot::pathOf(const Line& line) const
{
    const QPointF from = at(m_nodes[static_cast<size_t>(line.from)]), to = at(m_nodes[static_cast<size_t>(line.to)]);
    const double bend = std::min({10.0_px, std::abs(to.y() - from.y()), to.x() - from.x()});
    QPainterPath path(from);
    if (bend >= 1) {
        path.lineTo(from.x(), to.y() > from.y() ? to.y() - bend : to.y() + bend);
        path.quadTo(QPointF(from.x(), to.y()), QPointF(from.x() + bend, to.y()));
    }
    path.lineTo(to);
    return path;
}

void BranchPlot::paintLine(QPainter& p, const Line& line) const
{
    const auto& c = look::colours();
    const bool chosen = line.branch == m_current;
    const double thick = std::max(1.5, line.bundle_m * kPerMetre);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(chosen ? c.accent : c.inkSoft, thick, Qt::SolidLine, Qt::FlatCap, Qt::RoundJoin));
    p.drawPath(pathOf(line));
    const QPointF to = at(m_nodes[static_cast<size_t>(line.to)]), from = at(m_nodes[static_cast<size_t>(line.from)]);
    if (line.wall) {
        const QPointF middle((from.x() + to.x()) / 2, to.y());
        p.setPen(QPen(c.ink, 2));
        p.setBrush(c.paper);
        p.drawRoundedRect(QRectF(middle.x() - 4_px, middle.y() - thick / 2 - 4_px, 8_px, thick + 8_px), 3_px, 3_px);
    }
}

/// Where a place's name stands.
QRectF BranchPlot::nameBox(const Node& node) const
{
    const QFontMetrics metrics(look::textFont(look::Size::Small));
    const QPointF place = at(node);
    const double wide = metrics.horizontalAdvance(node.name) + 4_px, high = metrics.ascent();
    if (node.leaf)
        return {place.x() + 8_px, place.y() - high / 2, wide, high};
    if (place.x() < kPlotLeft + 2)
        return {place.x() - wide - 6_px, place.y() - high / 2, wide, high};
    return {place.x() - wide / 2, place.y() + 6_px, wide, high};
}

/// A stretch's length stands over its end, where no name does.
void BranchPlot::paintLength(QPainter& p, const Line& line, const std::vector<QRectF>& names) const
{
    const QFont font = look::numbers(look::Size::Small);
    const QFontMetrics metrics(font);
    const QPointF to = at(m_nodes[static_cast<size_t>(line.to)]), from = at(m_nodes[static_cast<size_t>(line.from)]);
    const double thick = std::max(1.5, line.bundle_m * kPerMetre), wide = metrics.horizontalAdvance(line.length);
    const QRectF box(to.x() - wide - 5_px, to.y() - thick / 2 - metrics.ascent() - 1, wide, metrics.ascent());
    const bool taken = std::ranges::any_of(names, [&](const QRectF& n) { return n.intersects(box); });
    if (taken || line.wall || to.x() - from.x() < wide + 16_px)
        return;
    p.setFont(font);
    p.setPen(line.branch == m_current ? look::colours().accent : look::colours().inkSoft);
    p.drawText(QPointF(box.left(), box.bottom() - 1), line.length);
}

void BranchPlot::paintNode(QPainter& p, const Node& node, const QRectF& name) const
{
    const auto& c = look::colours();
    const QPointF place = at(node);
    p.setPen(QPen(c.ink, 1.4));
    p.setBrush(c.paper);
    if (node.leaf)
        p.drawRect(QRectF(place.x() - 4_px, place.y() - 4_px, 8_px, 8_px));
    else
        p.drawEllipse(place, 3_px, 3_px);
    if (name.isNull())
        return;
    if (!node.leaf)
        p.fillRect(name, c.paper);
    p.setFont(look::textFont(look::Size::Small));
    p.setPen(c.ink);
    p.drawText(name, Qt::AlignCenter | Qt::TextDontClip, node.name);
}

void BranchPlot::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (const Line& line : m_lines)
        if (line.branch != m_current)
            paintLine(p, line);
    for (const Line& line : m_lines)
        if (line.branch == m_current)
            paintLine(p, line);
    std::vector<QRectF> names; // of two places that are all but one, the first keeps its name
    for (const Node& node : m_nodes) {
        const QRectF box = nameBox(node);
        const bool taken = !node.leaf && std::ranges::any_of(names, [&](const QRectF& n) { return n.intersects(box); });
        names.push_back(taken ? QRectF() : box);
    }
    for (const Line& line : m_lines)
        paintLength(p, line, names);
    for (size_t i = 0; i < m_nodes.size(); ++i)
        paintNode(p, m_nodes[i], names[i]);
    if (hasFocus()) {
        p.setPen(QPen(look::colours().accent, 1, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void BranchPlot::mousePressEvent(QMouseEvent* event)
{
    QPainterPathStroker wide;
    wide.setWidth(14_px);
    for (const Line& line : m_lines)
        if (wide.createStroke(pathOf(line)).contains(event->position()))
            emit picked(line.branch);
}

void BranchPlot::keyPressEvent(QKeyEvent* event)
{
    const auto here = std::ranges::find(m_lines, m_current, &Line::branch);
    const int step = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    const auto to = here - m_lines.begin() + step;
    if (step == 0 || here == m_lines.end())
        QWidget::keyPressEvent(event);
    else if (to >= 0 && to < static_cast<long>(m_lines.size()))
        emit picked(m_lines[static_cast<size_t>(to)].branch);
}

} // namespace vicegrip::app
