#include "core/scaling/transfer.h"

#include "core/electrics/sensor_model.h"
#include "core/harness/resistors.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace vicegrip::scaling {

Transfer::Transfer(parts::Sensor sensor, std::optional<circuit::Sweep> sweep, double fullScale, bool ratiometric)
    : m_sensor(std::move(sensor)),
      m_sweep(std::move(sweep)),
      m_fullScale(fullScale),
      m_ratiometric(ratiometric),
      m_kinks(electrics::kinksOf(m_sensor))
{
}

std::optional<Transfer> Transfer::of(const job::Job& job, const electrics::Electrics& car, const job::Circuit& circuit)
{
    const parts::Sensor* sensor = job::sensorOf(job, circuit);
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
    else if (const job::Resistor* inLoom = parts::needsPullUp(*sensor) ? harness::pullUpOf(job, circuit) : nullptr)
        out.m_pullUp = PullUp{inLoom->ohm, supply_v};
    return out;
}

double Transfer::reading(double value) const
{
    if (!m_sweep)
        return parts::hertzAt(m_sensor, value);
    const circuit::Sweep::Values out = m_sweep->at(electrics::elementValues(m_sensor, value));
    return m_ratiometric && out[1] > 0 ? m_fullScale * out[0] / out[1] : out[0];
}

/// By inverse quadratic interpolation where three places allow it, else by halves (Chandrupatla, "A new hybrid
/// quadratic/bisection algorithm", Advances in Engineering Software 28, 1997).
double Transfer::value(double reading, double low, double high) const
{
    const auto off = [&](double value) { return this->reading(value) - reading; };
    double a = low, b = high, offA = off(a), offB = off(b);
    if (offA * offB > 0)
        return std::abs(offA) < std::abs(offB) ? low : high;
    const double near = 1e-15 * (std::abs(low) + std::abs(high)) + 1e-300;
    double share = 0.5;
    constexpr int kMostSteps = 100;
    for (int i = 0; i < kMostSteps; ++i) {
        const double at = a + share * (b - a), offAt = off(at);
        double c = a, offC = offA;
        if ((offAt > 0) != (offA > 0)) {
            c = b;
            offC = offB;
            b = a;
            offB = offA;
        }
        a = at;
        offA = offAt;
        const double least = near / std::abs(b - a);
        if (offA == 0 || !(least < 0.5))
            return std::abs(offA) < std::abs(offB) ? a : b;
        const double xi = (a - b) / (c - b), phi = (offA - offB) / (offC - offB);
        const bool bent = phi * phi < xi && (1 - phi) * (1 - phi) < 1 - xi;
        share = bent ? offA / (offB - offA) * offC / (offB - offC) +
                           (c - a) / (b - a) * offA / (offC - offA) * offB / (offC - offB)
                     : 0.5;
        share = std::clamp(share, least, 1 - least);
    }
    return std::abs(offA) < std::abs(offB) ? a : b;
}

} // namespace vicegrip::scaling
