#include "core/capture/capture.h"
#include "core/obd/obd.h"
#include "core/recording/recording.h"
#include "core/trigger/trigger.h"

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
void play(const std::filesystem::path& file, size_t size)
{
    auto player = recording::Player::open(file, job::Job{});
    if (!player)
        return;
    std::vector<stream::Heard> heard;
    for (size_t i = 0; i <= size && !player->isOver(); ++i) // each time past at least a line
        (void)player->until(1e300, heard, [](const can_log::Frame&) {});
    if (!player->isOver())
        std::abort();
}

/// And as a capture of any kind: what is read is looked at, and every verdict says what it is of.
void look(const std::filesystem::path& file)
{
    const auto seen = capture::readCapture(file);
    if (!seen)
        return;
    std::optional<trigger::Report> first;
    for (const capture::Channel& c : seen->channels)
        for (const bool coil : {false, true}) {
            const auto look = c.isOfChanges() ? trigger::lookAtChanges(c.changes_s, c.volts, {})
                                              : trigger::lookAt(c.volts, seen->step_s, {}, coil);
            if (!look)
                continue;
            for (const trigger::Verdict& v : trigger::verdicts(*look, {}, trigger::Scale::Volts))
                if (v.what.empty() || v.is.empty())
                    std::abort();
            if (!first)
                first = look->report;
            (void)trigger::camBeside(*first, look->report.times_s);
            (void)trigger::wheelAngle(look->report, seen->seconds / 2);
        }
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    (void)capture::readVcd(TextLines({reinterpret_cast<const char*>(data), size})); // NOLINT: bytes are characters here
    hearUnits(data, size);
    static const std::filesystem::path kFile =
        std::filesystem::temp_directory_path() / ("fuzz_links." + std::to_string(getpid()));
    std::ofstream(kFile, std::ios::binary).write(reinterpret_cast<const char*>(data), std::streamsize(size)); // NOLINT
    play(kFile, size);
    look(kFile);
    return 0;
}
