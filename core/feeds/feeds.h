#pragma once

#include "core/electrics/wiring.h"
#include "core/job/job.h"

#include <optional>
#include <string>
#include <vector>

/// What draws on each fuse, which rating that asks for, and whether the wires behind it outlast it. In this room too:
/// proposals.h (what would make feeds right).
namespace vicegrip::feeds {

/// Of its rating, what a fuse carries for long (common practice, no source).
inline constexpr double kLoaded = 0.75;

/// Above this a load goes through a relay of its own (common practice, no source).
inline constexpr double kRelayAbove_a = 10;

struct Consumer
{
    std::string name;
    job::CircuitId circuit; ///< empty for a unit and a load
    double amps = 0; ///< as it heats a fuse: root mean square at full work, charging
};

/// One fuse and what it feeds; or one consumer that no fuse is before.
struct Feed
{
    std::string fuse; ///< id; empty: none
    std::string label;
    std::vector<Consumer> consumers;
    double amps = 0; ///< of all of them
    double rating_a = 0; ///< as the job has it; 0: not said, or no fuse
    double proposed_a = 0; ///< the least rating that is not loaded beyond kLoaded
    std::vector<job::WireId> wires; ///< between it and the next fuse, or what it feeds
    std::optional<job::WireId> thinnest; ///< of them
    double area_m2 = 0; ///< of that wire
    double stands_a = 0; ///< the largest rating that still blows before that wire's insulation melts; 0: none does
    std::string reason; ///< one sentence, with the numbers
    bool isWrong = false; ///< the reason asks for something to be done
};

/// A current as people write it: "1.2 A", "5 A", "15 A".
[[nodiscard]] std::string ampsText(double amps);

/// Ratings there are, A: blade fuses of ISO 8820-3, bolted ones of ISO 8820-5 above 40 A (from memory).
[[nodiscard]] const std::vector<double>& ratings();
/// The least of them that this current does not load beyond kLoaded; 0: none.
[[nodiscard]] double leastRating(double amps);

/// What an actuator's current heats a fuse by at full work, A: an injector is open 85 % of the time, a coil charges
/// in a ramp over 40 % of it (typical), whose root mean square is its peak times the root of a third of that.
[[nodiscard]] double heating(const parts::Part& part);

/// Fuses in the job's order, then what has none. Loads, actuators, units and sensors that the battery feeds count; what
/// hangs on a unit's 5 V is the unit's.
[[nodiscard]] std::vector<Feed> feedsOf(const job::Job& job, const electrics::Wiring& wiring);

} // namespace vicegrip::feeds
