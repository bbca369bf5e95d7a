#pragma once

#include "core/branches/tree.h"
#include "core/materials/cut_list.h"
#include "core/sheets/face_sheets.h"

#include <vector>

/// What is laid on the metal and on the wire at 1:1.
namespace vicegrip::sheets {

/// The hole for each stretch that goes through a wall: what is drilled for its grommet, a cross on its centre, and what
/// to look for behind the wall. "hole A to B" names the ring. Refused: a bundle for which no usual grommet is large
/// enough, or a hole that is larger than the paper.
[[nodiscard]] Pages holeSheets(const job::Job& job, const std::vector<branches::Stretch>& stretches, const Size& paper);

/// A bar for each length that ends are stripped to, with the ends that take it: the wire is laid on it. "strip 5.5"
/// names the bar.
[[nodiscard]] Pages stripSheets(const std::vector<materials::Cut>& cuts, const Size& paper);

} // namespace vicegrip::sheets
