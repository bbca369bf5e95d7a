#pragma once

/// What is in the tank and what the flex-fuel sensor says of it.
#include "core/fuel/blend.h" // fuels poured together, targets, stoichiometric ratios, settling
#include "core/fuel/fill_watch.h" // a fill beside its curve
#include "core/fuel/flex.h" // frequency and pulse width
