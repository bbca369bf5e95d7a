#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// The ECU counts the other edge of a wheel's signal than the job says. No meter reads otherwise for it.
struct WrongEdge
{
    job::CircuitId circuit;

    static constexpr std::string_view kName = "edge";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const job::Circuit* reads = job::find(job, circuit);
        return reads != nullptr && reads->trigger && reads->trigger->edge
                   ? ""
                   : phrase("circuit \"{}\" whose edge is said", circuit.value);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job&) const { return {"wheel edge " + circuit.value}; }
    void rewire(job::Job& job) const
    {
        job::Circuit* reads = job::find(job, circuit);
        if (reads == nullptr || !reads->trigger || !reads->trigger->edge)
            return;
        auto& edge = *reads->trigger->edge;
        edge = edge == job::CountedEdge::Falling ? job::CountedEdge::Rising : job::CountedEdge::Falling;
    }
};

template <class A> void listFields(A& a, WrongEdge& f)
{
    a("circuit", f.circuit);
}

} // namespace vicegrip::faults
