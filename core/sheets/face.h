#pragma once

#include "core/drawn/figure.h"
#include "core/job/job.h"

/// Connector faces at their own size.
namespace vicegrip::sheets {

/// One face of a plug, 1:1: its housing, latch or rib, every cavity with its number and the colour of the wire that
/// belongs in it. "place A.7" names a cavity.
[[nodiscard]] drawn::Figure faceFigure(const job::Job& job, const job::Connector& connector, parts::Face face);

} // namespace vicegrip::sheets
