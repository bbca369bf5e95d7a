#include "app/stages/scale/budget_plot.h"

#include "app/desk/desk.h"
#include "app/look/look.h"
#include "app/widgets/circuit_text.h"
#include "core/units/shown.h"

#include <QFontMetrics>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace vicegrip::app {
namespace {

constexpr look::Px kName{150}, kNumber{112}, kBudgetRow{40}, kBudgetBar{14};
constexpr look::Px kAxisLeft{82}, kAxisBelow{24}, kTop{8};

/// Parts differ in pattern as well as in tone.
QBrush brushOf(size_t part)
{
    const auto& c = look::colours();
    const std::array<QBrush, scaling::kBudgetParts> brushes = {
        QBrush(c.accent),  QBrush(c.ink, Qt::BDiagPattern), QBrush(c.accent, Qt::Dense4Pattern),
        QBrush(c.inkSoft), QBrush(c.ink, Qt::CrossPattern), QBrush(c.inkSoft, Qt::Dense5Pattern)};
    return brushes.at(part);
}

double differenceOf(const parts::Part& s, double si)
{
    return units::differenceToShown(si, s.measures, s.unit);
}

void drawSwatch(QPainter& painter, const QRect& r, size_t part)
{
    painter.fillRect(r, look::colours().card);
    painter.fillRect(r, brushOf(part));
}

} // namespace

BudgetBars::BudgetBars(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("budget-bars"));
    setAccessibleName(tr("What the error is made of"));
    setMinimumSize(380_px, kBudgetRow * static_cast<int>(scaling::kBudgetParts));
}

void BudgetBars::show(const scaling::Budget& budget, const parts::Part& sensor, const QStringList& spoken)
{
    m_rows.clear();
    double widest = 0;
    for (const auto& line : budget.lines)
        widest = std::max(widest, line.worst);
    QStringList told;
    for (size_t i = 0; i < budget.lines.size(); ++i) {
        const auto& line = budget.lines[i];
        m_rows.push_back({said(scaling::partName(line.part)), errorText(sensor, line.worst),
                          spoken.value(static_cast<int>(i)), widest > 0 ? line.worst / widest : 0,
                          widest > 0 ? line.sigma / widest : 0});
        told << m_rows.back().name + QLatin1Char(' ') + m_rows.back().worst;
    }
    setAccessibleDescription(told.join(QStringLiteral(", ")));
    update();
}

void BudgetBars::clear()
{
    m_rows.clear();
    setAccessibleDescription({});
    update();
}

void BudgetBars::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const auto& c = look::colours();
    const int room = width() - kName - kNumber;
    for (size_t i = 0; i < m_rows.size(); ++i) {
        const Row& row = m_rows[i];
        const int y = static_cast<int>(i) * kBudgetRow;
        painter.setFont(look::textFont(look::Size::Body));
        painter.setPen(c.ink);
        painter.drawText(QRect(0, y, kName, 22_px), Qt::AlignLeft | Qt::AlignVCenter, row.name);
        painter.setFont(look::numbers(look::Size::Body));
        painter.drawText(QRect(width() - kNumber, y, kNumber, 22_px), Qt::AlignRight | Qt::AlignVCenter, row.worst);
        const QRect bar(kName, y + 4_px, std::max(1, qRound((room - 12_px) * row.share)), kBudgetBar);
        drawSwatch(painter, bar, i);
        painter.setPen(QPen(c.ink, 1));
        painter.drawRect(bar.adjusted(0, 0, -1, -1));
        const int sigma = kName + qRound((room - 12_px) * row.sigma);
        painter.setPen(QPen(c.ink, 2));
        painter.drawLine(sigma, y + 1, sigma, y + kBudgetBar + 7_px);
        painter.setFont(look::textFont(look::Size::Small));
        painter.setPen(c.inkSoft);
        painter.drawText(QRect(kName, y + 20_px, width() - kName, 18_px), Qt::AlignLeft | Qt::AlignVCenter,
                         QFontMetrics(painter.font()).elidedText(row.most, Qt::ElideRight, width() - kName));
    }
}

BudgetChart::BudgetChart(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("budget-chart"));
    setAccessibleName(tr("Worst case over the range; Left and Right choose a place"));
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(300_px, 130_px);
}

void BudgetChart::show(std::vector<scaling::Budget> budgets, const parts::Part& sensor, double chosen)
{
    m_budgets = std::move(budgets);
    m_sensor = sensor;
    const auto nearest =
        std::ranges::min_element(m_budgets, {}, [&](const scaling::Budget& b) { return std::abs(b.value - chosen); });
    m_chosen = nearest == m_budgets.end() ? -1 : static_cast<int>(nearest - m_budgets.begin());
    const auto worst = std::ranges::max_element(m_budgets, {}, &scaling::Budget::worst);
    setAccessibleDescription(worst == m_budgets.end()
                                 ? QString()
                                 : tr("most, %1, at %2")
                                       .arg(errorText(sensor, worst->worst),
                                            text(units::format(worst->value, sensor.measures, sensor.unit, 1))));
    update();
}

