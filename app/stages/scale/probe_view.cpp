#include "app/stages/scale/probe_view.h"

#include "app/stages/scale/budget_place.h"
#include "app/views/selected.h"
#include "app/widgets/caution.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/typed_field.h"
#include "app/widgets/value_row.h"

#include <QGridLayout>
#include <QLineEdit>
#include <QVBoxLayout>

#include <cmath>

namespace vicegrip::app {
namespace {

using thermocouple::Hookup;
using units::Dimension;

constexpr look::Px kFieldsWidth{300};
constexpr double kIce_k = 273.15;
constexpr double kBathTolerance_k = 2; ///< of a stirred bath and of a probe's own class (typical)

QString degrees(double kelvin)
{
    return text(units::format(kelvin, Dimension::Temperature, "°C", 1));
}

QString nameOf(Hookup hookup)
{
    switch (hookup) {
    case Hookup::Right:
        return ProbeView::tr("wired right");
    case Hookup::Reversed:
        return ProbeView::tr("its wires exchanged");
    case Hookup::ReversedTwice:
        return ProbeView::tr("extension turned round");
    case Hookup::Copper:
        return ProbeView::tr("copper from the joint on");
    case Hookup::Bridged:
        break;
    }
    return ProbeView::tr("shorted before the tip");
}

} // namespace

ProbeView::ProbeView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_verdict(label({}, look::Size::Title, true)),
      m_bath(label({}, look::Size::Body)),
      m_table(new ListTable("probe-hookups", tr("What each way of wiring the probe shows"),
                            {{tr("If it is"), 0, false}, {tr("it shows"), 86, true}, {tr("and here"), 84, false}})),
      m_caution(new Caution)
{
    m_verdict->setObjectName(QStringLiteral("probe-verdict"));
    m_bath->setObjectName(QStringLiteral("probe-bath"));
    m_caution->setObjectName(QStringLiteral("probe-caution"));
    m_caution->setText(tr("Boiling water scalds: a tray under it, gloves, nobody beneath. Let the exhaust cool before "
                          "the probe comes out."));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(look::kGap);
    grid->setColumnStretch(1, 1);
    const auto field = [&](const QString& name, const char* objectName, std::optional<double> ProbeView::*into) {
        return addValueRow(grid, name, objectName, readsValue(Dimension::Temperature, "°C", 233.15, 1573.15), degrees,
                           [this, into](double kelvin) {
                               this->*into = kelvin;
                               askTolerance();
                           });
    };
    m_tip = field(tr("The bath has"), "probe-tip", &ProbeView::m_tip_k);
    m_joint = field(tr("Where the probe's wires end"), "probe-joint", &ProbeView::m_joint_k);
    m_box = field(tr("At the conditioner"), "probe-box", &ProbeView::m_box_k);
    m_shown = field(tr("The ECU shows"), "probe-shown", &ProbeView::m_typed_k);
    auto* left = new QVBoxLayout;
    left->addLayout(grid);
    left->addWidget(m_bath);
    left->addStretch();
    auto* leftBox = new QWidget;
    leftBox->setLayout(left);
    leftBox->setFixedWidth(kFieldsWidth);
    left->setContentsMargins(0, 0, 0, 0);
    auto* right = new QVBoxLayout;
    right->addWidget(m_verdict);
    right->addWidget(m_table, 1);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(look::kMargin);
    columns->addWidget(leftBox);
    columns->addLayout(right, 1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->addLayout(columns, 1);
    column->addWidget(m_caution);
}

void ProbeView::refresh()
{
    const auto job = m_desk.store.job();
    const job::Circuit* c = selectedCircuit(m_desk);
    if (c != nullptr && c->id != m_circuit) { // what was typed was another probe's
        m_circuit = c->id;
        m_typed_k.reset();
        m_shown->setText({});
    }
    const double ambient = job->surroundings.ambient_k;
    const auto boiling = thermocouple::boilingPoint_k(job->surroundings.barometer_pa);
    m_bath->setText(tr("Ice and water, stirred: %1. Boiling water here, at %2: %3.")
                        .arg(degrees(kIce_k),
                             text(units::format(job->surroundings.barometer_pa, Dimension::AbsolutePressure, "kPa", 1)),
                             boiling ? degrees(*boiling) : tr("not known")));
    if (!m_tip_k && boiling)
        m_tip_k = *boiling;
    for (const auto& [field, held] : {std::pair(m_tip, &m_tip_k), {m_joint, &m_joint_k}, {m_box, &m_box_k}}) {
        if (!*held)
            *held = ambient;
        field->setText(degrees(**held));
    }
    askTolerance();
}

std::optional<double> ProbeView::shownNow() const
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const auto sample = c == nullptr ? std::nullopt : m_desk.live.sample(inputIndex(*m_desk.store.job(), c->id));
    const auto* view = c == nullptr ? nullptr : analysis::find(*m_desk.store.analysis(), c->id);
    if (sample && sample->value && view != nullptr && view->table)
        return sample->value;
    return m_typed_k;
}

void ProbeView::askTolerance()
{
    m_worked.ask([analysis = m_desk.store.analysis(), id = m_desk.selection.circuit(), tip_k = m_tip_k] {
        if (!tip_k)
            return kBathTolerance_k;
        const auto budget = budgetPlace(analysis, id, *tip_k).budget;
        return kBathTolerance_k + (budget ? budget->worst : 0);
    });
}

void ProbeView::judge()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const auto* view = c == nullptr ? nullptr : analysis::find(*m_desk.store.analysis(), c->id);
    if (view == nullptr || !m_tip_k || !m_joint_k || !m_box_k)
        return;
    const thermocouple::ProbePlace place{*m_tip_k, *m_joint_k, *m_box_k, c->scaling.low, c->scaling.high};
    const auto shown = shownNow();
    std::vector<QStringList> rows;
    for (Hookup h : {Hookup::Right, Hookup::Reversed, Hookup::ReversedTwice, Hookup::Copper, Hookup::Bridged}) {
        const double would = thermocouple::shownBy(h, place);
        const bool here = shown && std::abs(would - *shown) <= m_tolerance_k;
        rows.push_back({nameOf(h), degrees(would), !shown ? QString() : here ? tr("✓ now") : QStringLiteral("·")});
    }
    m_table->fill(rows);
    const auto hookup = shown ? thermocouple::hookupOf(*shown, place, m_tolerance_k) : std::nullopt;
    m_verdict->setText(
        !shown   ? tr("Hold the tip in a bath of known temperature, and read what the ECU shows.")
        : hookup ? text(thermocouple::hookupSentence(*hookup))
                 : tr("%1 fits none of these alone, within ± %2: warm the tip well above the "
                      "conditioner, or look at the conditioner's own line.")
                       .arg(degrees(*shown),
                            text(units::formatDifference(m_tolerance_k, Dimension::TemperatureDifference, "K", 1))));
    setInk(m_verdict, !shown                    ? look::colours().inkSoft
                      : hookup == Hookup::Right ? look::colours().done
                                                : look::colours().failing);
}

void ProbeView::refreshLive()
{
    const job::Circuit* c = selectedCircuit(m_desk);
    const auto sample = c == nullptr ? std::nullopt : m_desk.live.sample(inputIndex(*m_desk.store.job(), c->id));
    const bool live = sample && sample->value;
    m_shown->setEnabled(!live);
    if (live)
        m_shown->setText(degrees(shownNow().value_or(0)));
    judge();
}

} // namespace vicegrip::app
