#include "app/stages/scale/points_panel.h"

#include "app/look/look.h"
#include "app/stages/scale/gain_bars.h"
#include "app/widgets/circuit_text.h"
#include "app/widgets/labels.h"
#include "app/widgets/selected.h"
#include "core/scaling/coefficients.h"
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

constexpr int kWidth = 170, kRowHeight = 24, kOrderListWidth = 190;
constexpr int kCounts = -1; ///< beside the degrees of a polynomial, and 0 for Steinhart-Hart
constexpr int kMostOffered = 6; ///< degree of a polynomial: ECUs that take one take few terms

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
      m_form(new QComboBox),
      m_unit(new QComboBox),
      m_order(new QComboBox),
      m_table(new QTableWidget(0, 2)),
      m_gain(new GainBars),
      m_worst(label({}, look::Size::Small, false, true)),
      m_limits(label({}, look::Size::Small))
{
    build();
    connect(m_form, &QComboBox::activated, this, [this] {
        showForm();
        emit formChanged();
    });
    connect(new QShortcut(QKeySequence(QKeySequence::Copy), m_table, nullptr, nullptr, Qt::WidgetShortcut),
            &QShortcut::activated, this, &PointsPanel::copy);
}

void PointsPanel::build()
{
    setFixedWidth(kWidth);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    m_form->setObjectName(QStringLiteral("table-form"));
    m_form->setAccessibleName(tr("What the ECU takes: points, or a formula"));
    m_form->setFont(look::words(look::Size::Small));
    m_form->addItem(tr("as points"));
    m_form->addItem(tr("as points, in counts"), kCounts);
    m_form->addItem(tr("as offset and slope"), 1);
    for (int degree = 2; degree <= kMostOffered; ++degree)
        m_form->addItem(tr("as polynomial, degree %1").arg(degree), degree);
    m_form->addItem(tr("as Steinhart-Hart"), 0);
    column->addWidget(m_form);
    addWritten(column);
    m_table->setObjectName(QStringLiteral("points-table"));
    m_table->setAccessibleName(tr("Table for the ECU"));
    m_table->setShowGrid(false);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setTabKeyNavigation(false);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(kRowHeight);
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->horizontalHeader()->setHighlightSections(false);
    m_table->horizontalHeader()->setFont(look::words(look::Size::Small));
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
    both->setSpacing(4);
    for (const auto& [box, letters] : {std::pair(m_unit, 3), {m_order, 5}}) {
        box->setFont(look::words(look::Size::Small));
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(letters);
        both->addWidget(box, letters);
    }
    m_order->view()->setMinimumWidth(kOrderListWidth);
    column->addLayout(both);
    connect(m_unit, &QComboBox::activated, this, [this] {
        const std::string unit = m_unit->currentText().toStdString();
        change(tr("Table in %1").arg(m_unit->currentText()), [&](job::ScalingSpec& spec, const parts::Sensor& sensor) {
            spec.unit = unit == sensor.unit ? std::string() : unit;
        });
    });
    connect(m_order, &QComboBox::activated, this, [this](int index) {
        change(tr("Order of the ECU's table"), [&](job::ScalingSpec& spec, const parts::Sensor&) {
            spec.valueFirst = index >= 2;
            spec.falling = index % 2 == 1;
        });
    });
}

void PointsPanel::change(const QString& what,
                         const std::function<void(job::ScalingSpec&, const parts::Sensor&)>& change)
{
    const job::Circuit* c = selectedCircuit(m_desk);
    if (c == nullptr)
        return;
    const job::CircuitId id = c->id;
    (void)m_desk.store.edit(what, [&](job::Job& job) {
        job::Circuit& circuit = *job::find(job, id);
        change(circuit.scaling, *job::sensorOf(job, circuit));
    });
}

void PointsPanel::clear(const QString& sentence, bool bad)
{
    m_view.reset();
    m_copy.clear();
    m_formula = {};
    m_table->setRowCount(0);
    m_gain->clear();
    m_worst->setText(sentence);
    setInk(m_worst, bad ? look::colours().failing : look::colours().inkSoft);
    m_limits->clear();
    for (QComboBox* box : {m_form, m_unit, m_order})
        box->setEnabled(false);
}

