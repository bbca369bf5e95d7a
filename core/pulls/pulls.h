#pragma once

#include "core/log/log.h"
#include "core/log_columns/log_columns.h"

#include <string>
#include <vector>

/// Which stretches of a log are pulls, and which of them does a tuner want to see?
///
/// A pull is the throttle wide open in one gear while the engine turns up (common practice: warm, from about 2,500 rpm
/// to the top, two or three alike).
namespace vicegrip::pulls {

/// Rows from the first to the last.
struct Pull
{
    std::size_t first = 0, last = 0;
    double seconds = 0;
    double from_rpm = 0, to_rpm = 0;
    std::optional<int> gear; ///< as the log says it, or by engine and road speed; none: neither is there
    double ratio = 0; ///< engine turns for a metre of road; 0: no road speed
    std::optional<double> oil_k, coolant_k; ///< at its beginning
    bool chosen = false; ///< one of those to be sent
    std::string why; ///< why it was chosen, or not
};

struct Pulls
{
    std::vector<Pull> all; ///< in their order
    std::string verdict; ///< in one sentence: how many there are, what is missing
};

/// Errors (Range): the log tells no throttle, or no engine speed.
[[nodiscard]] Result<Pulls> pullsOf(const log::Log& log, const std::vector<log_columns::Meaning>& meanings);

} // namespace vicegrip::pulls
