#include "cli/printing.h"
#include "core/base/csv.h"
#include "core/base/document.h"
#include "core/can_log/can_log.h"
#include "core/dbc/dbc.h"
#include "core/units/units.h"

#include <cmath>
#include <iostream>

namespace vicegrip::cli {
namespace {

constexpr size_t kMostLog = 1U << 30; ///< bytes

/// A value as a table has it: the name that the file gives its number, where it has one.
std::string shown(const dbc::Value& v)
{
    constexpr double kMost = 9e18; // of what is counted
    const double raw = std::round((v.value - v.signal->offset) / v.signal->scale);
    if (std::abs(raw) < kMost) // and not: no number at all
        if (const auto named = v.signal->names.find(static_cast<std::int64_t>(raw)); named != v.signal->names.end())
            return named->second;
    return units::shortest(v.value);
}

} // namespace

int decode(const DecodeOptions& options)
{
    const auto bus = dbc::readFile(options.dbc);
    if (!bus)
        return refuse(bus.error(), kUnreadable);
    for (const Error& remark : bus->remarks)
        std::cerr << remark.text() << '\n';
    const auto log = document::readFile(options.log, kMostLog);
    if (!log)
        return refuse(log.error(), kUnreadable);
    std::cout << csv::row({"time (s)", "bus", "message", "signal", "value", "unit"});
    size_t frames = 0, unknown = 0, shorter = 0;
    std::vector<dbc::Value> values;
    const auto read = can_log::read(*log, [&](const can_log::Frame& frame) {
        ++frames;
        const dbc::Message* message =
            frame.error || frame.remote ? nullptr : bus->database.find(frame.id, frame.extended);
        if (message == nullptr) {
            ++unknown;
            return true;
        }
        shorter += std::ssize(frame.data) < message->bytes ? 1 : 0;
        dbc::decode(*message, frame.data, values);
        std::array<char, 32> time{};
        (void)std::snprintf(time.data(), time.size(), "%.6f", frame.time_s);
        for (const dbc::Value& v : values)
            std::cout << csv::row({time.data(), frame.bus, message->name, v.signal->name, shown(v), v.signal->unit});
        return true;
    });
    if (!read) {
        Error error = read.error();
        error.place.file = options.log;
        return refuse(error, kUnreadable);
    }
    std::cerr << frames << " frames, " << unknown << " that the file does not describe, " << shorter
              << " shorter than it says\n";
    return kFine;
}

} // namespace vicegrip::cli
