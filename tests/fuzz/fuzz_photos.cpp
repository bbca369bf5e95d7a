#include "core/photos/photos.h"

#include <algorithm>
#include <cstdint>
#include <cstdlib>

using namespace vicegrip;

/// Any bytes as a photo: what is kept of it is a JPEG of a size that is kept, and is taken as one again.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    const auto photo = photos::shrunk({reinterpret_cast<const char*>(data), size}); // NOLINT: bytes are characters here
    if (!photo)
        return 0;
    if (std::min(photo->width, photo->height) < 1 || std::max(photo->width, photo->height) > photos::kMost_px)
        std::abort();
    const auto again = photos::shrunk(photo->bytes);
    if (!again || again->width != photo->width || again->height != photo->height)
        std::abort();
    return 0;
}
