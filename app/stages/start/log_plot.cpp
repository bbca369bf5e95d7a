#include "app/stages/start/log_plot.h"

#include "app/widgets/text.h"
#include "core/units/units.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

using log_columns::Quantity;

constexpr look::Px kScale{64}, kRightOfIt{8}, kAboveIt{6}, kBetweenFields{10};

bool isCommand(Quantity q)
{
    return q == Quantity::AskedPressure || q == Quantity::AskedMixture;
}

} // namespace

LogPlot::LogPlot(QWidget* parent) : TimePlot(parent)
{
    setObjectName(QStringLiteral("log-plot"));
    setAccessibleName(tr("The log over time; what it says stands in the list"));
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(300_px, 180_px);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void LogPlot::show(std::shared_ptr<const ReviewedLog> of, const std::vector<size_t>& columns,
                   std::vector<review::Stretch> shaded)
{
    const bool other = !m_of || m_of->read != of->read;
    m_of = std::move(of);
    m_shaded = std::move(shaded);
    m_fields.clear();
    for (const size_t c : columns)
        if (isCommand(m_of->meanings[c].quantity) && !m_fields.empty() && !m_fields.front().command)
            m_fields.front().command = c;
        else if (m_fields.size() < kMostFields)
            m_fields.push_back({c, std::nullopt});
    if (other)
        setExtent(all_s() / 2, all_s());
    QStringList names;
    for (const Field& f : m_fields)
        names << text(m_of->read->log.columns[f.column].name);
    setAccessibleDescription(names.join(QStringLiteral(", ")));
    update();
}

std::vector<size_t> LogPlot::columns() const
{
    std::vector<size_t> out;
    for (const Field& f : m_fields) {
        out.push_back(f.column);
        if (f.command)
            out.push_back(*f.command);
    }
    return out;
}

void LogPlot::goToStretch(const review::Stretch& stretch)
{
    constexpr double kTimes = 3, kLeastShown_s = 4;
    const auto& time = m_of->read->log.time_s;
    const double from = time[stretch.first], to = time[stretch.last];
    const double span = std::clamp(kTimes * (to - from), kLeastShown_s, std::max(kLeastShown_s, all_s()));
    setExtent((from + to) / 2, span);
    goTo(now_s());
}

QRectF LogPlot::field() const
{
    return QRectF(rect()).adjusted(kScale, kAboveIt, -kRightOfIt, -kTimesHigh);
}

double LogPlot::all_s() const
{
    return m_of ? m_of->read->log.seconds() : 0;
}

double LogPlot::least_s() const
{
    constexpr double kLeastShown_s = 0.05;
    return kLeastShown_s;
}

void LogPlot::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const QRectF f = field();
    if (!m_of || m_fields.empty() || f.width() < 20 || f.height() < 20)
        return;
    const auto& c = look::colours();
    const double each =
        (f.height() - kBetweenFields * static_cast<double>(m_fields.size() - 1)) / static_cast<double>(m_fields.size());
    const auto& time = m_of->read->log.time_s;
    for (size_t i = 0; i < m_fields.size(); ++i) {
        const QRectF box(f.left(), f.top() + static_cast<double>(i) * (each + kBetweenFields), f.width(), each);
        p.fillRect(box, c.card);
        p.save();
        p.setClipRect(box);
        for (const review::Stretch& s : m_shaded) {
            const double from = xAt(time[s.first]), to = std::max(from + 2, xAt(time[s.last]));
            p.fillRect(QRectF(from, box.top(), to - from, box.height()), c.failingFill);
        }
        p.restore();
    }
    paintTime(p, f);
    for (size_t i = 0; i < m_fields.size(); ++i)
        paintField(p, QRectF(f.left(), f.top() + static_cast<double>(i) * (each + kBetweenFields), f.width(), each),
                   m_fields[i]);
    paintEvents(p, f);
    paintNow(p, f, height());
}

