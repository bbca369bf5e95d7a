#pragma once

#include "core/base/phrase.h"
#include "core/faults/network_edits.h"
#include "core/job/facts.h"

namespace vicegrip::faults {

/// Another part is fitted than the one planned: another range, another curve.
struct OtherPart
{
    job::DeviceId device;
    parts::Part part; ///< whole

    static constexpr std::string_view kName = "other-part";
    [[nodiscard]] std::string missing(const job::Job& job) const
    {
        return job::find(job, device) != nullptr ? "" : phrase("device \"{}\"", device.value);
    }
    /// What a mend of it touches, as facts name it.
    [[nodiscard]] Subjects subjects(const job::Job& /*job*/) const { return {job::partSubject(part, device)}; }
    void rewire(job::Job& job) const;
};

template <class A> void listFields(A& a, OtherPart& f)
{
    a("device", f.device);
    a("part", f.part);
}

} // namespace vicegrip::faults
