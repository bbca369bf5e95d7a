#include "app/widgets/circuit_text.h"

#include "app/widgets/text.h"
#include "core/electrics/wiring.h"
#include "core/units/shown.h"

namespace vicegrip::app {
namespace {

using units::Dimension;

QString span(double low, double high)
{
    return text(units::formatNumber(low, 1)) + QStringLiteral("–") +
           text(units::format(high, Dimension::Voltage, "V", 1));
}

} // namespace

QString signalText(const job::Job& job, const job::Circuit& circuit)
{
    const parts::Sensor* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (sensor == nullptr)
        return QString();
    QString out;
    if (std::holds_alternative<parts::Thermistor>(sensor->model))
        out = QStringLiteral("thermistor");
    else if (std::holds_alternative<parts::Potentiometer>(sensor->model))
        out = QStringLiteral("potentiometer");
    else if (const auto* r = std::get_if<parts::RatiometricTransducer>(&sensor->model))
        out = span(r->low_v, r->high_v) + QStringLiteral(" transducer");
    else if (const auto* d = std::get_if<parts::VoltageDevice>(&sensor->model))
        out = span(d->low_v, d->high_v) + QStringLiteral(" device");
    else if (std::holds_alternative<parts::Resistive>(sensor->model))
        out = QStringLiteral("resistive sensor");
    else if (std::holds_alternative<parts::OpenCollector>(sensor->model))
        out = QStringLiteral("open collector");
    else if (std::holds_alternative<parts::VariableReluctance>(sensor->model))
        out = QStringLiteral("coil");
    else if (std::holds_alternative<parts::Contact>(sensor->model))
        out = QStringLiteral("switch");
    if (const job::Resistor* fitted = electrics::Wiring(job).pullUp(circuit))
        out += QStringLiteral(", ") + text(units::formatOhms(fitted->ohm)) + QStringLiteral(" fitted");
    else if (input != nullptr && input->pull_up_ohm)
        out += QStringLiteral(" on ") + text(units::formatOhms(*input->pull_up_ohm)) + QStringLiteral(" pull-up");
    return out;
}

QString conditionText(const job::Job& job, job::Condition condition)
{
    const QString ambient = text(units::format(job.surroundings.ambient_k, Dimension::Temperature, "°C", 0));
    if (condition == job::Condition::BatteryOff)
        return QStringLiteral("battery off, ") + ambient;
    return QStringLiteral("key on, ") + ambient + QStringLiteral(", ") +
           text(units::format(job.surroundings.barometer_pa, Dimension::AbsolutePressure, "kPa", 1));
}

QString wireBetween(const job::Job& job, const job::PointRef& a, const job::PointRef& b)
{
    for (const job::Wire& w : job.wires)
        if ((w.from == a && w.to == b) || (w.from == b && w.to == a))
            return text(w.colour);
    return {};
}

QString wireAt(const job::Job& job, const job::PointRef& point)
{
    for (const job::Wire& w : job.wires)
        if (w.from == point || w.to == point)
            return text(w.colour);
    return {};
}

QString shownUnit(const parts::Sensor& sensor)
{
    return text(units::shownUnit(sensor.measures, sensor.unit));
}

QString shownHeading(const parts::Sensor& sensor)
{
    return text(units::shownHeading(sensor.measures, sensor.unit));
}

QString errorText(const parts::Sensor& sensor, double si)
{
    const double shown = units::differenceToUnit(si, sensor.measures, sensor.unit);
    const int decimals = shown >= 10 ? 1 : shown >= 0.1 ? 2 : 3;
    return QStringLiteral("± ") + text(units::formatDifference(si, sensor.measures, sensor.unit, decimals));
}

int inputIndex(const job::Job& job, const job::CircuitId& circuit)
{
    const job::Circuit* c = job::find(job, circuit);
    return c == nullptr ? -1 : job::inputIndex(job, c->input).value_or(-1);
}

QString voltsText(double v, int decimals)
{
    return text(units::format(v, units::Dimension::Voltage, "V", decimals));
}

QString percentText(double share, int decimals)
{
    return text(units::format(share, units::Dimension::Ratio, "%", decimals));
}

} // namespace vicegrip::app