void LogPlot::paintField(QPainter& p, const QRectF& box, const Field& field) const
{
    const auto& c = look::colours();
    const log::Column& column = m_of->read->log.columns[field.column];
    auto extent = m_of->read->overviews[field.column].all();
    if (field.command) {
        const auto theirs = m_of->read->overviews[*field.command].all();
        extent = {std::min(extent.low, theirs.low), std::max(extent.high, theirs.high)};
    }
    // An end that it comes near is worth seeing.
    const review::Ends& ends = m_of->review.ends[field.column];
    const double moves = std::max(1e-6F, extent.high - extent.low);
    double low = extent.low, high = extent.high;
    if (ends.high && *ends.high > low && *ends.high < high + 0.3 * moves)
        high = std::max(high, *ends.high);
    if (ends.low && *ends.low<high&& * ends.low> low - 0.3 * moves)
        low = std::min(low, *ends.low);
    const double room = 0.1 * std::max(1e-6, high - low);
    low -= room;
    high += room;
    const auto y = [&](double v) { return box.bottom() - box.height() * (v - low) / (high - low); };
    p.setFont(look::numbers(look::Size::Small));
    const double step = stepFor(high - low, box.height() > 120_px ? 4 : box.height() > 60_px ? 2 : 1);
    const int decimals = std::clamp(static_cast<int>(-std::floor(std::log10(step))), 0, 4);
    for (double v = std::ceil(low / step) * step; v <= high; v += step) {
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(box.left(), y(v)), QPointF(box.right(), y(v)));
        p.setPen(c.inkSoft);
        if (y(v) - box.top() > 8_px || box.top() < 20_px)
            p.drawText(QRectF(0, y(v) - 10_px, kScale - 8_px, 20_px), Qt::AlignRight | Qt::AlignVCenter,
                       text(units::formatNumber(std::abs(v) < step / 2 ? 0.0 : v, decimals)));
    }
    p.save();
    p.setClipRect(box);
    p.setPen(QPen(c.failing, 1, Qt::DashLine));
    for (const auto& end : {ends.low, ends.high})
        if (end && *end > low && *end < high)
            p.drawLine(QPointF(box.left(), y(*end)), QPointF(box.right(), y(*end)));
    if (field.command)
        paintColumn(p, box, *field.command, y, c.accent);
    paintColumn(p, box, field.column, y, c.ink);
    p.restore();
    QString said =
        text(column.name) + (column.unit.empty() ? QString() : QStringLiteral(" (%1)").arg(text(column.unit)));
    if (field.command)
        said += QStringLiteral(" · ") + text(m_of->read->log.columns[*field.command].name);
    p.setPen(c.ink);
    p.setFont(look::textFont(look::Size::Small, true));
    const QRectF corner = box.adjusted(6_px, 2_px, -6_px, 0);
    const QRectF label = p.boundingRect(corner, Qt::AlignLeft | Qt::AlignTop, said);
    p.fillRect(label.adjusted(-4_px, 0, 4_px, 0), c.card);
    p.drawText(corner, Qt::AlignLeft | Qt::AlignTop, said);
}

void LogPlot::paintColumn(QPainter& p, const QRectF& box, size_t column, const std::function<double(double)>& y,
                          const QColor& ink) const
{
    const auto& time = m_of->read->log.time_s;
    const auto indexAt = [&](double t) {
        const auto after = static_cast<size_t>(std::ranges::upper_bound(time, t) - time.begin());
        return after == time.size() && t > time.back() ? after : std::max<size_t>(1, after) - 1;
    };
    const auto timeOf = [&](size_t i) { return time[i]; };
    const bool stairs =
        m_of->meanings[column].quantity == Quantity::Consumer || m_of->meanings[column].quantity == Quantity::Gear;
    paintValues(p, box, {m_of->read->values(column), &m_of->read->overviews[column], indexAt, timeOf, stairs}, y, ink);
}

/// What was marked while it was driven, and since.
void LogPlot::paintEvents(QPainter& p, const QRectF& box) const
{
    constexpr int kMostWords = 12;
    const auto& c = look::colours();
    p.setFont(look::textFont(look::Size::Small));
    int words = 0;
    const auto paint = [&](double time_s, const std::string& said, const QColor& ink, Qt::PenStyle line, double y) {
        const double x = xAt(time_s);
        if (x < box.left() || x > box.right())
            return;
        p.setPen(QPen(ink, 1, line));
        p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()));
        if (++words <= kMostWords)
            p.drawText(QRectF(x + 3_px, y, 140_px, 20_px), Qt::AlignLeft | Qt::AlignVCenter, text(said));
    };
    for (const log::Event& e : m_of->read->log.events)
        paint(e.time_s, e.text, c.stale, Qt::DotLine, box.bottom() - 20_px);
    for (const job::LogMark& m : m_of->marks)
        paint(m.at_s, m.words, c.accent, Qt::SolidLine, box.bottom() - 38_px);
}

} // namespace vicegrip::app
