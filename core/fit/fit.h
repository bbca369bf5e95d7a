#pragma once

/// Curves through readings.
#include "core/fit/least_worst.h" // unknowns whose worst error is least
#include "core/fit/line.h" // a line with errors in both axes
#include "core/fit/monotone.h" // a curve that never turns
#include "core/fit/thermistor.h" // Steinhart-Hart
