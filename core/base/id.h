#pragma once

#include <compare>
#include <string>

namespace vicegrip {

/// A name in a job that cannot be mistaken for a name of another kind: a `CircuitId` never fits where a `PartId` goes.
template <class Tag> struct Id
{
    std::string value;

    [[nodiscard]] bool empty() const { return value.empty(); }
    auto operator<=>(const Id&) const = default;
};

} // namespace vicegrip
