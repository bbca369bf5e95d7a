#include "bench/turned.h"

#include "core/hand_test/due.h"
#include "core/trigger/sensed.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::bench {
namespace {

bool seesTooth(const trigger::Wheel& wheel, const faults::WheelOff& stands, double crank_deg)
{
    const double turn = wheel.turn_deg;
    double at = std::fmod(crank_deg, turn);
    if (at < 0)
        at += turn;
    const trigger::HallSensor sensor;
    const double gap = trigger::Clearance{stands.gap_m, stands.runOut_m, 0}.at(at, turn);
    if (gap > sensor.farthest_m)
        return false;
    const double narrower = sensor.narrows_deg_m * gap;
    for (size_t t = 0; t < wheel.teeth.size(); ++t) {
        const trigger::Tooth& tooth = wheel.teeth[t];
        for (const double here : {at, at + turn}) // it may lie across the turn's beginning
            if (here > tooth.from_deg + narrower && here < tooth.to_deg - narrower)
                return std::ranges::find(stands.chipped, static_cast<int>(t) + 1) == stands.chipped.end();
    }
    return false;
}

} // namespace

faults::WheelOff standsBefore(const job::Circuit& circuit, const faults::FaultList& faults)
{
    faults::WheelOff out;
    out.circuit = circuit.id;
    if (circuit.trigger && circuit.trigger->gap_m > 0)
        out.gap_m = circuit.trigger->gap_m;
    if (circuit.trigger && !circuit.trigger->feelers_m.empty()) {
        const auto [least, most] = std::ranges::minmax(circuit.trigger->feelers_m);
        out.runOut_m = most - least;
    }
    for (const faults::Fault& fault : faults)
        if (const auto* off = std::get_if<faults::WheelOff>(&fault); off != nullptr && off->circuit == circuit.id)
            out = *off;
    return out;
}

std::set<job::CircuitId> onTooth(const job::Job& job, const faults::FaultList& faults, double crank_deg)
{
    std::set<job::CircuitId> out;
    for (const job::Circuit& c : job.circuits) {
        const auto wheel = c.trigger ? trigger::readWheel(c.trigger->wheel) : fail(ErrorCode::Range, {});
        if (!wheel || !hand_test::switchesByHand(job, c))
            continue;
        if (seesTooth(*wheel, standsBefore(c, faults), crank_deg))
            out.insert(c.id);
    }
    return out;
}

} // namespace vicegrip::bench
