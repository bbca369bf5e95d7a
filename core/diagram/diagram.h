#pragma once

#include "core/diagram/net.h"
#include "core/drawn/figure.h"

#include <vector>

/// What is wired to what? Schematics that are worked out of the job: one for power, one for grounds, one for each kind
/// of circuit and one for each plug of a unit and each bulkhead.
/// In this room too: net.h (what stands on a sheet), placing.h (inside: where its blocks stand), tracks.h (inside: how
/// its wires run between them).
namespace vicegrip::diagram {

/// One sheet drawn: blocks in columns from left to right, wires in their colours between them, each end of a wire on
/// the dot of its place ("place A.7"), so that what is drawn can be read back. No two wires lie on one another; they
/// cross where the order of the blocks leaves no way round (barycentre sweeps: Sugiyama, Tagawa, Toda, IEEE
/// Transactions on Systems, Man, and Cybernetics 11, 1981).
[[nodiscard]] drawn::Figure drawnOf(const job::Job& job, const Sheet& sheet);

/// Several of one job: what its cavities are for is worked out once.
[[nodiscard]] std::vector<drawn::Figure> drawnOf(const job::Job& job, const std::vector<Sheet>& sheets);

} // namespace vicegrip::diagram
