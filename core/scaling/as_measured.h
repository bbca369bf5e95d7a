#pragma once

#include "core/scaling/captured.h"

/// A sensor as its own readings have it, in place of its sheet.
namespace vicegrip::scaling {

/// How far a curve through the readings lies from the sheet.
struct FitPlace
{
    double value = 0; ///< SI, as the sheet has it at that place
    double off = 0; ///< the fit less the sheet, SI
    double sigma = 0; ///< one standard deviation of the fit there; 0: not known
};

/// The fit of a verdict along the range; empty when there is none.
[[nodiscard]] std::vector<FitPlace> fitAlong(const CapturedVerdict& verdict, const Transfer& transfer,
                                             const parts::Part& sensor, const job::ScalingSpec& spec);

/// The sensor with the curve that the readings give: Steinhart-Hart for a thermistor, a straight line for a transducer
/// or a conditioner, a monotone cubic (core/fit/monotone) at its own points for a resistive sensor. Its tolerance
/// becomes what the readings leave, one half of a percent at least; its range is held to what they bracket where the
/// curve is bent. Errors (Range): fewer than three readings that are not set aside, one that the others contradict,
/// readings that turn back, a sensor whose curve is not its own to fit (a throttle's limits are calibrated).
[[nodiscard]] Result<parts::Part> asMeasured(const job::Circuit& circuit, const parts::Part& sensor,
                                             const CapturedVerdict& verdict);

} // namespace vicegrip::scaling
