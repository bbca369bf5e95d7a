#pragma once

#include "core/base/result.h"
#include "core/circuit/bounds.h"
#include "core/job/job.h"

#include <string>

/// What an input sees of a switch, and the two thresholds that tell its states apart whatever its contact and its plug
/// become.
namespace vicegrip::switches {

struct SwitchLevels
{
    double open_v = 0, closed_v = 0; ///< at the input, nominally
    circuit::Interval openWithin_v, closedWithin_v; ///< between which each may be
    double low_v = 0, high_v = 0; ///< thresholds: under the one it is low, over the other high, between as before
    double contact_ohm = 0; ///< the contact may grow to this before it is no longer seen closed
    double leak_ohm = 0; ///< a wet plug may leak this much before it is no longer seen open
    bool apart = false; ///< the two states can be told apart
    bool closedIsLow = false; ///< it pulls to ground
    std::string sentence;
};

/// Of a circuit with a switch, key on: the network is solved open, closed, and with 1 kOhm in its place. Thresholds
/// stand a third and two thirds of the way between the states at their worst (a Schmitt trigger's usual place).
/// Errors (Reference): no seat, or no switch; those of electrics::build.
[[nodiscard]] Result<SwitchLevels> switchLevels(const job::Job& job, const job::Circuit& circuit);

} // namespace vicegrip::switches
