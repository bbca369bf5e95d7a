#pragma once

#include "core/analysis/analysis.h"
#include "core/diagnosis/diagnosis.h"

#include <vector>

namespace vicegrip::practice {

/// What a learner can name as wrong with a circuit, in the order its ways go: once each, whatever its size, and each
/// end that may come and go. Nothing of the round has part in it.
[[nodiscard]] std::vector<diagnosis::Suspect> candidates(const analysis::Analysis& of, const job::CircuitId& circuit,
                                                         const diagnosis::Families& families,
                                                         const parts::Library& library);

/// As a list has it: what is wrong; of what has a size, what hands do about it.
[[nodiscard]] const std::string& candidateText(const diagnosis::Suspect& candidate);

/// An end of a wire that comes and goes.
[[nodiscard]] diagnosis::Suspect looseSuspect(const job::Job& job, const faults::Loose& what);

/// The family of those, beside the ones of the catalogue's data.
inline constexpr std::string_view kComesAndGoes = "comes-and-goes";

} // namespace vicegrip::practice
