#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// A wheel that its sensor does not see as it should: too far away, out of true, or with teeth that are chipped.
struct WheelOff
{
    job::CircuitId circuit;
    double gap_m = 1.5e-3; ///< in the middle of a turn
    double runOut_m = 0; ///< from the least gap to the greatest, which is at the first tooth
    std::vector<int> chipped; ///< teeth, from 1

    static constexpr std::string_view kName = "wheel";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const job::Circuit* reads = job::find(job, circuit);
        return reads != nullptr && reads->trigger && !reads->trigger->wheel.empty()
                   ? ""
                   : phrase("circuit \"{}\" with a wheel", circuit.value);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job&) const
    {
        return {(chipped.empty() ? "air gap " : "wheel ") + circuit.value};
    }
};

template <class A> void listFields(A& a, WheelOff& f)
{
    a("circuit", f.circuit);
    a("gap_m", f.gap_m);
    a("run_out_m", f.runOut_m);
    a("chipped", f.chipped);
}

} // namespace vicegrip::faults
