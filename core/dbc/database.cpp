#include "core/dbc/database.h"

#include "core/dbc/bits.h"

#include <algorithm>
#include <tuple>

namespace vicegrip::dbc {
namespace {

std::pair<bool, std::uint32_t> keyOf(const Message& m)
{
    return {m.extended, m.id};
}

/// Whether what chooses it, and what chooses that, holds. More than a few in a row is a ring.
bool isThere(const Message& message, const Signal& signal, std::span<const std::uint8_t> data)
{
    constexpr int kDeepest = 8;
    const Signal* at = &signal;
    for (int depth = 0; at->multiplexed; ++depth) {
        const auto by = std::ranges::find(message.carries, at->multiplexed->by, &Signal::name);
        const auto raw = by == message.carries.end() ? std::nullopt : rawOf(*by, data);
        if (!raw || !at->multiplexed->holds(*raw) || depth == kDeepest)
            return false;
        at = &*by;
    }
    return true;
}

} // namespace

bool Multiplexed::holds(std::uint64_t raw) const
{
    return std::ranges::any_of(values, [&](const auto& range) { return raw >= range.first && raw <= range.second; });
}

int Signal::end() const
{
    const int first = start / 8, skipped = isLittle() ? start % 8 : 7 - start % 8;
    return first + (skipped + bits + 7) / 8;
}

void decode(const Message& message, std::span<const std::uint8_t> data, std::vector<Value>& out)
{
    out.clear();
    for (const Signal& s : message.carries)
        if (const auto raw = rawOf(s, data); raw && (!s.multiplexed || isThere(message, s, data)))
            out.push_back({&s, valueOf(s, *raw)});
}

Database::Database(std::vector<Message> messages) : m_messages(std::move(messages))
{
    std::ranges::sort(m_messages, {}, keyOf);
}

const Message* Database::find(std::uint32_t id, bool extended) const
{
    const auto it = std::ranges::lower_bound(m_messages, std::pair(extended, id), {}, keyOf);
    return it != m_messages.end() && keyOf(*it) == std::pair(extended, id) ? &*it : nullptr;
}

} // namespace vicegrip::dbc