void PointsPanel::show(const std::shared_ptr<const job::Job>& job, const analysis::CircuitView& view,
                       const job::Circuit& circuit, const parts::Sensor& sensor)
{
    if (!view.table) {
        clear(tr("No table: %1.").arg(text(view.tableTrouble)), true);
        return;
    }
    if (!m_view || m_view->id != view.id)
        m_form->setCurrentIndex(0);
    m_job = job;
    m_view = view;
    m_form->setEnabled(!circuit.stops);
    m_unit->setEnabled(true);
    m_order->setEnabled(true);
    m_unit->clear();
    const QString unit = text(scaling::unitOf(sensor, circuit.scaling));
    m_unit->addItems(unitsOffered(sensor.measures, unit));
    m_unit->setCurrentText(unit);
    m_order->setCurrentIndex((circuit.scaling.valueFirst ? 2 : 0) + (circuit.scaling.falling ? 1 : 0));
    const bool thermistor = std::holds_alternative<parts::Thermistor>(sensor.model);
    if (m_form->findData(0) < 0 && thermistor)
        m_form->addItem(tr("as Steinhart-Hart"), 0);
    if (m_form->findData(0) >= 0 && !thermistor)
        m_form->removeItem(m_form->findData(0));
    showForm();
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

std::optional<int> PointsPanel::chosenDegree() const
{
    const QVariant form = m_form->currentData();
    return !form.isValid() || form.toInt() == kCounts ? std::nullopt : std::optional(form.toInt());
}

void PointsPanel::showForm()
{
    chosenDegree() ? showCoefficients() : showPoints();
}

void PointsPanel::fill(const std::vector<std::pair<QString, QString>>& rows, const QString& left, const QString& right)
{
    // A coefficient has many digits, and its name one or two.
    m_table->horizontalHeader()->setSectionResizeMode(0, !chosenDegree() ? QHeaderView::Stretch
                                                                         : QHeaderView::ResizeToContents);
    m_table->setHorizontalHeaderLabels({left, right});
    m_table->setRowCount(static_cast<int>(rows.size()));
    for (int i = 0; i < m_table->rowCount(); ++i) {
        const auto& [first, second] = rows[static_cast<size_t>(i)];
        int column = 0;
        for (const QString& cell : {first, second}) {
            auto* item = new QTableWidgetItem(cell);
            item->setFont(look::numbers(look::Size::Small));
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            m_table->setItem(i, column++, item);
        }
    }
}

void PointsPanel::showPoints()
{
    m_formula = {};
    if (!m_view)
        return;
    const job::Circuit& circuit = *job::find(*m_job, m_view->id);
    const parts::Sensor& sensor = *job::sensorOf(*m_job, circuit);
    const scaling::Table& table = *m_view->table;
    const parts::EcuInput& input = *job::findInput(*m_job, circuit.input);
    const bool counts = m_form->currentData() == QVariant(kCounts) && table.axis == units::Dimension::Voltage;
    const scaling::Table written =
        counts ? scaling::inCounts(table, electrics::fullScaleVolts(*m_job, input) / input.fullScale()) : table;
    std::vector<std::pair<QString, QString>> rows;
    for (const auto& row : scaling::rowsOf(written, sensor, circuit.scaling))
        rows.emplace_back(text(row[0]), text(row[1]));
    const auto headings = scaling::headings(written, circuit.scaling);
    fill(rows, text(headings[0]), text(headings[1]));
    m_copy = scaling::toColumns(written, sensor, circuit.scaling);
    m_gain->show(table, sensor, circuit.scaling.knots != job::Knots::Even);
    m_worst->setText(tr("Worst at %1 (%2)")
                         .arg(text(units::format(table.worstAt, sensor.measures, sensor.unit,
                                                 std::min(3, scaling::decimalsOf(circuit.scaling.outputStep)))),
                              text(scaling::readingText(table.worstAtReading, table.axis))));
    setInk(m_worst, look::colours().inkSoft);
}

void PointsPanel::showCoefficients()
{
    if (!m_view)
        return;
    const job::Circuit& circuit = *job::find(*m_job, m_view->id);
    const parts::Sensor& sensor = *job::sensorOf(*m_job, circuit);
    m_gain->clear();
    m_formula = {};
    const auto car = electrics::build(*m_job, {.surroundings = m_job->surroundings});
    const auto transfer = car ? scaling::Transfer::of(*m_job, *car, circuit) : std::nullopt;
    const int degree = *chosenDegree();
    const auto found =
        transfer
            ? scaling::coefficientsOf(degree == 0 ? scaling::Form::SteinhartHart : scaling::Form::Polynomial, degree,
                                      *transfer, sensor, *job::findInput(*m_job, circuit.input), circuit.scaling)
            : fail(ErrorCode::Reference, "the sensor is on no ECU input");
    if (!found) {
        fill({}, {}, {});
        m_copy.clear();
        m_worst->setText(text(found.error().sentence));
        setInk(m_worst, look::colours().failing);
        return;
    }
    m_copy = scaling::toLines(*found);
    m_formula = found->shows;
    std::vector<std::pair<QString, QString>> rows;
    const QStringList lines = text(m_copy).split(QLatin1Char('\n'), Qt::SkipEmptyParts);
    for (const QString& line : lines)
        rows.emplace_back(line.section(QLatin1Char('\t'), 0, 0), line.section(QLatin1Char('\t'), 1));
    fill(rows, tr("of"), tr("coefficient"));
    m_worst->setText(tr("%1\nWorst error %2. %3")
                         .arg(text(found->formula), errorText(sensor, found->worst), text(found->needs))
                         .trimmed());
    setInk(m_worst, look::colours().inkSoft);
}

void PointsPanel::copy()
{
    if (m_copy.empty())
        return;
    QApplication::clipboard()->setText(text(m_copy));
    emit copied(!chosenDegree() ? tr("The table is on the clipboard, as two columns.")
                                : tr("The coefficients are on the clipboard."));
}

} // namespace vicegrip::app
