#pragma once

#include "core/job/job.h"

namespace vicegrip::brief {

/// Air to fuel by mass where the job's fuel burns completely, for lambda shown as an air-fuel ratio: of the pump fuel
/// its flex sensor showed, else of petrol without ethanol; of E85 for an engine on one ethanol blend. A sensed blend is
/// read on the scale of its pump fuel, as gauges are (common practice, no source).
[[nodiscard]] double airFuelRatio(const job::Job& job);

} // namespace vicegrip::brief
