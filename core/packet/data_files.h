#pragma once

#include "core/analysis/analysis.h"
#include "core/packet/packet.h"
#include "core/scaling/budget.h"

#include <stop_token>
#include <string>
#include <vector>

/// Inside: what other programs read.
namespace vicegrip::packet {

/// A circuit's error budgets with the engine running, low to high; none where it has no table.
using Priced = std::vector<scaling::Budget>;
/// Of every circuit, in the job's order; of those after a stop nothing.
[[nodiscard]] std::vector<Priced> pricedOf(const analysis::Analysis& analysis, const std::stop_token& stop);

/// The largest of them as a share of the fuel; 0: the value does not enter that.
[[nodiscard]] double fuelOf(const Priced& priced);

/// tables/ID.csv and tables/ID.json, for every circuit with a table.
void addTables(std::vector<File>& to, const analysis::Analysis& analysis);
/// budgets.csv and budgets.json: how wrong each value may be, part by part, and what that does to the mixture.
void addBudgets(std::vector<File>& to, const analysis::Analysis& analysis, const std::vector<Priced>& priced);
/// facts.json: units and firmware, seats, states, limits, failed-beyond readings, trigger, flex, findings.
void addFacts(std::vector<File>& to, const analysis::Analysis& analysis);

} // namespace vicegrip::packet
