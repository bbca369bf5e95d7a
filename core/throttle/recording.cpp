#include "core/base/phrase.h"
#include "core/throttle/strokes.h"

#include "core/units/units.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::throttle {

Result<Recording> recordingFrom(const NumberTable& table)
{
    constexpr size_t kFewest = 20;
    constexpr double kLongestGap_s = 1, kLowest_v = -1, kHighest_v = 30;
    if (table.columns < 2)
        return fail(ErrorCode::Range, phrase("expected a column of time and one of volts"));
    if (table.size() < kFewest)
        return fail(ErrorCode::Range,
                    phrase("{} rows are no stroke: record from stop to stop", std::to_string(table.size())));
    const bool milliseconds = !table.names.empty() && table.names.front().find("ms") != std::string::npos;
    const double unit = milliseconds ? 1e-3 : 1;
    Recording out;
    out.time_s.reserve(table.size());
    out.volts.reserve(table.size());
    if (table.columns > 2)
        out.second.reserve(table.size());
    const auto refused = [&](size_t i, std::string sentence) {
        return fail(ErrorCode::Range, std::move(sentence), {{}, {}, table.lines[i], 0});
    };
    for (size_t i = 0; i < table.size(); ++i) {
        const auto row = table.row(i);
        const double time = row[0] * unit;
        if (i > 0 && time <= out.time_s.back())
            return refused(i, phrase("the time does not go on"));
        if (i > 0 && time - out.time_s.back() > kLongestGap_s)
            return refused(i, phrase("a gap of {} s: what the throttle did in it is not known",
                                     units::formatNumber(time - out.time_s.back(), 1)));
        for (size_t c = 1; c < std::min<size_t>(table.columns, 3); ++c)
            if (row[c] < kLowest_v || row[c] > kHighest_v)
                return refused(i,
                               phrase("{} V is no throttle signal: are these volts?", units::formatNumber(row[c], 3)));
        out.time_s.push_back(time);
        out.volts.push_back(row[1]);
        if (table.columns > 2)
            out.second.push_back(row[2]);
    }
    return out;
}

void LivePair::second(Recording& recording, double time_s, double volts)
{
    const double from = m_heard ? m_time_s : time_s, before = m_heard ? m_volts : volts;
    for (size_t i = recording.second.size(); i < recording.time_s.size() && recording.time_s[i] <= time_s; ++i) {
        const double share = time_s > from ? std::clamp((recording.time_s[i] - from) / (time_s - from), 0.0, 1.0) : 1;
        recording.second.push_back(std::lerp(before, volts, share));
    }
    m_time_s = time_s;
    m_volts = volts;
    m_heard = true;
}

void LivePair::close(Recording& recording) const
{
    constexpr double kMost = 0.2; // of the samples without a pair
    const auto all = static_cast<double>(recording.volts.size()), paired = static_cast<double>(recording.second.size());
    if (paired < (1 - kMost) * all) {
        recording.second.clear();
        return;
    }
    recording.time_s.resize(recording.second.size());
    recording.volts.resize(recording.second.size());
}

} // namespace vicegrip::throttle
