#pragma once

/// Switches on an input.
#include "core/switches/switch_levels.h" // what the input sees, and the two thresholds
