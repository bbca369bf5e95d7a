#pragma once

#include "core/branches/tree.h"
#include "core/drawn/figure.h"

namespace vicegrip::book {

/// How the harness branches, from a unit's plug at the left: each stretch as thick as its bundle, with its length; one
/// through a wall bears a grommet. Not to scale: the shortest stretches would be dots.
[[nodiscard]] drawn::Figure harnessFigure(const job::Job& job, const std::vector<branches::Stretch>& stretches);

} // namespace vicegrip::book
