#include "app/stages/scale/circuit_form.h"

#include "app/desk/part_library.h"
#include "app/views/selected.h"
#include "app/widgets/labels.h"
#include "app/widgets/typed_field.h"
#include "core/base/phrase.h"
#include "core/harness/edits.h"
#include "core/scaling/table.h"
#include "core/units/shown.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLineEdit>
#include <QRegularExpression>

#include <algorithm>
#include <cmath>
#include <utility>

namespace vicegrip::app {
namespace {

using units::Dimension;

constexpr int kNoPullUp = 0;

bool saysNone(const QString& typed)
{
    const QString plain = typed.trimmed().toLower();
    return plain == QLatin1String("none") || plain == QLatin1String("off") || plain == QLatin1String("no");
}

/// "0 0.5 1 2 4.75": readings of the input between blanks or semicolons.
Result<std::vector<double>> readingsTyped(const QString& typed, Dimension axis)
{
    static const QRegularExpression kBetween(QStringLiteral("[\\s;]+"));
    std::vector<double> out;
    for (const QString& one : typed.split(kBetween, Qt::SkipEmptyParts)) {
        const auto reading = units::parse(one.toStdString(), axis, scaling::readingUnit(axis));
        if (!reading)
            return tl::make_unexpected(reading.error());
        if (!out.empty() && *reading <= out.back())
            return fail(ErrorCode::Range, phrase("{} does not rise above the one before it", one.toStdString()));
        out.push_back(*reading);
    }
    if (out.size() < 2 || out.size() > 200)
        return fail(ErrorCode::Range, phrase("expected 2 to 200 readings, rising, such as 0 0.5 1 2 4.5"));
    return out;
}

} // namespace

CircuitForm::CircuitForm(Desk& desk, QWidget* parent)
    : QWidget(parent), m_desk(desk), m_sensor(new QComboBox), m_breakpoints(new QComboBox)
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(look::kGap);
    grid->setVerticalSpacing(3_px);
    grid->setColumnStretch(1, 1);
    m_sensor->setObjectName(QStringLiteral("sensor"));
    m_sensor->setAccessibleName(tr("Sensor"));
    m_sensor->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_sensor->setMinimumContentsLength(16);
    m_sensor->setFont(look::textFont(look::Size::Small));
    grid->addWidget(m_sensor, 0, 0, 1, 2);
    connect(m_sensor, &QComboBox::activated, this, &CircuitForm::chooseSensor);
    addPullUp(grid);
    addTable(grid);
    grid->setRowStretch(grid->rowCount(), 1);
}

TypedField* CircuitForm::add(QGridLayout* grid, const QString& name, const char* objectName,
                             const std::function<Result<double>(const QString&)>& read,
                             const std::function<QString(double)>& say, Set set)
{
    const int row = grid->rowCount();
    auto* caption = label(name, look::Size::Small, false, true);
    caption->setWordWrap(false);
    grid->addWidget(caption, row, 0, Qt::AlignTop);
    caption->setContentsMargins(0, 7_px, 0, 0);
    auto* field = new TypedField(
        name, [read, say](const QString& typed) { return read(typed).map([&](double v) { return say(v); }); });
    field->edit()->setObjectName(QLatin1String(objectName));
    grid->addWidget(field, row, 1);
    connect(field, &TypedField::entered, this,
            [this, field, name, read, say, set = std::move(set)](const QString& typed) {
                const job::Circuit* c = selectedCircuit(m_desk);
                const auto value = read(typed);
                if (c != nullptr && value)
                    edit(field, tr("%1 of %2 to %3").arg(name, text(c->name), say(*value)),
                         [&](job::Job& job) { set(job, *value); });
            });
    return field;
}

void CircuitForm::addPullUp(QGridLayout* grid)
{
    m_pullUp = add(
        grid, tr("Pull-up"), "pull-up",
        [](const QString& typed) -> Result<double> {
            if (saysNone(typed))
                return kNoPullUp;
            return units::parse(typed.toStdString(), Dimension::Resistance, "Ω")
                .and_then([](double ohms) -> Result<double> {
                    if (ohms < 10)
                        return fail(ErrorCode::Range,
                                    phrase("a pull-up below 10 Ω would load the supply: expected 2k49, 1k or none"));
                    return ohms;
                });
        },
        [](double ohms) { return ohms == kNoPullUp ? tr("none") : text(units::formatOhms(ohms)); },
        [this](job::Job& job, double ohms) {
            if (auto* input = job::findInput(job, job::find(job, m_desk.selection.circuit())->input))
                input->pull_up_ohm = ohms == kNoPullUp ? std::nullopt : std::optional(ohms);
        });
}

