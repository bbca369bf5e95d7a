#include "core/brief/banks.h"
#include "core/brief/firing_order.h"

#include <cstdint>
#include <cstdlib>

/// Any bytes as a firing order and as banks, of an engine of as many cylinders as the first byte says: what is taken
/// has each cylinder once and is read again from its own text; what is not says why.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    using namespace vicegrip;
    if (size == 0)
        return 0;
    const int cylinders = data[0] % 20;
    const std::string_view typed(reinterpret_cast<const char*>(data + 1), size - 1); // NOLINT: bytes are characters
    if (const auto order = brief::firingOrderFrom(typed, cylinders)) {
        if (!brief::checkEachOnce(*order, cylinders) ||
            brief::firingOrderFrom(brief::firingOrderText(*order), cylinders) != *order)
            std::abort();
        for (const int c : *order)
            if (const auto companion = brief::companionOf(*order, c);
                companion && brief::companionOf(*order, *companion) != c)
                std::abort();
    } else if (order.error().sentence.empty()) {
        std::abort();
    }
    if (const auto banks = brief::banksFrom(typed, cylinders)) {
        if (!brief::checkBanks(*banks, cylinders) || brief::banksFrom(brief::banksText(*banks), cylinders) != *banks)
            std::abort();
    } else if (banks.error().sentence.empty()) {
        std::abort();
    }
    return 0;
}
