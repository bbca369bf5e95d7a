#pragma once

#include "core/drawn/figure.h"

#include <cstdint>
#include <string_view>

/// Inks and wires on white paper, as 0xRRGGBB. Every ink is as dark as it is important, so that a sheet from a printer
/// without colours reads the same.
namespace vicegrip::drawn {

[[nodiscard]] std::uint32_t printed(Ink ink);

/// A wire as it is drawn: its letters, and those of its tracer.
struct WireInk
{
    std::uint32_t base = 0, tracer = 0;
    bool traced = false;
};

/// Of letters by IEC 60757, a tracer behind a slash. Letters that are none: black.
[[nodiscard]] WireInk wireInk(std::string_view letters);

} // namespace vicegrip::drawn
