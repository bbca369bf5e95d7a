#pragma once

#include "core/faults/network_edits.h"

#include <array>

namespace vicegrip::faults {

/// Two cavities of a plug are exchanged: each wire is in the other's.
struct SwappedCavities
{
    std::string connector;
    std::array<std::string, 2> cavities;

    static constexpr std::string_view kName = "swap";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const std::string one = missingCavity(job, {connector, cavities[0]});
        return one.empty() ? missingCavity(job, {connector, cavities[1]}) : one;
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& job) const
    {
        return wiresAt(job, {{connector, cavities[0]}, {connector, cavities[1]}});
    }
    void rewire(job::Job& job) const
    {
        permute(job, connector, {{cavities[0], cavities[1]}, {cavities[1], cavities[0]}});
    }
};

template <class A> void listFields(A& a, SwappedCavities& f)
{
    a("connector", f.connector);
    std::vector<std::string> both(f.cavities.begin(), f.cavities.end());
    a("cavities", both);
    if (both.size() == 2)
        f.cavities = {both[0], both[1]};
}

} // namespace vicegrip::faults
