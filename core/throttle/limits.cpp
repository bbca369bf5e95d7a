#include "core/throttle/limits.h"

#include "core/base/phrase.h"

#include <cmath>
#include <set>

namespace vicegrip::throttle {

bool takesLimits(const parts::Part& sensor)
{
    return sensor.kind == parts::PartUse::Throttle || sensor.kind == parts::PartUse::Pedal;
}

job::ThrottleLimits calibrated(job::ThrottleLimits limits, const job::Facts& facts, const job::Circuit& circuit,
                               const std::vector<electrics::Path>& paths)
{
    std::set<std::string> subjects = {"sensor " + circuit.device.value, "circuit " + circuit.id.value,
                                      "input " + circuit.input.value};
    for (const electrics::Path& p : paths)
        subjects.insert(p.subjects.begin(), p.subjects.end());
    limits.restsOn = job::factsOf(facts, {subjects.begin(), subjects.end()});
    return limits;
}

Result<job::ThrottleLimits> zeroed(job::ThrottleLimits limits, double rest_v, const std::string& when)
{
    constexpr double kScrewMoves = 0.15; ///< of the travel
    const double moved = rest_v - limits.closedRest_v;
    const double travel = limits.openRest_v - limits.closedRest_v;
    if (!(std::abs(moved) <= kScrewMoves * std::abs(travel)))
        return fail(ErrorCode::Range, phrase("it rests {} from where it did: is it shut? Else stroke it again",
                                             units::format(std::abs(moved), units::Dimension::Voltage, "V", 3)));
    limits.closed_v += moved;
    limits.closedRest_v = rest_v;
    limits.when = when;
    limits.screwMoved.clear();
    return limits;
}

std::optional<std::string> staleLimits(const job::Facts& facts, const job::ThrottleLimits& limits)
{
    if (!limits.screwMoved.empty())
        return phrase("the stop screw was turned afterwards");
    const auto changes = job::changes(limits.restsOn, facts);
    return changes.empty() ? std::nullopt : std::optional(changes.front());
}

scaling::Table tableOf(const job::ThrottleLimits& limits, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    scaling::Table table;
    table.unit = scaling::unitOf(sensor, spec);
    table.points = {{limits.closed_v, spec.low}, {limits.open_v, spec.high}};
    if (limits.closed_v > limits.open_v)
        std::swap(table.points[0], table.points[1]);
    return table;
}

} // namespace vicegrip::throttle
