#pragma once

#include "core/units/units.h"

#include <span>
#include <string_view>

/// The table of units: the only place a conversion factor is written.
namespace vicegrip::units {

/// si = value * factor + offset.
struct Unit
{
    std::string_view name; ///< as typed, after spaces, degree words and superscripts are folded
    double factor = 1;
    double offset = 0;
};

struct DimensionFacts
{
    Dimension dimension;
    std::string_view name; ///< in files
    std::string_view everyday; ///< shown first
    std::string_view expected; ///< ends the sentence "expected ..."
    Range range; ///< wider than any car, narrower than nonsense
    std::span<const Unit> units;
    bool bareNumber = false; ///< a number without a unit is complete
};

[[nodiscard]] const DimensionFacts& facts(Dimension dimension);
[[nodiscard]] std::span<const DimensionFacts> allFacts();

/// The unit of this folded name, or null.
[[nodiscard]] const Unit* findUnit(const DimensionFacts& dimension, std::string_view foldedName);

/// Folds what people type to what the table holds: "° C" -> "C", "mm²" -> "mm2", "µ" -> "u", both ohm signs -> "ohm".
[[nodiscard]] std::string fold(std::string_view unit);

} // namespace vicegrip::units
