#pragma once

#include "core/trigger/channel_look.h"

#include <string>
#include <vector>

namespace vicegrip::trigger {

enum class Grade { Good, Bad, Unknown };

/// One thing that is right or wrong with a signal.
struct Verdict
{
    std::string what; ///< "Teeth in a turn"
    std::string is; ///< with its unit
    std::string limit;
    Grade grade = Grade::Unknown;
    std::string todo; ///< what hands do; empty: nothing
};

/// What the signal is held against. What is not said by the job is typical.
struct Wanted
{
    std::string wheel; ///< the line that the job says; empty: none is said
    std::optional<bool> rising; ///< the edge that the ECU counts
    double arms_v = 0.5; ///< of a coil's input while the engine is cranked (typical)
    double slowest_rpm = 150; ///< of a starter on a cold battery (typical)
    double tooth_deg = 0.5; ///< how far a tooth may be off (typical)
    double runOut_m = 0.25e-3; ///< how far a wheel may run out (typical)
    double below_v = 0.8, above_v = 2.0; ///< what an input takes for low and for high (TTL levels; from memory)
};

/// What a capture's numbers are.
enum class Scale {
    Volts,
    FullScale, ///< shares of the loudest a sound card takes
    Logic ///< 0 and 1: they say nothing of volts or noise
};

/// In the order hands deal with them.
[[nodiscard]] std::vector<Verdict> verdicts(const Look& look, const Wanted& wanted, Scale scale);

} // namespace vicegrip::trigger
