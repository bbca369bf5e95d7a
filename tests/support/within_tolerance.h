#pragma once

#include "core/electrics/electrics.h"

#include <cmath>
#include <random>

namespace vicegrip::test {

/// A car as it may be built: every part that a job describes within its tolerance, at its limits as often as inside
/// them. Contacts and crimps are no part of a job: those are varied in the solved network (tolerance_test.cpp) and in
/// decks for another program (tests/reference/netlist_test.cpp).
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
        const job::Battery drawn = job.battery;
        job.battery.volts += share() * job.battery.tolerance_v;
        job.battery.charging_v += share() * job.battery.tolerance_v;
        job.ecu.supply.volts += share() * job.ecu.supply.tolerance_v;
        for (parts::EcuInput& i : job.ecu.inputs) {
            if (i.pull_up_ohm)
                *i.pull_up_ohm *= 1 + share() * i.pull_up_tolerance;
            i.pull_down_ohm *= 1 + share() * 0.05;
            i.series_ohm *= 1 + share() * 0.05;
        }
        for (parts::EcuOutput& o : job.ecu.outputs) {
            o.off_ohm *= 1 + share() * 0.5;
            o.on_ohm *= 1 + share() * 0.5;
            o.terminator_ohm *= 1 + share() * 0.05;
            if (o.pull_up_ohm)
                *o.pull_up_ohm *= 1 + share() * 0.2;
        }
        job.battery.ohm *= 1 + share() * 0.5;
        job.ecu.feed_ohm *= 1 + share() * 0.3;
        job.ecu.supply.ohm *= 1 + share() * 0.5;
        for (job::Resistor& r : job.resistors)
            r.ohm *= 1 + share() * r.tolerance;
        for (job::Switch& k : job.switches)
            k.ohm *= 1 + share() * 0.5;
        for (job::Load& l : job.loads)
            if (l.starter) { // its resistance is what its current at the drawn battery makes it
                const double ohm = (drawn.volts / l.current_a - drawn.ohm) * (1 + share() * 0.4);
                l.current_a = job.battery.volts / (ohm + job.battery.ohm);
            } else {
                l.current_a /= 1 + share() * 0.3;
            }
        for (job::Wire& w : job.wires)
            w.length_m *= 1 + share() * 0.04;
        for (parts::Part& s : job.parts)
            std::visit([this](auto& model) { vary(model); }, s.model);
        job.surroundings.ambient_k += share() * job.surroundings.ambientTolerance_k;
        job.surroundings.barometer_pa += share() * job.surroundings.barometerTolerance_pa;
        for (job::Circuit& c : job.circuits)
            if (c.rest.kind == job::RestKind::Value)
                c.rest.value += share() * c.rest.tolerance;
        return job;
    }

    /// The same with what its engine does at the moment: consumers and outputs on or off, sensors anywhere in their
    /// range, but for what is as cold as the air outside while the starter turns.
    electrics::Situation moment(job::Job& built, job::Condition condition)
    {
        electrics::Situation out{.condition = condition, .surroundings = built.surroundings, .bounded = false};
        if (!job::engineTurns(condition))
            return out;
        std::erase_if(built.loads, [&](const job::Load& l) { return !l.starter && m_random() % 2 == 0; });
        for (parts::EcuOutput& o : built.ecu.outputs)
            if (m_random() % 2 == 0 && !o.can(parts::OutputKind::Logic))
                o.on_ohm = o.off_ohm;
        for (const job::Circuit& c : built.circuits)
            if (const parts::Part* sensor = job::sensorOf(built, c))
                if (condition == job::Condition::Running || c.rest.kind != job::RestKind::Ambient)
                    out.measurands[c.id] = std::lerp(sensor->low, sensor->high, (1 + share()) / 2);
        return out;
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
    void vary(parts::Potentiometer& p)
    {
        p.track_ohm *= 1 + share() * p.tolerance;
        p.wiper_ohm *= 1 + share() * 0.5;
    }
    /// A line may stand too high, lean, or both: each of its ends is somewhere within the tolerance.
    void vary(parts::RatiometricTransducer& r)
    {
        const double off = r.tolerance * (r.high_v - r.low_v);
        r.low_v += share() * off;
        r.high_v += share() * off;
        r.supply_ohm *= 1 + share() * 0.3;
        r.out_ohm *= 1 + share() * 0.2;
    }
    /// And a bent one has every point of its own off.
    void vary(parts::VoltageDevice& d)
    {
        d.low_v += share() * d.tolerance_v;
        d.high_v += share() * d.tolerance_v;
        for (auto& p : d.points)
            p.volts += share() * d.tolerance_v;
        d.supply_ohm *= 1 + share() * 0.15;
        d.out_ohm *= 1 + share() * 0.2;
    }
    void vary(parts::Resistive& s)
    {
        for (auto& p : s.points)
            p.ohm *= 1 + share() * s.tolerance;
    }
    void vary(parts::OpenCollector& o) { o.supply_ohm *= 1 + share() * 0.3; }
    void vary(parts::VariableReluctance& r) { r.coil_ohm *= 1 + share() * 0.1; }
    void vary(parts::Contact& c) { c.on_ohm *= 1 + share(); }
    void vary(parts::Winding& w) { w.ohm *= 1 + share() * w.tolerance; }
    void vary(parts::Motor& m) { m.ohm *= 1 + share() * m.tolerance; }
    void vary(parts::Stepper& s) { s.ohm *= 1 + share() * s.tolerance; }
    void vary(parts::Lamp& l) { l.lit_a /= 1 + share() * l.tolerance; }
    void vary(parts::BusDevice& b)
    {
        b.terminator_ohm *= 1 + share() * b.terminator_tolerance;
        b.draws_a /= 1 + share() * 0.3;
    }
    void vary(parts::Triggered& t)
    {
        t.input_ohm *= 1 + share() * t.tolerance;
        t.draws_a /= 1 + share() * t.tolerance;
    }

    std::mt19937 m_random;
};

} // namespace vicegrip::test
