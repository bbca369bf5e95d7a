#pragma once

#include "core/base/phrase.h"
#include "core/faults/kinds/open_wire.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// A wire that lets go for moments, much oftener while hands move it: a spread terminal, a crimp on two strands, a
/// conductor broken inside its cover. While nobody moves it the network is as drawn.
struct Loose
{
    job::WireId wire;
    job::PointRef at; ///< which end of it; empty: somewhere between its ends

    static constexpr std::string_view kName = "loose";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const auto w = std::ranges::find(job.wires, wire, &job::Wire::id);
        if (w == job.wires.end())
            return missingWire(job, wire);
        return at.empty() || at == w->from || at == w->to
                   ? ""
                   : phrase("end of wire \"{}\" at \"{}\"", wire.value, at.text());
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& job) const { return OpenWire{wire}.subjects(job); }

    /// What hands hold while they move it: the plug, the splice or the stud that it ends at, or the wire.
    [[nodiscard]] std::string heldAs() const { return at.empty() ? "wire " + wire.value : at.owner; }
    bool operator==(const Loose&) const = default;
};

template <class A> void listFields(A& a, Loose& f)
{
    a("wire", f.wire);
    place(a, "at", f.at);
}

} // namespace vicegrip::faults
