#pragma once

#include "core/base/text_lines.h"
#include "core/capture/seen.h"

#include <string>

namespace vicegrip::capture {

/// Reads changes of signals (value change dump, IEEE 1364): wires of one bit, and reals; what is wider is passed over,
/// as are unknown and floating levels, and texts. Errors (Malformed, with line): no time scale, a change of a signal
/// that was not declared, time that goes back, a value that is none; (Range) no signal, or no change; (TooBig) more
/// than 100 million changes.
[[nodiscard]] Result<Seen> readVcd(TextLines text);

/// Channels of changes between 0 and another level as wires. Times are rounded to a nanosecond.
[[nodiscard]] std::string writeVcd(const Seen& seen);

} // namespace vicegrip::capture
