#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// A sensor reads beside what there is: aged, heated, knocked.
struct Drift
{
    job::CircuitId circuit;
    double share = 0; ///< of its range, up or down

    static constexpr std::string_view kName = "drift";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        const job::Circuit* drifted = job::find(job, circuit);
        return drifted != nullptr && job::sensorOf(job, *drifted) != nullptr
                   ? ""
                   : phrase("circuit \"{}\" with a sensor", circuit.value);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& job) const
    {
        const job::Circuit* drifted = job::find(job, circuit);
        return drifted == nullptr ? Subjects() : Subjects{"sensor " + drifted->device.value};
    }
    void change(NetworkEdits& net) const { net.drift[circuit] += share; }
};

template <class A> void listFields(A& a, Drift& f)
{
    a("circuit", f.circuit);
    a("share", f.share);
}

} // namespace vicegrip::faults