void CircuitForm::addTable(QGridLayout* grid)
{
    const auto scalingOf = [this](job::Job& job) -> job::ScalingSpec& {
        return job::find(job, m_desk.selection.circuit())->scaling;
    };
    const auto readValue = [this](const QString& typed) -> Result<double> {
        const parts::Part* s = selectedSensor(m_desk);
        return s == nullptr ? Result<double>(0) : units::parseShown(typed.toStdString(), s->measures, s->unit);
    };
    const auto sayValue = [this](double si) {
        const parts::Part* s = selectedSensor(m_desk);
        return s == nullptr ? QString()
                            : text(units::format(si, s->measures, s->unit, s->measures == Dimension::Lambda ? 3 : 1));
    };
    m_low = add(grid, tr("From"), "range-low", readValue, sayValue,
                [=](job::Job& job, double v) { scalingOf(job).low = v; });
    m_high = add(grid, tr("To"), "range-high", readValue, sayValue,
                 [=](job::Job& job, double v) { scalingOf(job).high = v; });
    m_points = add(
        grid, tr("Points"), "points",
        [](const QString& typed) {
            return units::parse(typed.toStdString(), Dimension::Counts).and_then([](double n) -> Result<double> {
                if (n != std::round(n) || n < 2 || n > 200)
                    return fail(ErrorCode::Range, phrase("expected a whole number of points from 2 to 200"));
                return n;
            });
        },
        [](double n) { return QString::number(n); },
        [=](job::Job& job, double n) { scalingOf(job).points = static_cast<int>(n); });
    addBreakpoints(grid);
    // A step has the unit of the value but not its zero: 0.1 °C is a tenth of a degree.
    m_outputStep = add(
        grid, tr("Value step"), "output-step",
        [this](const QString& typed) { return differenceTyped(typed, ecuUnit()); },
        [this](double step) { return text(units::shortest(step)) + QLatin1Char(' ') + ecuUnit(); },
        [=](job::Job& job, double step) { scalingOf(job).outputStep = step; });
    m_inputStep = add(
        grid, tr("Input step"), "input-step",
        [this](const QString& typed) {
            const Dimension axis = axisOfSelected();
            return units::parse(typed.toStdString(), axis, scaling::readingUnit(axis))
                .and_then([axis](double step) -> Result<double> {
                    if (axis == Dimension::Voltage && (step < 0 || step > 1))
                        return fail(ErrorCode::Range,
                                    phrase("expected a step from 0 V to 1 V, such as 0.01 V or 5 mV"));
                    if (step < 0 || step > 1000)
                        return fail(ErrorCode::Range, phrase("expected a step from 0 Hz to 1000 Hz, such as 0.1 Hz"));
                    return step;
                });
        },
        [this](double step) {
            return text(units::shortest(step)) + QLatin1Char(' ') + text(scaling::readingUnit(axisOfSelected()));
        },
        [=](job::Job& job, double v) { scalingOf(job).inputStep = v; });
}

/// Where the points lie: evenly, chosen, or where the ECU has them.
void CircuitForm::addBreakpoints(QGridLayout* grid)
{
    const int row = grid->rowCount();
    auto* caption = label(tr("Placed"), look::Size::Small, false, true);
    caption->setWordWrap(false);
    grid->addWidget(caption, row, 0);
    m_breakpoints->setObjectName(QStringLiteral("breakpoints"));
    m_breakpoints->setAccessibleName(tr("How the points are placed"));
    m_breakpoints->setFont(look::textFont(look::Size::Small));
    m_breakpoints->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_breakpoints->setMinimumContentsLength(10);
    m_breakpoints->addItems({tr("evenly"), tr("by the ECU"), tr("best, on the curve"), tr("best, beside it too")});
    grid->addWidget(m_breakpoints, row, 1);
    connect(m_breakpoints, &QComboBox::activated, this, &CircuitForm::chooseBreakpoints);

    m_fixed = new TypedField(tr("The ECU's own points"), [this](const QString& typed) {
        return readingsTyped(typed, axisOfSelected()).map([](const std::vector<double>& readings) {
            return tr("%1 points").arg(readings.size());
        });
    });
    m_fixed->edit()->setObjectName(QStringLiteral("fixed-readings"));
    grid->addWidget(m_fixed, row + 1, 0, 1, 2);
    connect(m_fixed, &TypedField::entered, this, [this](const QString& typed) {
        const job::Circuit* c = selectedCircuit(m_desk);
        const auto readings = readingsTyped(typed, axisOfSelected());
        if (c != nullptr && readings)
            edit(m_fixed, tr("The ECU's points of %1").arg(text(c->name)), [&](job::Job& job) {
                job::ScalingSpec& spec = job::find(job, m_desk.selection.circuit())->scaling;
                spec.fixed = *readings;
                spec.points = static_cast<int>(readings->size());
            });
    });
}

