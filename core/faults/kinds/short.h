#pragma once

#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// Two places touch: a chafed wire, a strand across two cavities.
struct Short
{
    job::PointRef point, to;
    double ohm = 0.1;

    static constexpr std::string_view kName = "short";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const std::string one = missingPlace(job, point);
        return one.empty() ? missingPlace(job, to) : one;
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& job) const { return wiresAt(job, {point, to}); }
    void change(NetworkEdits& net) const { net.bridges.push_back({point, to, ohm}); }
};

template <class A> void listFields(A& a, Short& f)
{
    place(a, "point", f.point);
    place(a, "to", f.to);
    a("ohm", f.ohm);
}

} // namespace vicegrip::faults
