#include "core/capture/capture.h"
#include "core/obd/obd.h"
#include "core/recording/recording.h"

#include <cstdint>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <unistd.h>

using namespace vicegrip;

namespace {

/// Any bytes as what comes over a bus with units on it: a length, that many bytes, and so on.
void hearUnits(const std::uint8_t* data, size_t size)
{
    obd::Session session;
    double now_s = 0;
    for (size_t at = 0; at < size; now_s += 0.05) {
        const size_t bytes = std::min<size_t>(data[at] % 9, size - at - 1);
        const std::uint8_t* from = data + at + 1;
        (void)session.take(now_s, {0x7E8U + data[at] / 9 % 4, data[at] > 200, {from, from + bytes}});
        if (data[at] % 3 != 0)
            (void)session.poll(now_s);
        for (const obd::Bytes& told : session.takeTold())
            if (obd::findParameter(told.at(0)) == nullptr)
                std::abort();
        at += 1 + bytes;
    }
    if (session.units().size() > 16)
        std::abort();
}

/// The same as a recording: whatever it is, it is played to its end or refused, line by line.
void play(const std::uint8_t* data, size_t size)
{
    static const std::filesystem::path kFile =
        std::filesystem::temp_directory_path() / ("fuzz_links." + std::to_string(getpid()));
    std::ofstream(kFile, std::ios::binary).write(reinterpret_cast<const char*>(data), std::streamsize(size)); // NOLINT
    auto player = recording::Player::open(kFile, job::Job{});
    if (!player)
        return;
    std::vector<stream::Heard> heard;
    for (size_t i = 0; i <= size && !player->isOver(); ++i) // each time past at least a line
        (void)player->until(1e300, heard, [](const can_log::Frame&) {});
    if (!player->isOver())
        std::abort();
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    (void)capture::readVcd({reinterpret_cast<const char*>(data), size}); // NOLINT: bytes are characters here
    hearUnits(data, size);
    play(data, size);
    return 0;
}
