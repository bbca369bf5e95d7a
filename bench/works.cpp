#include "bench/works.h"

#include "core/brief/driven_needs.h"
#include "core/brief/firing_order.h"
#include "core/electrics/answering.h"

#include <algorithm>
#include <set>

namespace vicegrip::bench {
namespace {

std::set<int> allOf(const job::Brief& brief)
{
    std::set<int> out;
    for (int c = 1; c <= brief.cylinders; ++c)
        out.insert(c);
    return out;
}

/// The cylinders that an injector or a coil serves.
std::set<int> servedBy(const job::Circuit& circuit, const job::Brief& brief)
{
    if (const auto one = brief::cylinderOf(circuit.function, brief))
        return {*one};
    const auto pairs = brief::companions(brief.firingOrder);
    for (size_t k = 0; k < pairs.size() && brief.ignition == job::Ignition::WastedSpark; ++k)
        if (circuit.function.value == "ign" + std::to_string(k + 1))
            return {pairs[k].first, pairs[k].second};
    return allOf(brief);
}

/// A logic signal stands low while the engine turns, but for moments: what it would do is asked.
bool answers(const job::Job& job, electrics::Situation is, const electrics::Electrics& car, const job::Circuit& circuit)
{
    if (!parts::driveOf(*job::actuatorOf(job, circuit))->takesLogic())
        return electrics::moves(car, job, circuit);
    is.clicked = circuit.output;
    const auto on = electrics::build(job, is);
    return on && electrics::moves(*on, job, circuit);
}

double contactAmps(const job::Job& job, const electrics::Electrics& car, const job::Circuit& circuit)
{
    double out = 0;
    for (const job::Switch& s : job.switches) {
        const auto from = car.node(s.from), to = car.node(s.to);
        if (s.coil == circuit.device.value && !s.coil.empty() && from && to && electrics::moves(car, job, circuit))
            out += car.solution.volts(*from, *to) / s.ohm;
    }
    return out;
}

/// What all circuits of a function get, numbered ones among them, of what they get in a good car.
double shareOf(const job::Job& job, const electrics::Electrics& car, const electrics::Electrics& good,
               const char* function)
{
    constexpr double kDraws_a = 0.5;
    double sum = 0;
    int count = 0;
    for (const job::Circuit& c : job.circuits) {
        if (!c.function.value.starts_with(function) || job::actuatorOf(job, c) == nullptr)
            continue;
        const double due = std::abs(contactAmps(job, good, c));
        sum += due > kDraws_a                  ? std::clamp(std::abs(contactAmps(job, car, c)) / due, 0.0, 1.0)
               : electrics::moves(car, job, c) ? 1
                                               : 0;
        ++count;
    }
    return count == 0 ? 1 : sum / count;
}

double starterVolts(const job::Job& job, const electrics::Electrics& car)
{
    const auto between = [&](const job::PointRef& from, const job::PointRef& to) {
        const auto plus = car.node(from), minus = car.node(to);
        return plus && minus ? car.solution.volts(*plus, *minus) : 0;
    };
    for (const job::Load& l : job.loads)
        if (l.starter)
            return between(l.from, l.to);
    const auto post = [&](job::JointKind kind) {
        const auto it = std::ranges::find(job.joints, kind, &job::Joint::kind);
        return it == job.joints.end() ? job::PointRef() : job::PointRef{it->id, {}};
    };
    constexpr double kUsual_v = 10.3;
    if (post(job::JointKind::BatteryPositive) == job::PointRef())
        return kUsual_v; // no battery is drawn
    return between(post(job::JointKind::BatteryPositive), post(job::JointKind::BatteryNegative));
}

} // namespace

Works worksOf(const job::Job& job, electrics::Situation is)
{
    is.off.clear();
    electrics::Situation sound = is;
    sound.faults.clear();
    const auto car = electrics::build(job, is), good = electrics::build(job, sound);
    if (!car || !good)
        return {};
    const job::Brief brief = job.brief.value_or(job::Brief());
    std::set<int> injected, sparked;
    bool drawnInjectors = false, drawnCoils = false;
    for (const job::Circuit& c : job.circuits) {
        const parts::Part* part = job::actuatorOf(job, c);
        const bool injector = part != nullptr && part->kind == parts::PartUse::Injector;
        const bool coil = part != nullptr && part->kind == parts::PartUse::IgnitionCoil;
        drawnInjectors |= injector;
        drawnCoils |= coil;
        if ((injector || coil) && answers(job, is, *car, c))
            (injector ? injected : sparked).merge(servedBy(c, brief));
    }
    if (!drawnInjectors)
        injected = allOf(brief);
    if (!drawnCoils)
        sparked = allOf(brief);
    Works out;
    out.injected = static_cast<int>(injected.size());
    out.firing = static_cast<int>(std::ranges::count_if(injected, [&](int c) { return sparked.contains(c); }));
    out.starter_v = starterVolts(job, *car);
    out.pump = shareOf(job, *car, *good, "fuel-pump");
    out.fan = shareOf(job, *car, *good, "fan");
    return out;
}

} // namespace vicegrip::bench
