#pragma once

#include "core/dbc/dbc.h"
#include "core/obd/segments.h"

/// The values of a unit as a database of frames describes them, so that they are matched to circuits and heard as those
/// of any other stream.
namespace vicegrip::obd {

/// No frame of a bus has this identifier.
inline constexpr std::uint32_t kDescribedId = 0x40000000;

/// One message, "OBD", with a signal for each of `parameters()`: "CoolantTemp", in °C.
[[nodiscard]] dbc::Database described();

/// A value as that message carries it.
[[nodiscard]] Bytes asDescribed(std::uint8_t number, std::span<const std::uint8_t> data);

} // namespace vicegrip::obd
