#pragma once

/// Throttles and pedals: strokes, dead spots, and the limits they are calibrated to.
#include "core/throttle/dead_spots.h" // where the track does not follow
#include "core/throttle/idle_air.h" // the stop screw and the idle valve
#include "core/throttle/limits.h" // closed and open limits: what they rest on, whether they stand, their table
#include "core/throttle/strokes.h" // what a recording of strokes says
