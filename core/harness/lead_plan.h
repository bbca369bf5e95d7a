#pragma once

#include "core/job/job.h"

#include <vector>

/// Which wires are laid twisted, and where a shield's drain lands.
namespace vicegrip::harness {

/// A bus's two wires are twisted all along, and what comes from a trigger's coil lies in a shield: a few tenths of a
/// volt at cranking, beside ignition leads (common practice). Wires that lie in a lead stay in it.
void layLeads(job::Job& job, const job::CircuitId& circuit);

/// The two ends a shield may be landed at: the sensor ground of the unit it leads to, where it belongs, and metal at
/// its other end. Either is empty where the drawing has no such place.
struct DrainPlaces
{
    job::PointRef atEcu, atMetal;
};
[[nodiscard]] DrainPlaces drainPlaces(const job::Job& job, const parts::Ecu& unit);

} // namespace vicegrip::harness
