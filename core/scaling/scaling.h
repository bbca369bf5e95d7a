#pragma once

/// From the measurand to the number the ECU shows: transfer, table, error budget.
#include "core/scaling/as_measured.h" // a sensor as its readings have it
#include "core/scaling/breakpoints.h" // where points go so that lines miss a curve least
#include "core/scaling/budget.h" // the error budget: how wrong the value can be, part by part
#include "core/scaling/captured.h" // readings beside another instrument against what the sheet promises
#include "core/scaling/coefficients.h" // that formula for an input
#include "core/scaling/exchange.h" // tables as text, and back, and against each other
#include "core/scaling/formula.h" // what an ECU without points works by
#include "core/scaling/pairs.h" // readings somebody wrote down
#include "core/scaling/place_points.h" // points on the grids of an ECU
#include "core/scaling/polynomial.h" // the best polynomial
#include "core/scaling/search_range.h" // how far beyond its range a value is looked for
#include "core/scaling/table.h" // the table an ECU holds
#include "core/scaling/transfer.h" // the measurand to volts or Hz, through the real circuit
#include "core/scaling/worst_error.h" // how wrong a table is anywhere
