#include "core/faults/kinds/other_part.h"

#include <algorithm>

namespace vicegrip::faults {

void OtherPart::rewire(job::Job& job) const
{
    const auto fitted = std::ranges::find(job.devices, device, &job::Device::id);
    if (fitted == job.devices.end())
        return;
    parts::Part& added = job.parts.emplace_back(part);
    while (std::ranges::count(job.parts, added.id, &parts::Part::id) > 1) // the job may hold one of that name
        added.id.value += "-fitted";
    fitted->part = added.id;
}

} // namespace vicegrip::faults
