#include "core/diagnosis/mend.h"

#include "core/electrics/wiring.h"

#include <algorithm>

namespace vicegrip::diagnosis {

job::Mend mendOf(const job::Job& job, const Suspect& suspect, std::string when)
{
    const electrics::Wiring wiring(job);
    faults::Subjects all = suspect.subjects, drawn;
    for (const job::Circuit& c : job.circuits) {
        faults::Subjects ways = {"sensor " + c.device.value, "actuator " + c.device.value, "input " + c.input.value,
                                 "scaling " + c.id.value};
        for (const electrics::Path& path : wiring.paths(c))
            ways.insert(path.subjects.begin(), path.subjects.end());
        if (std::ranges::any_of(suspect.subjects, [&](const std::string& s) { return ways.contains(s); }))
            all.insert("circuit " + c.id.value);
        drawn.merge(ways);
    }
    const bool unit = std::ranges::any_of(suspect.subjects, [&](const std::string& s) { return !drawn.contains(s); });
    for (const job::Circuit& c : job.circuits)
        if (unit)
            all.insert("circuit " + c.id.value);
    return {{all.begin(), all.end()}, suspect.what, std::move(when)};
}

} // namespace vicegrip::diagnosis
