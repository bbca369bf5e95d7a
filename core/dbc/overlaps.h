#pragma once

#include "core/dbc/database.h"

namespace vicegrip::dbc {

/// Pairs of signals that lie in the same bits of a frame in which both are there, by their places in the message; the
/// later one first, each later one once.
[[nodiscard]] std::vector<std::pair<size_t, size_t>> overlaps(const Message& message);

} // namespace vicegrip::dbc
