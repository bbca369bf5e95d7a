#include "core/units/dimensions.h"

#include <cmath>
#include <cstdint>
#include <cstdlib>

/// Any bytes as a typed quantity: a finite number or a sentence.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    using namespace vicegrip::units;
    const std::string_view typed(reinterpret_cast<const char*>(data), size); // NOLINT: bytes are characters here
    for (const DimensionFacts& d : allFacts()) {
        const auto value = parse(typed, d.dimension, d.everyday);
        if (value ? !std::isfinite(*value) : value.error().sentence.empty())
            std::abort();
    }
    return 0;
}