QString CircuitForm::ecuUnit() const
{
    const parts::Part* s = selectedSensor(m_desk);
    return s == nullptr ? QString() : text(scaling::unitOf(*s, selectedCircuit(m_desk)->scaling));
}

void CircuitForm::chooseBreakpoints(int index)
{
    const job::Circuit* c = selectedCircuit(m_desk);
    if (c == nullptr)
        return;
    const auto breakpoints = static_cast<job::Breakpoints>(index);
    edit(nullptr, tr("Points of %1 placed %2").arg(text(c->name), m_breakpoints->itemText(index)), [&](job::Job& job) {
        job::ScalingSpec& spec = job::find(job, m_desk.selection.circuit())->scaling;
        spec.breakpoints = breakpoints;
        const double last = axisOfSelected() == Dimension::Frequency ? 10000 : 5;
        if (breakpoints == job::Breakpoints::Fixed &&
            spec.fixed.empty()) // begin with ten even ones, to be written over
            for (int i = 0; i <= 10; ++i)
                spec.fixed.push_back(i * last / 10);
        if (breakpoints == job::Breakpoints::Fixed)
            spec.points = static_cast<int>(spec.fixed.size());
    });
}

void CircuitForm::refresh()
{
    const auto job = m_desk.store.job();
    const job::Circuit* c = selectedCircuit(m_desk);
    const parts::Part* s = selectedSensor(m_desk);
    setEnabled(c != nullptr && s != nullptr);
    if (c == nullptr || s == nullptr)
        return;
    offerSensors();
    const parts::EcuInput* input = job::findInput(*job, c->input);
    m_pullUp->setText(input != nullptr && input->pull_up_ohm ? text(units::formatOhms(*input->pull_up_ohm))
                                                             : tr("none"));
    const auto value = [&](double si) {
        return text(units::format(si, s->measures, s->unit, s->measures == Dimension::Lambda ? 3 : 1));
    };
    m_low->setText(value(c->scaling.low));
    m_high->setText(value(c->scaling.high));
    m_points->setText(QString::number(c->scaling.points));
    m_breakpoints->setCurrentIndex(static_cast<int>(c->scaling.breakpoints));
    const bool fixed = c->scaling.breakpoints == job::Breakpoints::Fixed, formula = c->scaling.asFormula();
    m_points->setEnabled(!fixed && !formula); // a formula has no points to place
    for (QWidget* field : std::initializer_list<QWidget*>{m_breakpoints, m_fixed, m_inputStep})
        field->setEnabled(!formula);
    m_fixed->setVisible(fixed);
    QStringList fixedAt;
    for (const double reading : c->scaling.fixed)
        fixedAt << text(units::shortest(reading));
    m_fixed->setText(fixedAt.join(QLatin1Char(' ')));
    m_outputStep->setText(text(units::shortest(c->scaling.outputStep)) + QLatin1Char(' ') + ecuUnit());
    m_inputStep->setText(text(units::shortest(c->scaling.inputStep)) + QLatin1Char(' ') +
                         text(scaling::readingUnit(scaling::axisOf(*s))));
}

/// Volts, or Hz where the input counts.
Dimension CircuitForm::axisOfSelected() const
{
    const parts::Part* s = selectedSensor(m_desk);
    return s == nullptr ? Dimension::Voltage : scaling::axisOf(*s);
}

/// Sensors of one kind, or with the same pins, can stand in for each other where they measure the same thing.
void CircuitForm::offerSensors()
{
    const parts::Part& fitted = *selectedSensor(m_desk);
    m_sensor->clear();
    m_sensor->addItem(text(fitted.name), text(fitted.id.value));
    for (const parts::Part& s : library().parts)
        if (s.id != fitted.id && !parts::isDriven(s) && s.measures == fitted.measures &&
            (s.kind == fitted.kind || s.pins == fitted.pins))
            m_sensor->addItem(text(s.name), text(s.id.value));
    m_sensor->setCurrentIndex(0);
    m_sensor->setToolTip(text(fitted.name));
}

void CircuitForm::chooseSensor(int index)
{
    const parts::PartId id{m_sensor->itemData(index).toString().toStdString()};
    const job::Circuit* c = selectedCircuit(m_desk);
    for (const parts::Part& s : library().parts) {
        if (s.id != id || c == nullptr)
            continue;
        edit(nullptr, tr("Sensor of %1 to %2").arg(text(c->name), text(s.name)), [&](job::Job& job) {
            return harness::setSensor(job, c->id, s).map([&] { harness::proposeFaces(job, library().layouts); });
        });
        return;
    }
}

void CircuitForm::edit(TypedField* field, const QString& description, const Change& change)
{
    if (field == nullptr)
        m_desk.store.editOrSay(description, change);
    else if (const auto done = m_desk.store.edit(description, change); !done)
        field->refuse(QString::fromStdString(done.error().sentence));
}

} // namespace vicegrip::app
