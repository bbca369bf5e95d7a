#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

#include <algorithm>

namespace vicegrip::faults {

/// A wire ends somewhere else than drawn: on another stud, at another feed, on the sensors' ground.
struct MovedEnd
{
    job::WireId wire;
    job::PointRef at; ///< as drawn
    job::PointRef to; ///< as it is

    static constexpr std::string_view kName = "moved-end";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const auto drawn = std::ranges::find(job.wires, wire, &job::Wire::id);
        if (drawn == job.wires.end())
            return missingWire(job, wire);
        if (drawn->from != at && drawn->to != at)
            return phrase("end of wire {} at {}", wire.value, at.text());
        return missingPlace(job, to);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& /*job*/) const { return {"wire " + wire.value}; }
    void rewire(job::Job& job) const
    {
        for (job::Wire& w : job.wires)
            if (w.id == wire)
                (w.from == at ? w.from : w.to) = to;
    }
};

template <class A> void listFields(A& a, MovedEnd& f)
{
    a("wire", f.wire);
    place(a, "at", f.at);
    place(a, "to", f.to);
}

} // namespace vicegrip::faults
