#include "core/diagnosis/mend.h"

#include "core/electrics/unit_ways.h"

#include <algorithm>

namespace vicegrip::diagnosis {

namespace {

/// All that a mend on one of these ways may touch, as facts name it.
faults::Subjects subjectsOn(const job::Job& job, const std::vector<electrics::Path>& ways)
{
    faults::Subjects out;
    for (const electrics::Path& way : ways) {
        out.insert(way.subjects.begin(), way.subjects.end());
        for (const job::PointRef& p : way.points)
            if (p.cavity.empty())
                out.insert("stud " + p.owner);
            else
                out.merge(faults::contactAt(job, p));
    }
    return out;
}

} // namespace

job::Mend mendOf(const job::Job& job, const Suspect& suspect, std::string when)
{
    const electrics::Wiring wiring(job);
    faults::Subjects all = suspect.subjects;
    for (const job::Circuit& c : job.circuits) {
        auto ways = wiring.paths(c);
        for (electrics::Path& p : electrics::unitWays(job, wiring, c))
            ways.push_back(std::move(p));
        faults::Subjects own = subjectsOn(job, ways);
        own.insert({"sensor " + c.device.value, "actuator " + c.device.value, "input " + c.input.value,
                    "scaling " + c.id.value});
        if (std::ranges::any_of(suspect.subjects, [&](const std::string& s) { return own.contains(s); }))
            all.insert("circuit " + c.id.value);
    }
    return {{all.begin(), all.end()}, suspect.what, std::move(when)};
}

} // namespace vicegrip::diagnosis
