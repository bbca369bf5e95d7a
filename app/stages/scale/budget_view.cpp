#include "app/stages/scale/budget_view.h"

#include "app/stages/scale/budget_plot.h"
#include "app/views/selected.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "core/units/shown.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include <numeric>

namespace vicegrip::app {
namespace {

constexpr look::Px kLeftWidth{290};
constexpr int kBudgetPlaces = 24;

/// A fact subject as a person says it: "wire w12", "the sensor itself".
QString spokenSubject(const std::string& subject, const job::Circuit& circuit)
{
    if (subject.empty())
        return {};
    if (subject == "sensor " + circuit.device.value)
        return BudgetView::tr("the sensor's own tolerance");
    if (subject == "track of " + circuit.device.value)
        return BudgetView::tr("the track's resistance");
    if (subject == "input " + circuit.input.value)
        return BudgetView::tr("resistors inside the input");
    return BudgetView::tr("most of it: %1").arg(text(subject));
}

} // namespace

BudgetView::BudgetView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_place(valueField(desk, tr("At"), "budget-at")),
      m_when(label({}, look::Size::Small, false, true)),
      m_worst(figure({}, look::Size::Big)),
      m_sigma(figure({}, look::Size::Body)),
      m_mixture(figure({}, look::Size::Title)),
      m_how(label({}, look::Size::Small, false, true)),
      m_bars(new BudgetBars),
      m_chart(new BudgetChart)
{
    m_when->setObjectName(QStringLiteral("budget-when"));
    m_worst->setObjectName(QStringLiteral("budget-worst"));
    m_sigma->setObjectName(QStringLiteral("budget-sigma"));
    m_mixture->setObjectName(QStringLiteral("budget-mixture"));
    m_how->setObjectName(QStringLiteral("budget-how"));
    auto* left = new QVBoxLayout;
    left->setSpacing(4_px);
    left->addWidget(label(tr("Measurand"), look::Size::Small, false, true));
    left->addWidget(m_place);
    left->addSpacing(look::kGap);
    left->addWidget(m_when);
    left->addWidget(m_worst);
    left->addWidget(m_sigma);
    left->addSpacing(look::kGap);
    left->addWidget(m_mixture);
    left->addWidget(m_how);
    left->addStretch();
    auto* leftBox = new QWidget;
    leftBox->setLayout(left);
    leftBox->setFixedWidth(kLeftWidth);
    left->setContentsMargins(0, 0, 0, 0);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(look::kMargin);
    upper->addWidget(leftBox);
    upper->addWidget(m_bars, 1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->addLayout(upper);
    column->addWidget(label(tr("over the range: each part alone, stacked; the line is all of them at once"),
                            look::Size::Small, false, true));
    column->addWidget(m_chart, 1);
    handFocus(this, m_chart);
    connect(m_chart, &BudgetChart::chosen, this, &BudgetView::showAt);
    connect(m_place, &TypedField::entered, this, [this](const QString& typed) {
        const job::Circuit* c = selectedCircuit(m_desk);
        const parts::Part* s = selectedSensor(m_desk);
        if (s == nullptr)
            return;
        if (const auto value = units::parseShown(typed.toStdString(), s->measures, s->unit)) {
            if (*value < c->scaling.low || *value > c->scaling.high)
                m_place->refuse(tr("outside the table's range"));
            else {
                showAt(*value);
                refresh();
            }
        }
    });
}

void BudgetView::nothing(const QString& why)
{
    m_bars->clear();
    m_chart->clear();
    m_charted = {};
    for (QLabel* l : {m_worst, m_sigma, m_mixture})
        l->clear();
    m_how->setText(why);
}

/// A budget is of an engine that turns: it runs, but where the header has the starter on.
job::Condition BudgetView::turning() const
{
    const job::Condition now = m_desk.selection.condition();
    return job::engineTurns(now) ? now : job::Condition::Running;
}

void BudgetView::refresh()
{
    m_when->setText(turning() == job::Condition::Cranking ? tr("everything at its worst together, cranking")
                                                          : tr("everything at its worst together, running"));
    m_analysis = m_desk.store.analysis();
    const job::Circuit* circuit = job::find(*m_analysis->job, m_desk.selection.circuit());
    const auto* view = analysis::find(*m_analysis, m_desk.selection.circuit());
    const parts::Part* sensor = circuit == nullptr ? nullptr : job::sensorOf(*m_analysis->job, *circuit);
    if (circuit == nullptr || view == nullptr || sensor == nullptr || !view->table) {
        nothing(view == nullptr ? tr("Choose a circuit on the left.")
                                : tr("No table, no budget: %1.").arg(text(view->tableTrouble)));
        return;
    }
    const auto& spec = circuit->scaling;
    const auto [it, added] = m_at.try_emplace(circuit->id, std::midpoint(spec.low, spec.high));
    it->second = std::clamp(it->second, spec.low, spec.high);
    if (m_charted != circuit->id)
        m_chart->clear();
    m_range.ask([analysis = m_analysis, id = circuit->id, turning = turning()] {
        const auto& table = *analysis::find(*analysis, id)->table;
        const job::Circuit& of = *job::find(*analysis->job, id);
        return OverRange{analysis, id, turning, scaling::budgetOver(*analysis->job, of, table, kBudgetPlaces, turning)};
    });
    showAt(it->second);
}

void BudgetView::showRange(const OverRange& over)
{
    if (over.analysis != m_analysis || over.circuit != m_desk.selection.circuit() || over.turning != turning())
        return; // another is on its way
    const job::Circuit& circuit = *job::find(*over.analysis->job, over.circuit);
    m_charted = over.circuit;
    m_chart->show(over.budgets, *job::sensorOf(*over.analysis->job, circuit), m_at.at(over.circuit));
}

void BudgetView::showAt(double value)
{
    const job::Circuit* circuit = m_analysis ? job::find(*m_analysis->job, m_desk.selection.circuit()) : nullptr;
    const auto* view = m_analysis ? analysis::find(*m_analysis, m_desk.selection.circuit()) : nullptr;
    if (circuit == nullptr || view == nullptr || !view->table)
        return;
    const parts::Part& sensor = *job::sensorOf(*m_analysis->job, *circuit);
    m_at[circuit->id] = value;
    m_place->setText(
        text(units::format(value, sensor.measures, sensor.unit, sensor.measures == units::Dimension::Lambda ? 3 : 1)));
    m_atPlace.ask([analysis = m_analysis, id = circuit->id, value, turning = turning()] {
        return budgetPlace(analysis, id, value, turning);
    });
}

void BudgetView::showPlace(const BudgetPlace& at)
{
    if (at.analysis != m_analysis || at.circuit != m_desk.selection.circuit() || m_at[at.circuit] != at.value ||
        at.turning != turning())
        return; // another is on its way
    const job::Circuit* circuit = job::find(*at.analysis->job, at.circuit);
    const parts::Part& sensor = *job::sensorOf(*at.analysis->job, *circuit);
    const auto& budget = at.budget;
    if (!budget) {
        m_bars->clear();
        for (QLabel* l : {m_worst, m_sigma, m_mixture})
            l->clear();
        m_how->setText(text(budget.error().sentence));
        return;
    }
    m_worst->setText(errorText(sensor, budget->worst));
    m_sigma->setText(tr("one sigma %1").arg(errorText(sensor, budget->sigma)));
    m_mixture->setVisible(budget->mixture.has_value());
    if (budget->mixture) {
        m_mixture->setText(tr("%1 fuel").arg(
            QStringLiteral("± %1 %").arg(text(units::formatNumber(budget->mixture->worst * 100, 1)))));
        m_how->setText(tr("λ %1 to %2 where 1.00 is meant: %3")
                           .arg(text(units::formatNumber(budget->mixture->richest(), 3)),
                                text(units::formatNumber(budget->mixture->leanest(), 3)), text(budget->mixture->how)));
    } else {
        m_mixture->clear();
        m_how->setText(
            tr("This sensor is no part of the air calculation: its error does not move the mixture directly."));
    }
    QStringList most;
    for (const auto& line : budget->lines)
        most << spokenSubject(line.most, *circuit);
    m_bars->show(*budget, sensor, most);
}

} // namespace vicegrip::app
