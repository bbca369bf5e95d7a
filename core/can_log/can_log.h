#pragma once

#include "core/base/result.h"

#include <cstdint>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

/// Recorded CAN frames as text, a frame a line, as the candump log format has them:
///
///     (1436509052.249713) can0 123#DEADBEEF        11 bits
///     (1436509052.449847) can0 18FEF100#01 R       29 bits, eight digits; a direction may follow
///     (1436509052.449900) can0 123##1AABB          flexible data rate: the digit after ## holds its flags
namespace vicegrip::can_log {

struct Frame
{
    double time_s = 0;
    std::string bus; ///< "can0"
    std::uint32_t id = 0;
    bool extended = false; ///< 29 bits
    bool remote = false; ///< asks for data, and has none
    bool error = false; ///< of the controller, and no message
    bool flexible = false; ///< data rate: up to 64 bytes
    int flags = 0; ///< of flexible: 1 its rate was switched, 2 its sender is passive
    std::vector<std::uint8_t> data;
    bool operator==(const Frame&) const = default;
};

/// One line, without its end. Errors (Malformed) carry the column.
[[nodiscard]] Result<Frame> readLine(std::string_view line);

/// Each frame of a log, in its order; empty lines and such that begin with # are passed over. Stops where a line cannot
/// be read (Malformed, with line and column), or where `take` says no.
[[nodiscard]] Result<void> read(std::string_view text, const std::function<bool(const Frame&)>& take);

/// The line that is read as the same frame, times to the microsecond; no line end.
[[nodiscard]] std::string line(const Frame& frame);

} // namespace vicegrip::can_log
