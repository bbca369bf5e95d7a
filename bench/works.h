#pragma once

#include "core/electrics/electrics.h"
#include "core/job/job.h"

namespace vicegrip::bench {

/// What the wiring lets an engine have: a part that no circuit of the job drives is there as it always was.
struct Works
{
    int injected = 0; ///< cylinders whose injector opens
    int firing = 0; ///< of them, with a spark
    double pump = 0, fan = 0; ///< shares of what they get in a good car
    double starter_v = 0; ///< across the starter while it turns
};

/// Of a job as it was built, in this situation, in which the engine turns; with everything on that may be. What hangs
/// behind a contact is held against the same car without faults. A car that cannot be solved lets it have nothing.
[[nodiscard]] Works worksOf(const job::Job& job, electrics::Situation is);

} // namespace vicegrip::bench
