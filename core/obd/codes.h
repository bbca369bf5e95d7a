#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

/// Trouble codes (SAE J2012, ISO 15031-6).
namespace vicegrip::obd {

struct Code
{
    std::uint16_t raw = 0;
    auto operator<=>(const Code&) const = default;

    /// "P0118".
    [[nodiscard]] std::string text() const;
    /// Whether its meaning is the standard's and not the maker's.
    [[nodiscard]] bool isGeneric() const;
};

/// "P0118", in either case; none where it is no code.
[[nodiscard]] std::optional<Code> codeFrom(std::string_view text);

/// The codes of an answer to service 03 or 07 over CAN, behind its service byte: how many, then two bytes each. What is
/// missing at the end is left out; 0000 fills and is none.
[[nodiscard]] std::vector<Code> codesOf(std::span<const std::uint8_t> answer);

/// What a generic code is about, in our words; empty: it is not among those that concern an engine's inputs and
/// outputs.
[[nodiscard]] std::string meaningOf(Code code);

/// The code of an input that reads too low, or too high; none where there is none for this function ("clt").
[[nodiscard]] std::optional<Code> codeFor(std::string_view function, bool high);

/// The function of a circuit that it is about ("clt"); empty: none.
[[nodiscard]] std::string_view functionOf(Code code);

} // namespace vicegrip::obd
