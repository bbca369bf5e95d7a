#include "core/diagnosis/suspicions.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <map>

namespace vicegrip::diagnosis {
namespace {

using job::PointRef;

/// The day that was last worked on: of pins and readings.
std::string lastDay(const job::Job& job)
{
    std::string out;
    for (const job::Pinned& p : job.pinned)
        out = std::max(out, p.when.substr(0, 10));
    for (const job::Proof& p : job.proofs)
        out = std::max(out, p.when.substr(0, 10));
    return out;
}

} // namespace

Suspicions::Suspicions(const job::Job& job, const Families& families)
    : m_job(job), m_families(families), m_day(lastDay(job))
{
    for (const job::Pinned& p : job.pinned)
        if (!m_day.empty() && p.when.starts_with(m_day))
            m_today.insert(p.at);
}

void Suspicions::add(Suspect s)
{
    const auto family = m_families.find(s.family);
    if (family == m_families.end())
        return;
    constexpr double kJustWorkedOn = 3; // typical
    s.weight = family->second.weight;
    if (std::ranges::any_of(s.places, [&](const PointRef& p) { return m_today.contains(p); })) {
        s.weight *= kJustWorkedOn;
        s.raised = phrase("hands were there on {}", m_day);
    }
    for (const faults::Fault& fault : s.faults)
        s.subjects.merge(faults::subjectsOf(fault, m_job));
    constexpr double kMended = 0.05; // typical; each time one mend in twenty does not take
    for (const job::Mend& m : m_job.mends)
        if (!s.subjects.empty() && faults::isIn(s.subjects, m)) {
            s.weight *= kMended;
            s.raised = phrase("mended already");
        }
    m_out.push_back(std::move(s));
}

std::vector<Suspect> Suspicions::take()
{
    std::map<std::string_view, double> counts;
    for (const Suspect& s : m_out)
        ++counts[s.family];
    for (Suspect& s : m_out)
        s.weight /= counts[s.family];
    return std::move(m_out);
}

} // namespace vicegrip::diagnosis
