#pragma once

/// What was live, kept as columns of numbers, and heard again.
///
///     time (s),AN1 volts (V),AN1 value (kPa),AN3 volts (V),mark
///     0.000,2.512,101.3,,
///     0.020,2.511,101.2,1.883,1
///
/// A row holds what came within two milliseconds of its time, each column once; what did not come is empty. A mark is a
/// number, counted from 1, in the row of its moment.
#include "core/recording/column.h" // which input a column is of, and in which unit
#include "core/recording/player.h" // a file, as far as a clock has come
#include "core/recording/reader.h" // from rows
#include "core/recording/writer.h" // to rows
