#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

#include <algorithm>

namespace vicegrip::faults {

/// What a relay's coil or a switch takes its power from is cut off while the starter turns: a feed of the key's
/// accessories.
struct DeadCranking
{
    std::string contact; ///< a switch of the job that needs the key

    static constexpr std::string_view kName = "dead-cranking";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const auto it = std::ranges::find(job.switches, contact, &job::Switch::id);
        return it != job.switches.end() && it->needsKey ? "" : phrase("switch \"{}\" that needs the key", contact);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& /*job*/) const { return {"switch " + contact}; }
    void rewire(job::Job& job) const
    {
        for (job::Switch& s : job.switches)
            if (s.id == contact)
                s.opensCranking = true;
    }
};

template <class A> void listFields(A& a, DeadCranking& f)
{
    a("switch", f.contact);
}

} // namespace vicegrip::faults
