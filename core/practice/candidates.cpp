#include "core/practice/candidates.h"

#include "core/wiggle/wiggle.h"

#include <algorithm>
#include <set>

namespace vicegrip::practice {

diagnosis::Suspect looseSuspect(const job::Job& job, const faults::Loose& what)
{
    diagnosis::Suspect out;
    out.family = kComesAndGoes;
    out.faults = {what};
    out.what = wiggle::whatText(job, {what});
    out.subjects = what.subjects(job);
    return out;
}

const std::string& candidateText(const diagnosis::Suspect& candidate)
{
    return candidate.series.empty() ? candidate.what : candidate.mend;
}

std::vector<diagnosis::Suspect> candidates(const analysis::Analysis& of, const job::CircuitId& circuit,
                                           const diagnosis::Families& families, const parts::Library& library)
{
    std::vector<diagnosis::Suspect> all = diagnosis::suspects(of, circuit, families, library);
    for (const wiggle::Hold& h : wiggle::holds(*of.job, circuit, job::Condition::KeyOn))
        for (const wiggle::MayLetGo& m : h.may)
            all.push_back(looseSuspect(*of.job, m.what));
    std::set<std::string> said;
    std::erase_if(
        all, [&](const diagnosis::Suspect& s) { return s.subjects.empty() || !said.insert(candidateText(s)).second; });
    return all;
}

} // namespace vicegrip::practice
