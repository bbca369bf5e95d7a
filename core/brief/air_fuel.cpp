#include "core/brief/air_fuel.h"

#include "core/fuel/blend.h"

namespace vicegrip::brief {

double airFuelRatio(const job::Job& job)
{
    constexpr double kE85 = 0.85;
    if (job.brief && job.brief->fuel == job::Fuel::Ethanol)
        return fuel::stoichiometric(kE85);
    return fuel::stoichiometric(job.tank ? job.tank->baseline.value_or(0) : 0);
}

} // namespace vicegrip::brief
