#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// The belt or chain to a wheel is long, and swings.
struct SlackBelt
{
    job::CircuitId circuit;
    double stretch_deg = 0; ///< of the crank, that its wheel comes late
    double swing_deg = 0; ///< after a valve has opened

    static constexpr std::string_view kName = "belt";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const job::Circuit* reads = job::find(job, circuit);
        return reads != nullptr && job::readsWheel(job, *reads) ? ""
                                                                : phrase("circuit \"{}\" with a wheel", circuit.value);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job&) const { return {"wheel " + circuit.value}; }
};

template <class A> void listFields(A& a, SlackBelt& f)
{
    a("circuit", f.circuit);
    a("stretch_deg", f.stretch_deg);
    a("swing_deg", f.swing_deg);
}

} // namespace vicegrip::faults
