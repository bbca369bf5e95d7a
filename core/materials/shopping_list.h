#pragma once

#include "core/job/job.h"
#include "core/materials/habits.h"

#include <string>
#include <vector>

/// What is bought for a job's harness.
namespace vicegrip::materials {

/// Something to buy.
struct Item
{
    std::string what; ///< sizes in mm and mm², as files have them
    std::string unit; ///< "pcs" or "m"
    double needed = 0, spare = 0;
    std::string why; ///< of the spares
    std::string shown = what; ///< as a person reads it
};

inline constexpr double kShrink_m = 0.05; ///< over the end of a sleeve at a plug (typical)

/// Wire by area and colour, terminals and seals by family, blank plugs, plugs, resistors, splices; sleeves, shrink and
/// grommets for the stretches of the harness; spares as the workshop has them.
[[nodiscard]] std::vector<Item> shoppingList(const job::Job& job, const Habits& habits = {});

/// So much of an item, as a person reads it: "12 pcs", "4.3 m".
[[nodiscard]] std::string amountText(const Item& item, double amount);

/// RFC 4180, a header line first. Lengths in m.
[[nodiscard]] std::string toCsv(const std::vector<Item>& items);

} // namespace vicegrip::materials
