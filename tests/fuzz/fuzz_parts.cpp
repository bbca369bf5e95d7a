#include "core/base/document.h"
#include "core/electrics/faults.h"
#include "core/parts/sensor.h"

#include <cstdint>
#include <cstdlib>

/// Any bytes as a part file, and as a fault sheet.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    using namespace vicegrip;
    const std::string_view text(reinterpret_cast<const char*>(data), size); // NOLINT: bytes are characters here
    const auto sensor = document::parse(text).and_then(parts::readSensor);
    if (!sensor && sensor.error().sentence.empty())
        std::abort();
    (void)electrics::readFaults(text, job::Job{});
    return 0;
}