void BudgetChart::clear()
{
    m_budgets.clear();
    m_chosen = -1;
    update();
}

QRect BudgetChart::field() const
{
    return rect().adjusted(kAxisLeft, kTop, -6_px, -kAxisBelow);
}

void BudgetChart::paintEvent(QPaintEvent*)
{
    if (m_budgets.empty())
        return;
    QPainter painter(this);
    const auto& c = look::colours();
    const QRect f = field();
    // The parts one by one may stand higher than all of them at once, or lower.
    double most = 0;
    for (const scaling::Budget& b : m_budgets) {
        double stacked = 0;
        for (const scaling::BudgetLine& line : b.lines)
            stacked += line.worst;
        most = std::max({most, b.worst, stacked});
    }
    painter.setFont(look::numbers(look::Size::Small));
    for (const double share : {0.0, 0.5, 1.0}) {
        const int y = f.bottom() - qRound(f.height() * share * 0.96);
        painter.setPen(QPen(share > 0 ? c.line : c.inkSoft, 1));
        painter.drawLine(f.left(), y, f.right(), y);
        painter.setPen(c.ink);
        const double shown = differenceOf(m_sensor, most * share);
        painter.drawText(QRect(0, y - 10_px, kAxisLeft - 8_px, 20_px), Qt::AlignRight | Qt::AlignVCenter,
                         text(units::formatNumber(shown, shown >= 10 || shown == 0 ? 0
                                                         : shown >= 1              ? 1
                                                                                   : 3)) +
                             (share > 0 ? QLatin1Char(' ') + shownUnit(m_sensor) : QString()));
    }
    const double step = static_cast<double>(f.width()) / static_cast<double>(m_budgets.size());
    for (size_t i = 0; i < m_budgets.size(); ++i) {
        const int left = f.left() + qRound(step * static_cast<double>(i)) + 1,
                  right = f.left() + qRound(step * static_cast<double>(i + 1)) - 1;
        double below = 0;
        for (size_t part = 0; part < scaling::kBudgetParts; ++part) {
            const double worst = m_budgets[i].lines[part].worst;
            const int from = f.bottom() - qRound(f.height() * 0.96 * below / most),
                      to = f.bottom() - qRound(f.height() * 0.96 * (below + worst) / most);
            drawSwatch(painter, QRect(QPoint(left, to), QPoint(right, from - 1)), part);
            below += worst;
        }
        const int together = f.bottom() - qRound(f.height() * 0.96 * m_budgets[i].worst / most);
        painter.setPen(QPen(c.ink, 2));
        painter.drawLine(left, together, right, together);
        if (static_cast<int>(i) == m_chosen) {
            painter.setPen(QPen(c.accent, 2));
            painter.setBrush(Qt::NoBrush);
            painter.drawRect(QRect(QPoint(left - 1, f.top()), QPoint(right + 1, f.bottom())));
        }
    }
    painter.setPen(c.ink);
    const auto at = [&](const scaling::Budget& b) {
        return text(units::format(b.value, m_sensor.measures, m_sensor.unit,
                                  b.value > 0 && m_sensor.measures == units::Dimension::Lambda ? 2 : 0));
    };
    const QRect axis(f.left(), f.bottom() + 4_px, f.width(), kAxisBelow - 4_px);
    painter.drawText(axis, Qt::AlignLeft | Qt::AlignVCenter, at(m_budgets.front()));
    painter.drawText(axis, Qt::AlignHCenter | Qt::AlignVCenter, at(m_budgets[m_budgets.size() / 2]));
    painter.drawText(axis, Qt::AlignRight | Qt::AlignVCenter, at(m_budgets.back()));
    if (hasFocus()) {
        painter.setPen(QPen(c.accent, 1, Qt::DotLine));
        painter.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void BudgetChart::choose(int column)
{
    if (m_budgets.empty())
        return;
    m_chosen = std::clamp(column, 0, static_cast<int>(m_budgets.size()) - 1);
    update();
    emit chosen(m_budgets[static_cast<size_t>(m_chosen)].value);
}

void BudgetChart::mousePressEvent(QMouseEvent* event)
{
    const QRect f = field();
    if (!m_budgets.empty() && f.width() > 0)
        choose(
            static_cast<int>((event->position().x() - f.left()) / f.width() * static_cast<double>(m_budgets.size())));
}

void BudgetChart::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Left || event->key() == Qt::Key_Right)
        choose(m_chosen + (event->key() == Qt::Key_Left ? -1 : 1));
    else
        QWidget::keyPressEvent(event);
}

} // namespace vicegrip::app
