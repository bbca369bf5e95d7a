#pragma once

#include "core/base/result.h"

#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

/// The order an engine's cylinders fire in.
///
///     firingOrderFrom("1-3-4-2", 4)     // {1, 3, 4, 2}
///     companionOf({1, 3, 4, 2}, 3)      // 2: half an order apart, their pistons move together
namespace vicegrip::brief {

/// From "1-3-4-2", "1 3 4 2", "1,3,4,2" or, below ten cylinders, "1342". Each cylinder once: what is missing or said
/// twice is named (Range).
[[nodiscard]] Result<std::vector<int>> firingOrderFrom(std::string_view typed, int cylinders);

/// Whether these are the engine's cylinders, each once; the sentence names what is missing or said twice.
[[nodiscard]] Result<void> checkEachOnce(const std::vector<int>& cylinders, int count);

/// "1-3-4-2"; empty for none.
[[nodiscard]] std::string firingOrderText(const std::vector<int>& order);

/// The cylinder whose piston moves with this one: half a firing order apart. None in an odd number of cylinders, which
/// have no companions.
[[nodiscard]] std::optional<int> companionOf(const std::vector<int>& order, int cylinder);

/// Companions together, in the order they fire: what one wasted-spark coil serves. Empty where there are none.
[[nodiscard]] std::vector<std::pair<int, int>> companions(const std::vector<int>& order);

} // namespace vicegrip::brief
