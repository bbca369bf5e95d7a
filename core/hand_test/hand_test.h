#pragma once

/// Is every tooth of this wheel seen while the engine is turned by hand?
#include "core/hand_test/count.h" // tooth by tooth through one turn
#include "core/hand_test/due.h" // what the meter must read on a tooth and in a gap
#include "core/hand_test/standing.h" // what was kept of it, and whether that still stands
