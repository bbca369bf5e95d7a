#pragma once

#include <algorithm>
#include <string>
#include <vector>

namespace vicegrip::capture {

/// One channel of a capture.
struct Channel
{
    std::string name;
    std::vector<float> volts; ///< at each sample, or of each change; 0 and 1 where the file knows only logic levels
    std::vector<double> changes_s; ///< when it changed to each of `volts`; empty: samples evenly in time
    bool operator==(const Channel&) const = default;

    [[nodiscard]] bool isOfChanges() const { return !changes_s.empty(); }
};

struct Seen
{
    double step_s = 0; ///< from sample to sample; 0: every channel is of changes
    double seconds = 0; ///< from its beginning to its end
    std::vector<Channel> channels;
    bool ofFullScale = false; ///< a sound file: its numbers are shares of the loudest there is, and no volts
};

/// Whether it knows 0 and 1 and nothing else, as of a logic analyser.
[[nodiscard]] inline bool isLogic(const Channel& c)
{
    return c.isOfChanges() && std::all_of(c.volts.begin(), c.volts.end(), [](float v) { return v == 0 || v == 1; });
}

} // namespace vicegrip::capture
