#pragma once

#include "core/job/job.h"

/// How a sensor's elements move with its measurand, and what that is at rest.
namespace vicegrip::electrics {

/// d(element value)/dx, one per element.
[[nodiscard]] parts::ElementValues elementSlopes(const parts::Part& sensor, double x);

/// Their spread at a measurand of x ± `tolerance`, per unit of it: the secant to the side where the elements move most.
/// A derivative tells half at the end of what a part puts out, and too little where its curve bends.
[[nodiscard]] parts::ElementValues elementSecants(const parts::Part& sensor, double x, double tolerance);

/// What the circuit's sensor measures with the engine stopped, and how well that is known.
struct Measurand
{
    double value = 0;
    double tolerance = 0;
};
[[nodiscard]] Measurand atRest(const job::Circuit& circuit, const job::Surroundings& surroundings);

} // namespace vicegrip::electrics
