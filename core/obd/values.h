#pragma once

#include "core/units/units.h"

#include <cstdint>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <string_view>
#include <vector>

/// Values that a unit gives of itself (SAE J1979, service 01; ISO 15031-5).
namespace vicegrip::obd {

/// One value: its number, how long its answer is, and what its bytes mean.
struct Parameter
{
    std::uint8_t number = 0;
    std::string_view name; ///< "Coolant temp"
    std::string_view function; ///< that a circuit of a job has with it: "clt"; empty: none
    int bytes = 1;
    double scale = 1, offset = 0; ///< of its bytes as one number, the first the greatest
    std::string_view unit; ///< as the standard gives it
    std::optional<units::Dimension> measures; ///< none: a plain number in `unit`
};

/// Those that concern an engine's inputs.
[[nodiscard]] std::span<const Parameter> parameters();
[[nodiscard]] const Parameter* findParameter(std::uint8_t number);

/// The value in the standard's unit; none where there are too few bytes.
[[nodiscard]] std::optional<double> valueOf(const Parameter& parameter, std::span<const std::uint8_t> data);
/// The bytes of a value, as near as they come.
[[nodiscard]] std::vector<std::uint8_t> bytesOf(const Parameter& parameter, double value);

/// Which of the 32 values after `base` (0x00, 0x20, ...) a unit has, by the four bytes it answers; of fewer, none.
[[nodiscard]] std::set<std::uint8_t> supported(std::uint8_t base, std::span<const std::uint8_t> mask);
/// The four bytes that say so.
[[nodiscard]] std::vector<std::uint8_t> maskOf(std::uint8_t base, const std::set<std::uint8_t>& numbers);

} // namespace vicegrip::obd
