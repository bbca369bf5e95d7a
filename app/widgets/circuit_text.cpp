#include "app/widgets/circuit_text.h"

#include "app/widgets/text.h"
#include "core/bus/bus.h"
#include "core/electrics/wiring.h"
#include "core/scaling/budget.h"
#include "core/seating/compatibility.h"
#include "core/units/shown.h"

#include <QCoreApplication>

#include <algorithm>

namespace vicegrip::app {
namespace {

using units::Dimension;

QString tr(const char* words)
{
    return QCoreApplication::translate("CircuitText", words);
}

} // namespace

QString signalText(const job::Job& job, const job::Circuit& circuit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (const parts::Part* part = job::actuatorOf(job, circuit)) {
        QStringList asks;
        for (const std::string& each : seating::demands(*part))
            asks << text(each);
        return asks.join(QStringLiteral(", "));
    }
    if (sensor == nullptr)
        return QString();
    const QString what = text(parts::kindWords(*sensor));
    if (const job::Resistor* fitted = electrics::Wiring(job).pullUp(circuit))
        return tr("%1, %2 fitted").arg(what, text(units::formatOhms(fitted->ohm)));
    if (input != nullptr && input->pull_up_ohm)
        return tr("%1 on %2 pull-up").arg(what, text(units::formatOhms(*input->pull_up_ohm)));
    return what;
}

QString busText(const job::Job& job, const job::Circuit& circuit)
{
    const parts::Part* part = job::actuatorOf(job, circuit);
    if (part == nullptr || !parts::isOnBus(*part))
        return {};
    for (const bus::Bus& line : bus::buses(job))
        if (std::ranges::find(line.nodes, circuit.id, &bus::Node::circuit) != line.nodes.end())
            return text(bus::orderText(line));
    return {};
}

QString conditionText(const job::Job& job, job::Condition condition)
{
    const QString ambient = text(units::format(job.surroundings.ambient_k, Dimension::Temperature, "°C", 0));
    const QString name = text(job::conditionWords(condition));
    if (condition == job::Condition::Running)
        return tr("%1, %2 at the battery").arg(name, voltsText(job.battery.charging_v, 1));
    if (condition != job::Condition::KeyOn)
        return tr("%1, %2").arg(name, ambient);
    return tr("%1, %2, %3")
        .arg(name, ambient, text(units::format(job.surroundings.barometer_pa, Dimension::AbsolutePressure, "kPa", 1)));
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

QString shownUnit(const parts::Part& sensor)
{
    return text(units::shownUnit(sensor.measures, sensor.unit));
}

QString shownHeading(const parts::Part& sensor)
{
    return text(units::shownHeading(sensor.measures, sensor.unit));
}

QString errorText(const parts::Part& sensor, double si)
{
    return text(scaling::errorText(sensor, si));
}

int inputIndex(const job::Job& job, const job::CircuitId& circuit)
{
    const job::Circuit* c = job::find(job, circuit);
    return c == nullptr ? -1 : job::inputIndex(job, c->input).value_or(-1);
}

QString dueOrDash(const proof::Expectation& e)
{
    const QString due = text(proof::dueText(e));
    return due.isEmpty() ? QStringLiteral("–") : due;
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
