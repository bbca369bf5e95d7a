#include "core/electrics/electrics.h"

#include "core/electrics/readings.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::electrics {
namespace {

PulseLevels levelsAt(const Electrics& car, const CircuitElements& of, const parts::PulseOutput& output,
                     circuit::Node plus, circuit::Node minus)
{
    const circuit::Sweep sweep(car.solution, of.varied, {{plus, minus}});
    const auto at = [&](double ohms) { return sweep.at(std::array{ohms})[0]; };
    return {at(output.off_ohm), at(of.powered ? output.on_ohm : output.off_ohm)};
}

} // namespace

std::optional<PulseLevels> pulseLevels(const Electrics& car, const job::Circuit& circuit,
                                       const parts::PulseOutput& output)
{
    const auto it = car.circuits.find(circuit.id);
    if (it == car.circuits.end() || !it->second.input || it->second.varied.empty() ||
        !car.units[it->second.input->unit].powered)
        return std::nullopt;
    return levelsAt(car, it->second, output, it->second.input->converter, car.units[it->second.input->unit].ground);
}

std::optional<PulseLevels> pulseLevels(const Electrics& car, const job::Circuit& circuit,
                                       const parts::PulseOutput& output, const job::PointRef& red,
                                       const job::PointRef& black)
{
    const auto it = car.circuits.find(circuit.id);
    const auto plus = car.node(red), minus = car.node(black);
    if (it == car.circuits.end() || it->second.varied.empty() || !plus || !minus)
        return std::nullopt;
    return levelsAt(car, it->second, output, *plus, *minus);
}

double fullScaleVolts(const job::Job& job, const parts::EcuInput& input)
{
    const parts::Ecu* unit = job::unitOf(job, input.id);
    return input.reference == parts::Reference::Ratiometric && unit != nullptr ? unit->supply.volts : input.span_v;
}

double countVolts(const job::Job& job, const parts::EcuInput& input)
{
    return fullScaleVolts(job, input) / input.fullScale();
}

bool Electrics::reads(const job::Job& job, const job::Circuit& circuit) const
{
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    const auto it = circuits.find(circuit.id);
    if (input == nullptr || it == circuits.end() || !it->second.input)
        return false;
    const UnitNodes& unit = units[it->second.input->unit];
    return unit.powered &&
           (input->reference != parts::Reference::Ratiometric || solution.volts(unit.supply, unit.ground) > 0);
}

std::optional<circuit::Node> Electrics::node(const job::PointRef& point) const
{
    const auto it = nodes.find(point);
    return it == nodes.end() ? std::nullopt : std::optional(it->second);
}

std::optional<Bounded> Electrics::voltmeter(const job::PointRef& red, const job::PointRef& black,
                                            const job::Meter& meter) const
{
    return Readings(*this).voltmeters({{red, black}}, meter).front();
}

std::optional<Bounded> Electrics::ohmmeter(const job::PointRef& red, const job::PointRef& black) const
{
    return Readings(*this).ohmmeters({{red, black}}).front();
}

std::optional<Bounded> Electrics::inputVolts(const job::Job& job, const job::Circuit& circuit) const
{
    return Readings(*this).inputVolts(job, circuit);
}

namespace {

double currentThrough(const circuit::Solution& solution, circuit::ElementIndex resistor)
{
    const circuit::Element& e = solution.network().element(resistor);
    return solution.volts(e.a, e.b) / std::max(e.value, circuit::kLeastOhms);
}

} // namespace

double Electrics::wireCurrent(const job::WireId& wire) const
{
    const auto it = wires.find(wire);
    return it == wires.end() ? 0 : currentThrough(solution, it->second);
}

double Electrics::supplyCurrent(size_t unit) const
{
    return unit >= units.size() ? 0 : currentThrough(solution, units[unit].supplySeries);
}

} // namespace vicegrip::electrics
