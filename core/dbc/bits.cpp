#include "core/dbc/bits.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace vicegrip::dbc {
namespace {

constexpr int kWord = 64;

/// The signal's bits begin so many after the greatest of its first byte (big), or the least (little).
struct Lies
{
    size_t first = 0; ///< byte
    int skipped = 0;
};

Lies liesAt(const Signal& s)
{
    const int inByte = s.start % 8;
    return {static_cast<size_t>(s.start / 8), s.isLittle() ? inByte : 7 - inByte};
}

std::uint64_t maskOf(int bits)
{
    if (bits >= kWord)
        return ~std::uint64_t{0};
    return bits <= 0 ? 0 : (std::uint64_t{1} << bits) - 1;
}

std::int64_t asSigned(std::uint64_t raw, int bits)
{
    if (bits < kWord && (raw >> (bits - 1) & 1) != 0)
        raw |= ~maskOf(bits);
    return static_cast<std::int64_t>(raw);
}

} // namespace

std::optional<std::uint64_t> rawOf(const Signal& s, std::span<const std::uint8_t> data)
{
    if (static_cast<size_t>(s.end()) > data.size())
        return std::nullopt;
    const Lies at = liesAt(s);
    const int bytes = (at.skipped + s.bits + 7) / 8; // nine at the most
    const int whole = std::min(bytes, 8);
    std::uint64_t raw = 0;
    if (s.isLittle()) {
        for (int i = 0; i < whole; ++i)
            raw |= static_cast<std::uint64_t>(data[at.first + static_cast<size_t>(i)]) << (8 * i);
        raw >>= at.skipped;
        if (bytes > whole)
            raw |= static_cast<std::uint64_t>(data[at.first + 8]) << (kWord - at.skipped);
        return raw & maskOf(s.bits);
    }
    for (int i = 0; i < whole; ++i)
        raw = raw << 8 | data[at.first + static_cast<size_t>(i)];
    const int after = 8 * bytes - at.skipped - s.bits; // bits of the last byte that are not its own
    if (bytes > whole)
        return (raw << (8 - after) | static_cast<std::uint64_t>(data[at.first + 8] >> after)) & maskOf(s.bits);
    return raw >> after & maskOf(s.bits);
}

double valueOf(const Signal& s, std::uint64_t raw)
{
    double number = 0;
    switch (s.coding) {
    case Coding::Unsigned:
        number = static_cast<double>(raw);
        break;
    case Coding::Signed:
        number = static_cast<double>(asSigned(raw, s.bits));
        break;
    case Coding::Float:
        number = std::bit_cast<float>(static_cast<std::uint32_t>(raw));
        break;
    case Coding::Double:
        number = std::bit_cast<double>(raw);
        break;
    }
    return number * s.scale + s.offset;
}

std::uint64_t rawFor(const Signal& s, double value)
{
    const double number = (value - s.offset) / s.scale;
    if (s.coding == Coding::Float)
        return std::bit_cast<std::uint32_t>(static_cast<float>(number));
    if (s.coding == Coding::Double)
        return std::bit_cast<std::uint64_t>(number);
    if (std::isnan(number))
        return 0;
    const double whole = std::round(number);
    if (s.coding == Coding::Unsigned) {
        if (whole <= 0)
            return 0;
        return whole >= std::ldexp(1.0, s.bits) ? maskOf(s.bits) : static_cast<std::uint64_t>(whole);
    }
    const double most = std::ldexp(1.0, s.bits - 1);
    const std::int64_t held = whole >= most    ? static_cast<std::int64_t>(maskOf(s.bits - 1))
                              : whole <= -most ? -static_cast<std::int64_t>(maskOf(s.bits - 1)) - 1
                                               : static_cast<std::int64_t>(whole);
    return static_cast<std::uint64_t>(held) & maskOf(s.bits);
}

void put(const Signal& s, std::uint64_t raw, std::span<std::uint8_t> data)
{
    const Lies at = liesAt(s);
    for (int i = 0; i < s.bits; ++i) { // from its first in the bytes
        const int place = at.skipped + i;
        std::uint8_t& byte = data[at.first + static_cast<size_t>(place / 8)];
        const int bit = s.isLittle() ? place % 8 : 7 - place % 8;
        const bool set = (raw >> (s.isLittle() ? i : s.bits - 1 - i) & 1) != 0;
        byte = static_cast<std::uint8_t>(set ? byte | 1U << bit : byte & ~(1U << bit));
    }
}

} // namespace vicegrip::dbc
