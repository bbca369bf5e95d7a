#pragma once

#include "core/base/typed_text.h"
#include "core/parts/describe.h"

/// Lines of a description, split once for both kinds of part. Only describe_*.cpp and sensor_text.cpp include this.
namespace vicegrip::parts {

struct Line
{
    int number = 0;
    std::string key; ///< lower case; empty for a table's line
    std::string written; ///< the key as it was typed
    std::string value; ///< what stands behind the colon, or the whole of a table's line
};

[[nodiscard]] std::vector<Line> linesOf(std::string_view text);

using typed::lower;
using typed::trimmed;

/// Values between commas, trimmed; a comma between two digits is no separator.
[[nodiscard]] std::vector<std::string> listOf(std::string_view value);

/// Two numbers of a table's line; either may carry a unit of its dimension. Decimal commas become points.
[[nodiscard]] Result<std::pair<double, double>> twoNumbers(std::string_view line, units::Dimension first,
                                                           std::string_view firstUnit, units::Dimension second,
                                                           std::string_view secondUnit);

/// "-40 to 150 °C" or "0-5 V": the unit may stand once, at the end.
[[nodiscard]] Result<std::pair<double, double>> rangeOf(std::string_view text, units::Dimension dimension,
                                                        std::string_view assumedUnit);

/// The unit at the end of a text: "°C" of "-40 to 150 °C".
[[nodiscard]] std::string unitAtEnd(std::string_view text);

/// An id from a name: "Oil thermistor, shop" -> "oil-thermistor-shop", at most 40 characters.
[[nodiscard]] std::string idFrom(std::string_view name);

/// A name of a file in words: "fluid-temperature" -> "fluid temperature".
[[nodiscard]] std::string spaced(std::string_view name);

/// What a kind of sensor measures when nothing else is said.
[[nodiscard]] units::Dimension usualDimension(SensorKind kind);

} // namespace vicegrip::parts
