#include "core/findings/lead_checks.h"

#include "core/base/phrase.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"

#include <algorithm>

namespace vicegrip::findings {
namespace {

/// Of the lead's first core: what people know it by.
std::string nameOf(const job::Job& job, const job::Lead& lead)
{
    const auto core = std::ranges::find(job.wires, lead.cores.front(), &job::Wire::id);
    return phrase("The shield of {} ({} to {})", lead.id, job::spoken(job, core->from), job::spoken(job, core->to));
}

} // namespace

void checkLeads(std::vector<Finding>& out, const job::Job& job)
{
    for (const job::Lead& lead : job.leads) {
        if (!lead.shield || lead.drain.size() == 1)
            continue;
        if (lead.drain.empty()) {
            out.push_back({"shield-open",
                           Severity::Fix,
                           {},
                           phrase("{} lands nowhere", nameOf(job, lead)),
                           phrase("A shield that is on nothing couples what it catches into the cores."),
                           phrase("Land its drain at the ECU's sensor ground, and only there.")});
            continue;
        }
        const double ohm = parts::wireOhms(job::lengthOf(job, lead), parts::kDrain_m2, job.surroundings.ambient_k);
        out.push_back(
            {"shield-both-ends",
             Severity::Fix,
             {},
             phrase("{} lands at both ends: {} between {} and {}", nameOf(job, lead),
                    units::format(ohm, units::Dimension::Resistance, "Ω", 2), job::spoken(job, lead.drain[0]),
                    job::spoken(job, lead.drain[1])),
             phrase("It is a ground wire then: what flows between the two grounds flows beside the signal it is meant "
                    "to keep clean."),
             phrase("Cut the drain back at {} and leave it at the ECU.", job::spoken(job, lead.drain[1]))});
    }
}

} // namespace vicegrip::findings
