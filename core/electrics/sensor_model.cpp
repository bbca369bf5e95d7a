#include "core/electrics/sensor_model.h"

#include <cmath>

namespace vicegrip::electrics {
parts::ElementValues elementSlopes(const parts::Part& sensor, double x)
{
    const double step = 1e-5 * (sensor.high - sensor.low);
    parts::ElementValues slopes = parts::elementValues(sensor, x + step);
    const parts::ElementValues below = parts::elementValues(sensor, x - step);
    for (size_t i = 0; i < slopes.size(); ++i)
        slopes[i] = (slopes[i] - below[i]) / (2 * step);
    return slopes;
}

parts::ElementValues elementSecants(const parts::Part& sensor, double x, double tolerance)
{
    if (!(tolerance > 0))
        return elementSlopes(sensor, x);
    const parts::ElementValues here = parts::elementValues(sensor, x);
    parts::ElementValues most{};
    double farthest = -1;
    for (const double step : {tolerance, -tolerance}) {
        const parts::ElementValues there = parts::elementValues(sensor, x + step);
        parts::ElementValues secant{};
        double moved = 0;
        for (size_t i = 0; i < here.size(); ++i) {
            secant[i] = (there[i] - here[i]) / step;
            moved += std::abs(there[i] - here[i]);
        }
        if (moved > farthest) {
            farthest = moved;
            most = secant;
        }
    }
    return most;
}

Measurand atRest(const job::Circuit& circuit, const job::Surroundings& surroundings)
{
    const auto around = [](double value, double tolerance) {
        return Measurand{value, value - tolerance, value + tolerance};
    };
    switch (circuit.rest.kind) {
    case job::RestKind::Ambient:
        return around(surroundings.ambient_k, surroundings.ambientTolerance_k);
    case job::RestKind::Barometer:
        return around(surroundings.barometer_pa, surroundings.barometerTolerance_pa);
    case job::RestKind::Value:
        break;
    }
    return around(circuit.rest.value, circuit.rest.tolerance);
}

Measurand measurandUnder(job::Condition condition, const job::Circuit& circuit, const parts::Part& sensor,
                         const job::Surroundings& surroundings)
{
    Measurand out = atRest(circuit, surroundings);
    const bool cold = condition == job::Condition::Cranking && circuit.rest.kind == job::RestKind::Ambient;
    if (job::engineTurns(condition) && !cold) {
        out.low = std::min(out.low, sensor.low);
        out.high = std::max(out.high, sensor.high);
    }
    return out;
}

} // namespace vicegrip::electrics
