#include "core/can_log/can_log.h"
#include "core/dbc/dbc.h"

#include <cstdint>
#include <cstdlib>

using namespace vicegrip;

/// Any bytes as a description of a bus and as a recording of one: every signal that is read lies in its message, every
/// frame decodes, and what is written is read again.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    const std::string_view text(reinterpret_cast<const char*>(data), size); // NOLINT: bytes are characters here
    if (const auto bus = dbc::read(text)) {
        std::vector<dbc::Value> values;
        for (const dbc::Message& m : bus->database.messages()) {
            for (const dbc::Signal& s : m.carries)
                if (s.end() > m.bytes)
                    std::abort();
            dbc::decode(m, {data, std::min<size_t>(size, dbc::kMostBytes)}, values);
        }
    }
    (void)can_log::read(text, [](const can_log::Frame& frame) {
        if (!can_log::readLine(can_log::line(frame)))
            std::abort();
        return true;
    });
    return 0;
}
