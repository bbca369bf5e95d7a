#pragma once

#include "core/base/result.h"

#include <string>
#include <string_view>

/// Wire colours by their IEC 60757 letters, a tracer behind a slash: "BU/WH".
namespace vicegrip::wires {

/// In words: "BU/WH" is "blue, white tracer". Letters that are none are given back.
[[nodiscard]] std::string colourName(std::string_view letters);

/// Letters or words as people write them: "bu/wh", "blue-white", "BU". An error lists the letters there are.
[[nodiscard]] Result<std::string> parseColour(std::string_view typed);

} // namespace vicegrip::wires
