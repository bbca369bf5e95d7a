#pragma once

#include "core/packet/packet.h"

#include <string>

namespace vicegrip::packet {

/// The packet as a zip archive, its files within a folder of its name. The same packet is the same bytes: every file is
/// of 2000-01-01. Error (Io): the library that packs gave up.
[[nodiscard]] Result<std::string> zipOf(const Packet& packet);

} // namespace vicegrip::packet
