#include "core/diagram/tracks.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::diagram {
namespace {

constexpr double kUprightApart_mm = 0.8; ///< between two that are on one upright

struct Upright
{
    size_t run = 0;
    double top = 0, bottom = 0;
    int way = 0; ///< 1: down, -1: up, 0: back to its own side
    double starts = 0; ///< at the left
};

bool overlap(const Upright& a, const Upright& b)
{
    return a.top < b.bottom + kUprightApart_mm && b.top < a.bottom + kUprightApart_mm;
}

} // namespace

Tracks tracksOf(const Placed& placed)
{
    Tracks out{std::vector<int>(placed.runs.size(), -1), std::vector<int>(placed.columns.size(), 0)};
    for (int channel = 0; channel < static_cast<int>(placed.columns.size()); ++channel) {
        std::vector<Upright> uprights;
        for (size_t i = 0; i < placed.runs.size(); ++i) {
            const Run& run = placed.runs[i];
            if (run.channel(placed.blocks) != channel || std::abs(run.y_mm[0] - run.y_mm[1]) < 1e-9)
                continue;
            uprights.push_back({i, std::min(run.y_mm[0], run.y_mm[1]), std::max(run.y_mm[0], run.y_mm[1]),
                                !run.crosses()              ? 0
                                : run.y_mm[1] > run.y_mm[0] ? 1
                                                            : -1,
                                run.y_mm[0]});
        }
        std::ranges::stable_sort(uprights, [](const Upright& a, const Upright& b) {
            if (a.way != b.way)
                return a.way > b.way;
            return a.way > 0 ? a.starts > b.starts : a.starts < b.starts;
        });
        for (size_t i = 0; i < uprights.size(); ++i) {
            int least = 0;
            std::vector<int> taken;
            for (size_t j = 0; j < i; ++j)
                if (overlap(uprights[i], uprights[j])) {
                    const int track = out.of[uprights[j].run];
                    taken.push_back(track);
                    if (uprights[j].way == uprights[i].way)
                        least = std::max(least, track + 1);
                }
            while (std::ranges::find(taken, least) != taken.end())
                ++least;
            out.of[uprights[i].run] = least;
            auto& count = out.count[static_cast<size_t>(channel)];
            count = std::max(count, least + 1);
        }
    }
    return out;
}

} // namespace vicegrip::diagram
