#pragma once

#include <cstdint>
#include <fast_float/fast_float.h>
#include <optional>
#include <string_view>

namespace vicegrip::log {

/// Reads a decimal number from `from` on and says where it ends; null where none begins. Digits of the usual length are
/// reckoned here, exactly (a whole number below 2^53 over a power of ten that a double holds is rounded once: Clinger
/// 1990); what is longer or has an exponent goes to fast_float.
[[gnu::always_inline]] inline const char* numberAt(const char* from, const char* end, char decimalMark, double& value)
{
    constexpr double kTens[] = {1,   1e1,  1e2,  1e3,  1e4,  1e5,  1e6,  1e7,  1e8,
                                1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16, 1e17};
    constexpr int kMostDigits = 15; // below 2^53
    const char* p = from;
    const bool negative = p != end && *p == '-';
    if (p != end && (*p == '-' || *p == '+'))
        ++p;
    std::uint64_t whole = 0;
    int count = 0;
    for (; p != end && static_cast<unsigned>(*p - '0') < 10; ++p, ++count)
        whole = whole * 10 + static_cast<unsigned>(*p - '0');
    int behind = 0;
    if (p != end && *p == decimalMark) {
        for (++p; p != end && static_cast<unsigned>(*p - '0') < 10; ++p, ++behind)
            whole = whole * 10 + static_cast<unsigned>(*p - '0');
    }
    if (count + behind == 0)
        return nullptr;
    if (count + behind <= kMostDigits && (p == end || (*p | 0x20) != 'e')) {
        const double size = static_cast<double>(whole) / kTens[behind];
        value = negative ? -size : size;
        return p;
    }
    const auto read =
        fast_float::from_chars_advanced(*from == '+' ? from + 1 : from, end, value,
                                        fast_float::parse_options(fast_float::chars_format::general, decimalMark));
    return read.ec == std::errc() ? read.ptr : nullptr;
}

/// The whole cell as a finite number; none where it is anything else.
[[nodiscard]] std::optional<double> numberOf(std::string_view cell, char decimalMark);

/// "On", "true", "open": 1; "off", "false", "closed": 0. None for other words.
[[nodiscard]] std::optional<double> switchOf(std::string_view cell);

/// Whether it says that there is no value: nothing, "-", "n/a", "nan".
[[nodiscard]] bool isBlankCell(std::string_view cell);

/// Without blanks and quotes at its ends.
[[nodiscard]] std::string_view bare(std::string_view cell);

/// Goes over one cell after another of a line. Between quotes a separator is text (RFC 4180).
[[nodiscard]] std::string_view nextCell(std::string_view& rest, char separator, bool& more);

/// How a cell tells the time.
enum class TimeForm {
    Number, ///< of some unit
    Clock, ///< "18:40:05.250", "40:05.25"
    DateAndClock, ///< "2026-11-30T18:40:05.250Z", "30/11/2026 18:40:05"
};

/// Seconds; of a clock since midnight, of a date and a clock since the first of January 1970. None where it is not of
/// this form.
[[nodiscard]] std::optional<double> timeOf(std::string_view cell, TimeForm form, char decimalMark);

/// Days since the first of January 1970: "2026-11-30", "30.11.2026", "11/30/2026". Where it can be either, the day
/// stands first.
[[nodiscard]] std::optional<double> dayOf(std::string_view cell);

} // namespace vicegrip::log
