#include "core/diagnosis/heard.h"

#include "core/base/in_parallel.h"
#include "core/diagnosis/belief.h"
#include "core/electrics/answering.h"

#include <algorithm>

namespace vicegrip::diagnosis {

std::vector<double> chancesOfClicks(const analysis::Analysis& analysis, const job::CircuitId& circuit,
                                    const std::vector<Suspect>& suspects)
{
    std::vector<const clicks::Standing*> heard;
    for (const clicks::Standing& s : analysis.clicks)
        if (s.last && s.state != proof::State::Stale &&
            (s.circuit == circuit || std::ranges::count(s.last->answered, circuit) > 0))
            heard.push_back(&s);
    std::vector<double> out(suspects.size(), 1);
    if (heard.empty())
        return out;
    const job::Job& job = *analysis.job;
    inParallel(suspects.size(), [&](size_t i) {
        for (const clicks::Standing* s : heard) {
            auto would = electrics::answering(
                job,
                {.condition = job::Condition::KeyOn, .surroundings = job.surroundings, .faults = suspects[i].faults},
                job::find(job, s->circuit)->output);
            if (!would)
                continue;
            std::ranges::sort(*would);
            out[i] *= *would == s->last->answered ? 1 - kSlips : kSlips;
        }
    });
    return out;
}

} // namespace vicegrip::diagnosis
