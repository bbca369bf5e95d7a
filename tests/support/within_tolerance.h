#pragma once

#include "core/job/job.h"

#include <random>

namespace vicegrip::test {

/// A car as it may be built: every part within its tolerance, at its limits as often as inside them.
class WithinTolerance
{
  public:
    explicit WithinTolerance(unsigned seed) : m_random(seed) {}

    /// Somewhere in -1..1, at an end half of the time.
    double share()
    {
        const double inside = std::uniform_real_distribution<double>(-1, 1)(m_random);
        switch (m_random() % 4) {
        case 0:
            return -1;
        case 1:
            return 1;
        default:
            return inside;
        }
    }

    job::Job car(job::Job job)
    {
        job.battery.volts += share() * job.battery.tolerance_v;
        job.ecu.supply.volts += share() * job.ecu.supply.tolerance_v;
        for (parts::EcuInput& i : job.ecu.inputs)
            if (i.pull_up_ohm)
                *i.pull_up_ohm *= 1 + share() * i.pull_up_tolerance;
        for (job::Wire& w : job.wires)
            w.length_m *= 1 + share() * 0.04;
        for (parts::Sensor& s : job.parts)
            std::visit([this](auto& model) { vary(model); }, s.model);
        job.surroundings.ambient_k += share() * job.surroundings.ambientTolerance_k;
        job.surroundings.barometer_pa += share() * job.surroundings.barometerTolerance_pa;
        for (job::Circuit& c : job.circuits)
            if (c.rest.kind == job::RestKind::Value)
                c.rest.value += share() * c.rest.tolerance;
        return job;
    }

  private:
    void vary(parts::Thermistor& t)
    {
        const double factor = 1 + share() * t.tolerance;
        if (auto* beta = std::get_if<parts::BetaCurve>(&t.curve))
            beta->r25_ohm *= factor;
        else if (auto* table = std::get_if<parts::TableCurve>(&t.curve))
            for (auto& p : table->points)
                p.ohm *= factor;
    }
    void vary(parts::Potentiometer& p) { p.track_ohm *= 1 + share() * p.tolerance; }
    void vary(parts::RatiometricTransducer& r)
    {
        const double shift = share() * r.tolerance * (r.high_v - r.low_v);
        r.low_v += shift;
        r.high_v += shift;
    }
    void vary(parts::VoltageDevice& d)
    {
        const double shift = share() * d.tolerance_v;
        d.low_v += shift;
        d.high_v += shift;
    }
    void vary(parts::Sender& s)
    {
        const double factor = 1 + share() * s.tolerance;
        for (auto& p : s.points)
            p.ohm *= factor;
    }
    void vary(parts::OpenCollector& o) { o.supply_ohm *= 1 + share() * 0.3; }
    void vary(parts::Reluctance& r) { r.coil_ohm *= 1 + share() * 0.1; }
    void vary(parts::Contact&) {}

    std::mt19937 m_random;
};

} // namespace vicegrip::test
