#include "core/dbc/overlaps.h"

#include <array>

namespace vicegrip::dbc {
namespace {

/// Whose each bit of the frame is.
using Owners = std::array<std::optional<size_t>, size_t{8} * kMostBytes>;

std::vector<size_t> bitsOf(const Signal& s)
{
    std::vector<size_t> out;
    const int skipped = s.isLittle() ? s.start % 8 : 7 - s.start % 8;
    for (int i = 0; i < s.bits; ++i) {
        const int place = s.start / 8 * 8 + skipped + i; // big: counted from a byte's greatest bit
        out.push_back(static_cast<size_t>(s.isLittle() ? place : place / 8 * 8 + 7 - place % 8));
    }
    return out;
}

} // namespace

std::vector<std::pair<size_t, size_t>> overlaps(const Message& message)
{
    std::vector<std::pair<size_t, size_t>> out;
    Owners always;
    std::map<std::pair<std::string, std::uint64_t>, Owners> chosen; // by what chooses, and the first of its values
    for (const bool multiplexed : {false, true})
        for (size_t i = 0; i < message.carries.size(); ++i) {
            const Signal& s = message.carries[i];
            if (s.multiplexed.has_value() != multiplexed || (multiplexed && s.multiplexed->values.empty()))
                continue;
            Owners& mine = multiplexed ? chosen[{s.multiplexed->by, s.multiplexed->values.front().first}] : always;
            std::optional<size_t> other;
            for (const size_t bit : bitsOf(s)) {
                if (always[bit] || mine[bit])
                    other = mine[bit] ? mine[bit] : always[bit];
                mine[bit] = i;
            }
            if (other)
                out.emplace_back(i, *other);
        }
    return out;
}

} // namespace vicegrip::dbc
