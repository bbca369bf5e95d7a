#pragma once

#include "core/faults/network_edits.h"

#include <limits>
#include <optional>

namespace vicegrip::faults {

/// A terminal and its pin touch badly, or not at all: it is not home, it was spread. A probe from behind reads the
/// wire.
struct BadContact
{
    job::PointRef at;
    std::optional<double> ohm; ///< more than a good one has; none: they do not touch

    static constexpr std::string_view kName = "contact";
    [[nodiscard]] std::string missing(const job::Job& job) const { return missingCavity(job, at); }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& job) const { return contactAt(job, at); }
    void change(NetworkEdits& net) const
    {
        net.contact_ohm[at] += ohm.value_or(std::numeric_limits<double>::infinity());
    }
};

template <class A> void listFields(A& a, BadContact& f)
{
    place(a, "at", f.at);
    a("ohm", f.ohm);
}

} // namespace vicegrip::faults
