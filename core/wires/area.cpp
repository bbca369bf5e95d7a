#include "core/wires/area.h"

#include "core/base/phrase.h"
#include "core/electrics/electrics.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <set>

namespace vicegrip::wires {
namespace {

using units::Dimension;

/// ISO 6722 sizes from the mechanical minimum on, m².
constexpr std::array kSizes = {0.5e-6, 0.75e-6, 1e-6,  1.5e-6, 2e-6,  2.5e-6, 4e-6,  6e-6,
                               10e-6,  16e-6,   25e-6, 35e-6,  50e-6, 70e-6,  95e-6, 120e-6};

double sizeFor(double least_m2)
{
    const auto it = std::ranges::find_if(kSizes, [&](double size) { return size >= least_m2 * (1 - 1e-9); });
    return it == kSizes.end() ? least_m2 : *it; // no wire has it, and none passes for it
}

/// Wires that carry a signal, or a sensor's supply or ground from the unit.
std::set<std::string> sensorWires(const electrics::Wiring& wiring)
{
    std::set<std::string> out;
    const auto paths = wiring.paths();
    for (size_t i = 0; i < paths.size(); ++i)
        for (const electrics::Path& path : paths[i])
            if (path.complete && wiring.ecuPin(path.points.back()) != nullptr &&
                job::actuatorOf(wiring.job(), wiring.job().circuits[i]) == nullptr)
                out.insert(path.subjects.begin(), path.subjects.end());
    return out;
}

/// The rating of the fuse that is nearest on the way from a place to the battery; none when none is, or nobody has
/// said.
std::map<job::PointRef, double> fusesBefore(const job::Job& job, const electrics::Wiring& wiring)
{
    std::map<std::string, double> ratings;
    for (const job::Switch& s : job.switches)
        if (s.kind == job::SwitchKind::Fuse && s.rating_a > 0)
            ratings.try_emplace("switch " + s.id, s.rating_a);
    std::map<job::PointRef, double> out;
    const auto isBattery = [&](const job::PointRef& place) {
        const job::Joint* j = wiring.joint(place);
        return j != nullptr && j->kind == job::JointKind::BatteryPositive;
    };
    for (const electrics::Wiring::Leg& leg : wiring.legs(isBattery)) {
        if (const auto fuse = ratings.find(*leg.subject); fuse != ratings.end())
            out[*leg.from] = fuse->second;
        else if (const auto beyond = out.find(*leg.to); beyond != out.end())
            out[*leg.from] = beyond->second;
    }
    return out;
}

/// The first size that carries a current before it is as hot as that.
double sizeToCarry(double amps, double wire_k)
{
    const auto carries = [&](double size) { return mostAmps(size, kUnderBonnet_k, wire_k) >= amps; };
    const auto it = std::ranges::find_if(kSizes, carries);
    if (it != kSizes.end())
        return *it;
    double size = kSizes.back(); // no wire has it, and none passes for it
    while (!carries(size) && size < 1)
        size *= 1.1;
    return size;
}

std::string ampsText(double amps)
{
    constexpr double kNoticeable_a = 1e-4;
    if (amps < kNoticeable_a)
        return phrase("less than 0.1 mA");
    return amps < 1 ? units::format(amps, Dimension::Current, "mA", amps < 0.01 ? 1 : 0)
                    : units::format(amps, Dimension::Current, "A", 1);
}

std::string reason(const AreaChoice& c, double allowed_v)
{
    if (c.area_m2 <= kLeastArea_m2)
        return phrase("mechanical minimum: it carries {}", ampsText(c.current_a));
    if (c.byFuse_m2 >= std::max(c.byDrop_m2, c.byHeat_m2))
        return phrase("the {} A fuse before it must blow before its insulation melts",
                      units::formatNumber(c.fuse_a, 0));
    if (c.byHeat_m2 > c.byDrop_m2)
        return phrase("{} in a loom under the bonnet would make a thinner one too hot", ampsText(c.current_a));
    return phrase("{} along it may lose {}", ampsText(c.current_a),
                  units::format(allowed_v, Dimension::Voltage, "mV", 0));
}

} // namespace

double mostAmps(double area_m2, double surroundings_k, double wire_k)
{
    constexpr double kCooling = 12; // W/(m² K)
    const double heat = kCooling * std::numbers::pi * parts::outerDiameter(area_m2) * (wire_k - surroundings_k);
    return std::sqrt(std::max(0.0, heat) / parts::wireOhms(1, area_m2, wire_k));
}

double areaToCarry(double amps)
{
    return std::max(kLeastArea_m2, sizeToCarry(amps / kInLoom, kInsulation_k));
}

double areaBehind(double fuse_a)
{
    return std::max(kLeastArea_m2, sizeToCarry(fuse_a * kFuseBlows, kOverload_k));
}

std::map<job::WireId, AreaChoice> chooseAreas(const job::Job& job, const electrics::Wiring& wiring)
{
    const auto car = electrics::build(
        job, {.condition = job::Condition::Running, .surroundings = job.surroundings, .bounded = false});
    if (!car)
        return {};
    const std::set<std::string> sensors = sensorWires(wiring);
    const std::map<job::PointRef, double> fuses = fusesBefore(job, wiring);
    std::map<job::WireId, AreaChoice> out;
    for (const job::Wire& w : job.wires) {
        AreaChoice& c = out[w.id];
        c.current_a = std::abs(car->wireCurrent(w.id));
        const double kelvin = job.surroundings.ambient_k;
        c.drop_v = c.current_a * parts::wireOhms(w.length_m, w.area_m2, kelvin);
        if (job::isFixture(wiring.joint(w.from)) && job::isFixture(wiring.joint(w.to))) {
            c.why = phrase("not judged: starter and charge currents are not in the drawing");
            continue;
        }
        const bool sensor = sensors.contains("wire " + w.id.value);
        const double allowed_v = sensor ? kSensorDrop_v : kFeedDrop_v;
        const auto fuse = fuses.find(w.from);
        c.fuse_a = sensor || fuse == fuses.end() ? 0 : fuse->second;
        c.byDrop_m2 = c.current_a * parts::wireOhms(w.length_m, 1, kelvin) / allowed_v;
        c.byHeat_m2 = sizeToCarry(c.current_a / kInLoom, kInsulation_k);
        c.byFuse_m2 = sizeToCarry(c.fuse_a * kFuseBlows, kOverload_k);
        c.area_m2 = sizeFor(std::max({c.byDrop_m2, c.byHeat_m2, c.byFuse_m2, kLeastArea_m2}));
        c.why = reason(c, allowed_v);
    }
    return out;
}

} // namespace vicegrip::wires
