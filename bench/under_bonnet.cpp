#include "bench/under_bonnet.h"

#include "core/electrics/sensor_model.h"

#include <algorithm>
#include <string>

namespace vicegrip::bench {
namespace {

using units::Dimension;

engine::Around aroundOf(const job::Job& job)
{
    return {job.surroundings.barometer_pa, job.surroundings.ambient_k, 0};
}

engine::Tank::Sizes sizesOf(const job::Job& job)
{
    const job::Tank said = job.tank.value_or(job::Tank{});
    engine::Tank::Sizes out;
    out.line_m3 = said.line_m3;
    if (said.flow_m3_per_s > 0)
        out.flow_m3_s = said.flow_m3_per_s;
    return out;
}

/// Half full of what its sensor is due to show before anybody fills it.
engine::Tank tankOf(const job::Job& job)
{
    double ethanol = 0;
    for (const job::Circuit& c : job.circuits)
        if (c.function.value == "flex" && job::sensorOf(job, c) != nullptr)
            ethanol = electrics::atRest(c, job.surroundings).value;
    return {sizesOf(job), {job.tank.value_or(job::Tank{}).capacity_m3 / 2, ethanol}};
}

} // namespace

UnderBonnet::UnderBonnet(const job::Job& job)
    : m_around(aroundOf(job)),
      m_plant(engine::figuresOf(job.brief), m_around),
      m_program(m_plant.figures(), m_around.barometer_pa),
      m_tank(tankOf(job))
{
}

void UnderBonnet::become(const job::Job& job)
{
    m_tank.refit(sizesOf(job));
    const engine::Figures figures = engine::figuresOf(job.brief);
    if (figures == m_plant.figures() && job.surroundings.barometer_pa == m_around.barometer_pa)
        return;
    m_around.barometer_pa = job.surroundings.barometer_pa;
    m_plant.become(figures);
    m_program = engine::Program(figures, m_around.barometer_pa);
}

void UnderBonnet::stop()
{
    m_plant.stop(m_around);
    m_program.forget();
    m_moved = {};
    m_commands = {};
}

void UnderBonnet::pass(double seconds, const engine::Read& read, By by, double hurry)
{
    m_commands = m_program.act(seconds, read, by != By::Starter);
    m_moved.fuel_kg = m_commands.fuel_kg;
    m_moved.spark = m_commands.spark;
    m_moved.idleAir = m_commands.idleAir;
    m_moved.boost = m_commands.boost;
    m_moved.fan = m_commands.fan ? m_works.fan : 0;
    m_moved.pump = m_works.pump;
    m_moved.injected = m_works.injected;
    m_moved.firing = m_works.firing;
    const bool turned = by == By::Starter || (by == By::StarterAndFire && !runs());
    m_moved.starter_v = turned ? m_works.starter_v : 0;
    engine::Moved moved = m_moved;
    moved.throttle = plate();
    m_around.ethanol = m_tank.atSensor(); // the sensor sits at the rail
    m_plant.pass(seconds, moved, m_around, hurry);
    m_tank.pass(seconds, m_works.pump, m_plant.fuel_kg_s() / fuel::density(m_around.ethanol));
}

std::optional<trigger::Turning> UnderBonnet::turning() const
{
    constexpr double kTurns_rpm = 20;
    constexpr double kStarterRipple = 0.2, kIdleRipple = 0.03; // the flywheel holds it while it runs (typical)
    if (m_plant.rpm() < kTurns_rpm)
        return std::nullopt;
    return trigger::Turning{.rpm = m_plant.rpm(),
                            .ripple = m_plant.rpm() > kRuns_rpm ? kIdleRipple : kStarterRipple,
                            .cylinders = m_plant.figures().cylinders};
}

std::optional<double> UnderBonnet::felt(const job::Job& job, const job::Circuit& circuit) const
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor != nullptr && circuit.function.value == "flex")
        return m_tank.atSensor();
    if (!turning() || sensor == nullptr)
        return std::nullopt;
    const double barometer_pa = m_around.barometer_pa;
    const double zero_pa = sensor->measures == Dimension::AbsolutePressure ? barometer_pa : 0;
    const auto absolute = [&](double pa) { return zero_pa > 0 ? pa : pa - barometer_pa; };
    const bool ofFluid = sensor->kind == parts::PartUse::FluidPressure;
    const std::string& function = circuit.function.value;
    if (function == "map")
        return absolute(m_plant.manifold_pa());
    if (function == "charge-pressure")
        return absolute(m_plant.charge_pa());
    if (function == "oil-pressure" && ofFluid)
        return zero_pa + m_plant.oil_pa();
    if (function == "fuel-pressure" && ofFluid) // held above the manifold's
        return absolute(m_plant.rail_pa() + m_plant.manifold_pa());
    if (sensor->measures == Dimension::MassFlow)
        return m_plant.air_kg_s();
    if (m_plant.rpm() < kRuns_rpm)
        return std::nullopt;
    if (function == "clt")
        return m_plant.warmth().coolant_k();
    if (function == "oil-temp")
        return m_plant.warmth().oil_k();
    if (function == "gearbox-temp")
        return m_plant.warmth().gearbox_k();
    if (function == "iat")
        return m_plant.intake_k();
    if ((function == "tps" || function == "tps2" || function == "pedal1" || function == "pedal2") &&
        sensor->measures == Dimension::Ratio)
        return plate();
    if (sensor->measures == Dimension::Lambda)
        return std::clamp(m_plant.mixture(), sensor->low, sensor->high);
    return std::nullopt;
}

std::set<job::CircuitId> UnderBonnet::off(const job::Job& job) const
{
    std::set<job::CircuitId> out;
    for (const job::Circuit& c : job.circuits)
        if (c.function.value.starts_with("fan") && !m_commands.fan) // two or three are switched as one
            out.insert(c.id);
    return out;
}

engine::Read readOf(const job::Job& job, const std::vector<std::optional<double>>& values, double rpm)
{
    engine::Read out;
    out.rpm = rpm;
    for (size_t i = 0; i < job.circuits.size() && i < values.size(); ++i) {
        const job::Circuit& c = job.circuits[i];
        const parts::Part* sensor = job::sensorOf(job, c);
        if (sensor == nullptr || !values[i])
            continue;
        const std::string& function = c.function.value;
        const auto take = [&](std::optional<double>& into) {
            if (!into) // the first of them
                into = *values[i];
        };
        if (function == "map" && !out.manifold_pa)
            out.manifold_pa =
                *values[i] + (sensor->measures == Dimension::AbsolutePressure ? 0 : job.surroundings.barometer_pa);
        else if (sensor->measures == Dimension::MassFlow)
            take(out.air_kg_s);
        else if (function == "iat")
            take(out.intake_k);
        else if (function == "clt")
            take(out.coolant_k);
        else if (function == "tps")
            take(out.throttle);
        else if (function == "flex")
            take(out.ethanol);
        else if (sensor->measures == Dimension::Lambda)
            take(out.mixture);
    }
    return out;
}

} // namespace vicegrip::bench
