#pragma once

#include "core/faults/network_edits.h"

namespace vicegrip::faults {

/// The alternator gives nothing: with the engine running the battery is at its own volts.
struct NoCharge
{
    static constexpr std::string_view kName = "no-charge";
    [[nodiscard]] std::string missing(const job::Job& /*job*/) const { return {}; }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& /*job*/) const { return {"charging"}; }
    void rewire(job::Job& job) const { job.battery.charging_v = job.battery.volts; }
};

template <class A> void listFields(A& /*a*/, NoCharge& /*f*/) {}

} // namespace vicegrip::faults
