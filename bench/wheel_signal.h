#pragma once

#include "core/electrics/electrics.h"
#include "core/job/job.h"
#include "core/trigger/turning.h"

#include <cstdint>
#include <optional>
#include <vector>

namespace vicegrip::bench {

/// A car whose engine turns, as a scope meets it.
struct TurningCar
{
    const job::Job& job; ///< as drawn
    const electrics::Electrics& electrics; ///< as it is
    const faults::FaultList& faults;
    std::optional<trigger::Turning> turning; ///< none: it stands, and shows what a meter reads
    std::uint32_t seed = 1; ///< of chance, another each time
};

/// What a scope sees between two places, sample by sample: the wheel's signal that moves them most, on what stands
/// there anyway. Empty: one of the places is not in the network.
[[nodiscard]] std::vector<float> signalBetween(const TurningCar& car, const job::PointRef& red,
                                               const job::PointRef& black, double step_s, std::size_t samples);

} // namespace vicegrip::bench
