#pragma once

#include "core/review/review.h"

#include <optional>
#include <string>
#include <vector>

/// Two logs at the same condition: did a change do what it was for? The same map, the same gear, the same engine speed:
/// only the part changed (common practice).
namespace vicegrip::review {

/// What a change was for.
enum class Purpose {
    Range, ///< a sensor that reads further
    Reading, ///< another value at the same condition
    Offset, ///< what a ground added is gone
    Temperature ///< cooler, or warmer, at the same condition
};

/// In files: "range".
[[nodiscard]] std::string_view purposeName(Purpose purpose);
[[nodiscard]] Result<Purpose> purposeFromName(std::string_view name);

/// A log with what was made of it. They must outlive it.
struct Side
{
    const log::Log& log;
    const std::vector<log_columns::Meaning>& meanings;
    const Review& review;
};

struct Compared
{
    Purpose purpose = Purpose::Reading;
    std::size_t before = 0, after = 0; ///< columns
    double difference = 0; ///< after less before, SI, in the mean of all conditions that both have
    double spread = 0; ///< standard deviation of that mean: by how the conditions differ among themselves
    std::size_t conditions = 0; ///< that both logs have
    bool did = false; ///< what it was for
    std::string verdict;
};

/// One column for one purpose. Conditions are throttle by tenths, engine speed by 250 rpm, and the gear where both logs
/// tell it; each counts as often as the log that has less of it. Errors (Range): the other log has no such column, or
/// they have fewer than three conditions in common.
[[nodiscard]] Result<Compared> compare(const Side& before, const Side& after, std::size_t column, Purpose purpose);

/// Everything both logs have of the job's circuits: by what the review of the older one found, else by its reading
/// where that differs by three spreads or more.
[[nodiscard]] std::vector<Compared> compareAll(const Side& before, const Side& after);

} // namespace vicegrip::review
