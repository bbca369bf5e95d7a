#include "core/scaling/transfer.h"

#include "core/base/root.h"
#include "core/electrics/sensor_model.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace vicegrip::scaling {

Transfer::Transfer(parts::Part sensor, std::optional<circuit::Sweep> sweep, double fullScale, bool ratiometric)
    : m_sensor(std::move(sensor)),
      m_sweep(std::move(sweep)),
      m_fullScale(fullScale),
      m_ratiometric(ratiometric),
      m_kinks(parts::kinksOf(m_sensor))
{
}

std::optional<Transfer> Transfer::of(const job::Job& job, const electrics::Electrics& car, const job::Circuit& circuit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    const auto it = car.circuits.find(circuit.id);
    if (sensor == nullptr || input == nullptr || it == car.circuits.end() || !it->second.input)
        return std::nullopt;
    if (parts::countsValue(*sensor))
        return Transfer(*sensor, std::nullopt,
                        input->most_hz > 0 ? input->most_hz : std::numeric_limits<double>::infinity(), false);
    if (parts::signalOf(*sensor) != parts::SignalKind::Voltage)
        return std::nullopt;
    const auto& nodes = *it->second.input;
    const electrics::UnitNodes& unit = car.units[nodes.unit];
    circuit::Sweep sweep(car.solution, it->second.varied, {{nodes.converter, unit.ground}, {unit.supply, unit.ground}});
    Transfer out(*sensor, sweep, electrics::fullScaleVolts(job, *input),
                 input->reference == parts::Reference::Ratiometric);
    out.m_countStep = electrics::countVolts(job, *input);
    const double supply_v = job::unitOf(job, input->id)->supply.volts;
    if (input->pull_up_ohm)
        out.m_pullUp = PullUp{*input->pull_up_ohm, supply_v};
    else if (it->second.pullUp_ohm)
        out.m_pullUp = PullUp{*it->second.pullUp_ohm, supply_v};
    return out;
}

double Transfer::reading(double value) const
{
    if (!m_sweep)
        return parts::hertzAt(m_sensor, value);
    const circuit::Sweep::Values out = m_sweep->at(parts::elementValues(m_sensor, value));
    return m_ratiometric && out[1] > 0 ? m_fullScale * out[0] / out[1] : out[0];
}

double Transfer::value(double reading, double low, double high) const
{
    return rootBetween([&](double value) { return this->reading(value) - reading; }, low, high);
}

std::vector<CurvePoint> curve(const Transfer& transfer, double low, double high)
{
    constexpr int kPoints = 256;
    std::vector<CurvePoint> out;
    for (int i = 0; i <= kPoints; ++i) {
        const double value = std::lerp(low, high, static_cast<double>(i) / kPoints);
        out.push_back({value, transfer.reading(value)});
    }
    return out;
}

} // namespace vicegrip::scaling
