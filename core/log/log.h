#pragma once

/// What an ECU logged while the car was driven, from a CSV of any maker: as columns of numbers over time.
///
///     Result<Log> log = log::readLog("evening.csv");
///     log->columns[3].name                      // "Manifold pressure"
///     log->columns[3].unit                      // "kPa", from the header or from the line under it
///     log->columns[3].values[i]                 // no number: nothing stood in that row
///     log->time_s[i]                            // from the first row, never falling
///
/// Whatever a logger may do to its files is taken with a remark that has the line: text among numbers, rows cut short,
/// headers that come again, clocks that wrap or go back, two rates between each other.
#include "core/log/cell.h" // inside: a cell as a number or a time
#include "core/log/layout_of_log.h" // inside: what separates cells, what the columns are called, which is the time
#include "core/log/logged.h" // columns over time
#include "core/log/one_clock.h" // inside: times of rows on one clock
#include "core/log/read_log.h" // from a file
#include "core/log/rows_of_piece.h" // inside: the rows of a piece of a file
#include "core/log/summary.h" // count, mean, spread of a column
#include "core/log/write_log.h" // and back
