#pragma once

#include "core/fit/line.h"
#include "core/fit/monotone.h"
#include "core/fit/thermistor.h"
#include "core/scaling/table.h"

#include <optional>
#include <string>
#include <vector>

/// Readings taken beside another instrument, against what the sensor's sheet and this circuit promise.
namespace vicegrip::scaling {

inline constexpr size_t kFewestForACurve = 3; ///< pairs

/// One pair as the circuit has it.
struct CapturedView
{
    double expected_v = 0; ///< what the input should show at the value the other instrument told
    double said = 0; ///< the value that these volts mean by the sheet, SI
    double off = 0; ///< said less the other instrument's, SI
    double allowed = 0; ///< what sensor, supply, wiring, pull-up, counts and the other instrument may add up to, SI
    bool agrees = false;
};

struct CapturedVerdict
{
    std::vector<CapturedView> pairs; ///< as job::Circuit::captured, those set aside too
    bool enough = false; ///< two pairs or more that are not set aside
    bool agrees = false; ///< all of these within their tolerance
    std::optional<size_t> suspect; ///< the one pair that the others contradict
    bool weighed = false; ///< every pair that takes part says how good the other instrument was
    std::string sentence; ///< the verdict in a sentence or two, with numbers
    std::optional<fit::Line> line; ///< value (SI) over volts, for a sensor whose line is straight; three pairs or more
    std::optional<fit::ThermistorFit> thermistor; ///< for a thermistor; three pairs or more
    std::optional<fit::Monotone> bent; ///< value over what the sheet says (SI), for a bent one; three pairs or more
};

/// The pairs that take part, by their index: those not set aside.
[[nodiscard]] std::vector<size_t> partakers(const job::Circuit& circuit);

/// Judges the circuit's pairs. A pair is suspect when it lies farther from the median of the others' errors than 3.5
/// of their standard deviations (by the median absolute deviation; Iglewicz, Hoaglin, How to Detect and Handle
/// Outliers, 1993) and than its own tolerance; it is named and left for the user to set aside. An error that is the
/// same everywhere is said to be a constant, one that grows along the range another span. Where every pair says how
/// good the other instrument was the fits are weighed by it, both axes (York), and tell their own band from it. Errors:
/// those of electrics::build; Range where the circuit has no volts.
[[nodiscard]] Result<CapturedVerdict> compareCaptured(const job::Job& job, const job::Circuit& circuit,
                                                      const Table& table);

} // namespace vicegrip::scaling
