#pragma once

#include "core/review/rows.h"

#include <vector>

/// The rules, each with a file of its own. They add what they find.
namespace vicegrip::review {

using Findings = std::vector<Finding>;

/// Rules that look at one column at a time, and may run side by side.
void endsOf(const Rows& rows, std::size_t column, Findings& out);
void frozenOf(const Rows& rows, std::size_t column, Findings& out);
void lettingGoOf(const Rows& rows, std::size_t column, Findings& out);

void commonSteps(const Rows& rows, Findings& out);
void sags(const Rows& rows, Findings& out);
void intakeAir(const Rows& rows, Findings& out);
void throttleEnds(const Rows& rows, Findings& out);
void tracks(const Rows& rows, Findings& out);
void trends(const Rows& rows, Findings& out);
void ethanol(const Rows& rows, Findings& out);
void correction(const Rows& rows, Findings& out);

/// The nearer of the sensor's ends and the table's, in the column's own numbers.
[[nodiscard]] Ends endsAt(const Rows& rows, std::size_t column);

} // namespace vicegrip::review
