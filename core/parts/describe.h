#pragma once

#include "core/parts/ecu.h"
#include "core/parts/layout.h"
#include "core/parts/part.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

/// A sensor, an ECU or a connector described in plain lines, as they are read off its sheet. One fact a line, `key:
/// value, value`; lines that start with # are remarks.
///
///     name: Oil thermistor of the shop          name: Shop unit, revision C
///     kind: fluid temperature                   supply: 5 V, 200 mA
///     range: -40 to 150 °C                      plug A: 1-26
///     pins: 1 signal, 2 ground                  feed: A1
///     tolerance: 3 %                            ground: A2, A3
///     table:                                    sensor supply: A4
///     -40  31800                                sensor ground: A10
///     150  63.1                                 AN1: A5, analog, 0-5 V, 12 bits, pull-up 1k 2k49
///                                               DG1: A12, frequency to 15 kHz, coil, for crank
///
///     name: 38-way header, staggered
///     terminal: blade-1.5-sealed
///     rows: 1-15; 16-26; 27-38 staggered; print corners
///
/// A table's lines are pasted as they come: columns by tabs, semicolons or spaces, decimal commas understood.
namespace vicegrip::parts {

/// What is wrong with a line, counted from 1; line 0 is the whole.
struct LineComplaint
{
    int line = 0;
    std::string sentence;
};

template <class Part> struct Described
{
    std::optional<Part> part; ///< there when nothing was complained of
    std::vector<LineComplaint> complaints;
};

[[nodiscard]] Described<Part> partFromText(std::string_view text);
[[nodiscard]] Described<EcuProfile> ecuFromText(std::string_view text);
/// Rows are separated by semicolons, neighbours of another kind within a row by commas; behind the numbers stand, as
/// needed, `staggered`, `offset N`, `gap N`, `of FAMILY`, `pitch N mm`. Families are looked up among those given.
[[nodiscard]] Described<Layout> layoutFromText(std::string_view text, const std::vector<TerminalFamily>& families);

/// The same in lines; reading them back gives an equal part, but for members this form does not know.
[[nodiscard]] std::string textOf(const Part& sensor);
[[nodiscard]] std::string textOf(const EcuProfile& profile);
[[nodiscard]] std::string textOf(const Layout& layout);

} // namespace vicegrip::parts
