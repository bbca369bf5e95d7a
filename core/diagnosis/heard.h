#pragma once

#include "core/analysis/analysis.h"
#include "core/diagnosis/suspect.h"

#include <vector>

/// What the click test says of each suspect.
namespace vicegrip::diagnosis {

/// By suspect: the chance of what answered when outputs were clicked, as far as those clicks stand and have to do with
/// the circuit. The network says what would answer; one click in fifty is misheard.
[[nodiscard]] std::vector<double> chancesOfClicks(const analysis::Analysis& analysis, const job::CircuitId& circuit,
                                                  const std::vector<Suspect>& suspects);

} // namespace vicegrip::diagnosis
