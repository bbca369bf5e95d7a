#pragma once

#include "core/job/job.h"

#include <algorithm>

/// How a sensor's elements move with its measurand, and what that is at rest.
namespace vicegrip::electrics {

/// d(element value)/dx, one per element.
[[nodiscard]] parts::ElementValues elementSlopes(const parts::Part& sensor, double x);

/// Their spread at a measurand of x ± `tolerance`, per unit of it: the secant to the side where the elements move most.
/// A derivative tells half at the end of what a part puts out, and too little where its curve bends.
[[nodiscard]] parts::ElementValues elementSecants(const parts::Part& sensor, double x, double tolerance);

/// What a circuit's sensor measures, and between which values it may be.
struct Measurand
{
    double value = 0;
    double low = 0, high = 0;
    [[nodiscard]] double tolerance() const { return std::max(value - low, high - value); }
};

/// With the engine stopped.
[[nodiscard]] Measurand atRest(const job::Circuit& circuit, const job::Surroundings& surroundings);

/// An engine that turns makes its sensors read anything in their range; what was as warm as the air outside stays so
/// while the starter turns it.
[[nodiscard]] Measurand measurandUnder(job::Condition condition, const job::Circuit& circuit, const parts::Part& sensor,
                                       const job::Surroundings& surroundings);

} // namespace vicegrip::electrics
