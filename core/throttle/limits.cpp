#include "core/throttle/limits.h"

#include <cmath>
#include <set>

namespace vicegrip::throttle {

bool hasStops(const parts::Sensor& sensor)
{
    return sensor.kind == parts::SensorKind::Throttle || sensor.kind == parts::SensorKind::Pedal;
}

job::Stops taught(job::Stops stops, const job::Facts& facts, const job::Circuit& circuit,
                  const std::vector<electrics::Path>& paths)
{
    std::set<std::string> subjects = {"sensor " + circuit.device.value, "circuit " + circuit.id.value,
                                      "input " + circuit.input.value};
    for (const electrics::Path& p : paths)
        subjects.insert(p.subjects.begin(), p.subjects.end());
    stops.restsOn = job::factsOf(facts, {subjects.begin(), subjects.end()});
    return stops;
}

Result<job::Stops> zeroed(job::Stops stops, double rest_v, const std::string& when)
{
    constexpr double kScrewMoves = 0.15; ///< of the travel
    const double moved = rest_v - stops.shutRest_v;
    const double travel = stops.openRest_v - stops.shutRest_v;
    if (!(std::abs(moved) <= kScrewMoves * std::abs(travel)))
        return fail(ErrorCode::Range, "it rests " + units::format(std::abs(moved), units::Dimension::Voltage, "V", 3) +
                                          " from where it did: is it shut? Else stroke it again");
    stops.shut_v += moved;
    stops.shutRest_v = rest_v;
    stops.when = when;
    stops.screwMoved.clear();
    return stops;
}

std::optional<std::string> staleStops(const job::Facts& facts, const job::Stops& stops)
{
    if (!stops.screwMoved.empty())
        return "the stop screw was turned afterwards";
    const auto changes = job::changes(stops.restsOn, facts);
    return changes.empty() ? std::nullopt : std::optional(changes.front());
}

} // namespace vicegrip::throttle
