#pragma once

#include "core/analysis/analysis.h"
#include "core/book/content.h"
#include "core/packet/data_files.h"

#include <vector>

/// Inside: what a tuner asks of a car that somebody else wired, answered.
namespace vicegrip::packet {

/// A section for each question: the answer, and where in the packet it stands at length.
[[nodiscard]] std::vector<book::Section> questionsOf(const analysis::Analysis& analysis,
                                                     const std::vector<Priced>& priced);

/// Every value that the ECU shows, the least to be trusted first: how far it may be off, and what says so.
[[nodiscard]] std::vector<book::Block> trustOf(const analysis::Analysis& analysis, const std::vector<Priced>& priced);

} // namespace vicegrip::packet
