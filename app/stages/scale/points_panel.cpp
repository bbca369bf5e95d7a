#include "app/stages/scale/points_panel.h"

#include "app/look/look.h"
#include "app/stages/scale/gain_bars.h"
#include "app/views/selected.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/labels.h"
#include "core/scaling/exchange.h"

#include <QAbstractItemView>
#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QHeaderView>
#include <QShortcut>
#include <QTableWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <map>

namespace vicegrip::app {
namespace {

constexpr look::Px kPanelWidth{170}, kPointRow{24}, kAroundHeading{12}, kBarBeside{18}, kOrderListWidth{190};
constexpr int kMostOffered = 6; ///< degree of a polynomial: ECUs that take one take few terms

/// An entry's datum: what is taken, and a polynomial's degree.
constexpr int kDegrees = 100;
int codeOf(job::Takes takes, int degree)
{
    return static_cast<int>(takes) * kDegrees + (takes == job::Takes::Polynomial ? degree : 0);
}

/// Units that ECUs have such a value in.
QStringList unitsOffered(units::Dimension dimension, const QString& held)
{
    static const std::map<units::Dimension, QStringList> kUnits = {
        {units::Dimension::Temperature, {QStringLiteral("°C"), QStringLiteral("°F"), QStringLiteral("K")}},
        {units::Dimension::AbsolutePressure, {QStringLiteral("kPa"), QStringLiteral("bar"), QStringLiteral("psi")}},
        {units::Dimension::GaugePressure, {QStringLiteral("bar"), QStringLiteral("kPa"), QStringLiteral("psi")}},
        {units::Dimension::Speed, {QStringLiteral("km/h"), QStringLiteral("mph")}},
        {units::Dimension::MassFlow, {QStringLiteral("kg/h"), QStringLiteral("g/s")}}};
    const auto found = kUnits.find(dimension);
    QStringList out = found == kUnits.end() ? QStringList() : found->second;
    if (!out.contains(held))
        out.prepend(held);
    return out;
}

} // namespace

PointsPanel::PointsPanel(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_takes(new QComboBox),
      m_unit(new QComboBox),
      m_order(new QComboBox),
      m_table(new QTableWidget(0, 2)),
      m_gain(new GainBars),
      m_worst(label({}, look::Size::Small, false, true)),
      m_limits(label({}, look::Size::Small))
{
    build();
    connect(m_takes, &QComboBox::activated, this, [this] {
        const int code = m_takes->currentData().toInt();
        change(tr("Scaling %1").arg(m_takes->currentText()), [&](job::ScalingSpec& spec, const parts::Part&) {
            spec.takes = static_cast<job::Takes>(code / kDegrees);
            spec.degree = std::max(1, code % kDegrees); // a file keeps it of a polynomial alone
        });
    });
    connect(new QShortcut(QKeySequence(QKeySequence::Copy), m_table, nullptr, nullptr, Qt::WidgetShortcut),
            &QShortcut::activated, this, &PointsPanel::copy);
}

void PointsPanel::build()
{
    setFixedWidth(kPanelWidth);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    m_takes->setObjectName(QStringLiteral("table-form"));
    m_takes->setAccessibleName(tr("What the ECU takes: points, or a formula"));
    m_takes->setFont(look::textFont(look::Size::Small));
    column->addWidget(m_takes);
    addWritten(column);
    m_table->setObjectName(QStringLiteral("points-table"));
    m_table->setAccessibleName(tr("Table for the ECU"));
    m_table->setShowGrid(false);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setTabKeyNavigation(false);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(kPointRow);
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->horizontalHeader()->setHighlightSections(false);
    m_table->horizontalHeader()->setFont(look::textFont(look::Size::Small));
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    column->addWidget(m_table, 1);
    column->addWidget(m_gain);
    m_worst->setObjectName(QStringLiteral("worst-error"));
    m_limits->setObjectName(QStringLiteral("fault-limits"));
    column->addWidget(m_worst);
    column->addWidget(m_limits);
}

/// How the ECU has its table: the unit of the values, and the order of columns and rows.
void PointsPanel::addWritten(QVBoxLayout* column)
{
    m_unit->setObjectName(QStringLiteral("ecu-unit"));
    m_unit->setAccessibleName(tr("The ECU's unit of the value"));
    m_order->setObjectName(QStringLiteral("ecu-order"));
    m_order->setAccessibleName(tr("Order of the ECU's columns and rows"));
    m_order->addItems({tr("rising"), tr("falling"), tr("value first"), tr("value first, falling")});
    auto* both = new QHBoxLayout;
    both->setSpacing(4_px);
    for (const auto& [box, letters] : {std::pair(m_unit, 3), {m_order, 5}}) {
        box->setFont(look::textFont(look::Size::Small));
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(letters);
        both->addWidget(box, letters);
    }
    m_order->view()->setMinimumWidth(kOrderListWidth);
    column->addLayout(both);
    connect(m_unit, &QComboBox::activated, this, [this] {
        const std::string unit = m_unit->currentText().toStdString();
        change(tr("Table in %1").arg(m_unit->currentText()), [&](job::ScalingSpec& spec, const parts::Part& sensor) {
            spec.unit = unit == sensor.unit ? std::string() : unit;
        });
    });
    connect(m_order, &QComboBox::activated, this, [this](int index) {
        change(tr("Order of the ECU's table"), [&](job::ScalingSpec& spec, const parts::Part&) {
            spec.valueFirst = index >= 2;
            spec.falling = index % 2 == 1;
        });
    });
}

void PointsPanel::change(const QString& what, const std::function<void(job::ScalingSpec&, const parts::Part&)>& change)
{
    const job::Circuit* c = selectedCircuit(m_desk);
    if (c == nullptr)
        return;
    const job::CircuitId id = c->id;
    m_desk.store.editOrSay(what, [&](job::Job& job) {
        job::Circuit& circuit = *job::find(job, id);
        change(circuit.scaling, *job::sensorOf(job, circuit));
    });
}

void PointsPanel::clear(const QString& sentence, bool bad)
{
    m_copy.clear();
    m_table->setRowCount(0);
    m_gain->clear();
    m_worst->setText(sentence);
    setInk(m_worst, bad ? look::colours().failing : look::colours().inkSoft);
    m_limits->clear();
    for (QComboBox* box : {m_takes, m_unit, m_order})
        box->setEnabled(false);
}

void PointsPanel::show(const job::Job& job, const proof::CircuitView& view, const job::Circuit& circuit,
                       const parts::Part& sensor)
{
    showTaken(circuit.scaling, sensor);
    if (!view.table) {
        clear(tr("No table: %1.").arg(text(view.tableTrouble)), true);
        m_takes->setEnabled(circuit.scaling.asFormula()); // another form may do
        return;
    }
    m_takes->setEnabled(!circuit.limits); // calibrated limits are two points
    if (circuit.limits && circuit.scaling.asFormula())
        m_takes->setCurrentIndex(0);
    m_unit->setEnabled(true);
    m_unit->clear();
    const QString unit = text(scaling::unitOf(sensor, circuit.scaling));
    m_unit->addItems(unitsOffered(sensor.measures, unit));
    m_unit->setCurrentText(unit);
    m_order->setEnabled(!view.table->formula);
    m_order->setCurrentIndex((circuit.scaling.valueFirst ? 2 : 0) + (circuit.scaling.falling ? 1 : 0));
    const scaling::Table taken = scaling::asTaken(*view.table, job, circuit);
    fill(taken, sensor, circuit.scaling);
    m_copy = scaling::toColumns(taken, sensor, circuit.scaling);
    sayWorst(*view.table, sensor, circuit.scaling);
    QStringList limits;
    const auto reading = [&](double r) { return text(scaling::readingText(r, view.table->axis)); };
    if (view.thresholds.below)
        limits << tr("below %1").arg(reading(*view.thresholds.below));
    if (view.thresholds.above)
        limits << tr("above %1").arg(reading(*view.thresholds.above));
    m_limits->setText(limits.isEmpty() ? tr("No reading tells a fault: the range takes all of it.")
                                       : tr("Failed: %1").arg(limits.join(tr(" or "))));
    m_limits->setToolTip(tr("Beyond these no value in range puts the input: an open, a short, another sensor."));
}

/// What can be taken of such a sensor, and what is.
void PointsPanel::showTaken(const job::ScalingSpec& spec, const parts::Part& sensor)
{
    const auto offer = [&](const QString& name, job::Takes takes, int degree = 0) {
        m_takes->addItem(name, codeOf(takes, degree));
    };
    m_takes->clear();
    offer(tr("as points"), job::Takes::Points);
    if (scaling::axisOf(sensor) == units::Dimension::Voltage)
        offer(tr("as points, in counts"), job::Takes::Counts);
    offer(tr("as offset and slope"), job::Takes::Polynomial, 1);
    for (int degree = 2; degree <= std::max(kMostOffered, spec.degree); ++degree)
        offer(tr("as polynomial, degree %1").arg(degree), job::Takes::Polynomial, degree);
    if (parts::curveOf(sensor) != nullptr || spec.takes == job::Takes::SteinhartHart)
        offer(tr("as Steinhart-Hart"), job::Takes::SteinhartHart);
    m_takes->setCurrentIndex(std::max(0, m_takes->findData(codeOf(spec.takes, spec.degree))));
}

void PointsPanel::fill(const scaling::Table& table, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    const auto rows = scaling::rowsOf(table, sensor, spec);
    const auto headings = scaling::headings(table, spec);
    // A coefficient has many digits, and its name one or two.
    m_table->horizontalHeader()->setSectionResizeMode(0, table.formula ? QHeaderView::ResizeToContents
                                                                       : QHeaderView::Stretch);
    m_table->setHorizontalHeaderLabels({text(headings[0]), text(headings[1])});
    const QFontMetrics letters(m_table->horizontalHeader()->font());
    const int heading =
        std::max(letters.horizontalAdvance(text(headings[0])), letters.horizontalAdvance(text(headings[1])));
    setFixedWidth(std::max<int>(kPanelWidth, 2 * (heading + kAroundHeading) + kBarBeside));
    m_table->setRowCount(static_cast<int>(rows.size()));
    for (int i = 0; i < m_table->rowCount(); ++i) {
        int column = 0;
        for (const std::string& cell : rows[static_cast<size_t>(i)]) {
            auto* item = new QTableWidgetItem(text(cell));
            item->setFont(look::numbers(look::Size::Small));
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            m_table->setItem(i, column++, item);
        }
    }
}

void PointsPanel::sayWorst(const scaling::Table& table, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    setInk(m_worst, look::colours().inkSoft);
    if (table.formula) {
        m_gain->clear();
        m_worst->setText(tr("%1\nWorst error %2. %3")
                             .arg(text(scaling::formulaText(*table.formula)), errorText(sensor, table.worstError),
                                  text(scaling::needsOf(*table.formula)))
                             .trimmed());
        return;
    }
    m_gain->show(table, sensor, spec.breakpoints != job::Breakpoints::Even);
    const QString placed = table.leastThereIs ? tr("\nProved: no placing on the curve is better by more than 2 %.")
                           : spec.breakpoints == job::Breakpoints::Best || spec.breakpoints == job::Breakpoints::Free
                               ? tr("\nThe best found, not proved.")
                               : QString();
    m_worst->setText(tr("Worst at %1 (%2)")
                         .arg(text(units::format(table.worstAt, sensor.measures, sensor.unit,
                                                 std::min(3, scaling::decimalsOf(spec.outputStep)))),
                              text(scaling::readingText(table.worstAtReading, table.axis))) +
                     placed);
}

void PointsPanel::copy()
{
    if (m_copy.empty())
        return;
    QApplication::clipboard()->setText(text(m_copy));
    emit copied(tr("What the ECU takes is on the clipboard, as two columns."));
}

} // namespace vicegrip::app
