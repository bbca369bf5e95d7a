#pragma once

#include "core/packet/packet.h"

#include <filesystem>

namespace vicegrip::packet {

/// The packet as a folder there, whole or not at all: it is written beside it under a hidden name and then put in its
/// place. An older packet that stands there is replaced, with everything in it. Errors (Io): the disk refuses, or what
/// stands there is no packet; it stays as it was.
[[nodiscard]] Result<void> writeFolder(const Packet& packet, const std::filesystem::path& folder);

} // namespace vicegrip::packet
