#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// What a wheel's signal picks up on its way while the engine turns: noise, sparks, a wire that lets go.
struct NoisySignal
{
    job::CircuitId circuit;
    double noise_v = 0; ///< root mean square
    double burst_v = 0; ///< at each spark
    double dropOuts_hz = 0; ///< how often in a second its wire lets go

    static constexpr std::string_view kName = "noise";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const job::Circuit* reads = job::find(job, circuit);
        return reads != nullptr && job::readsWheel(job, *reads) ? ""
                                                                : phrase("circuit \"{}\" with a wheel", circuit.value);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& job) const
    {
        const job::Circuit* reads = job::find(job, circuit);
        return reads == nullptr ? Subjects() : Subjects{"sensor " + reads->device.value};
    }
};

template <class A> void listFields(A& a, NoisySignal& f)
{
    a("circuit", f.circuit);
    a("noise_v", f.noise_v);
    a("burst_v", f.burst_v);
    a("drop_outs_hz", f.dropOuts_hz);
}

} // namespace vicegrip::faults
