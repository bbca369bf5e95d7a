#pragma once

#include "core/dbc/database.h"

/// A signal's bits in the bytes of a frame.
namespace vicegrip::dbc {

/// Its bits as a number without sign; none where the frame is too short for it.
[[nodiscard]] std::optional<std::uint64_t> rawOf(const Signal& signal, std::span<const std::uint8_t> data);

/// What the bits stand for: value = raw * scale + offset.
[[nodiscard]] double valueOf(const Signal& signal, std::uint64_t raw);

/// The raw bits that stand for a value: the nearest there are.
[[nodiscard]] std::uint64_t rawFor(const Signal& signal, double value);

/// Puts bits where the signal lies; the frame must be long enough.
void put(const Signal& signal, std::uint64_t raw, std::span<std::uint8_t> data);

} // namespace vicegrip::dbc
