#pragma once

#include "core/base/fields.h"

#include <span>
#include <variant>

/// A variant in a file is one member named after the alternative: "thermistor": {...}.
namespace vicegrip::parts {

template <class Variant, size_t I = 0> Variant alternative(size_t index)
{
    if constexpr (I + 1 < std::variant_size_v<Variant>)
        return index == I ? Variant(std::in_place_index<I>) : alternative<Variant, I + 1>(index);
    else
        return Variant(std::in_place_index<I>);
}

template <class Variant> void readAlternative(fields::Reader& a, Variant& v, std::span<const std::string_view> names)
{
    for (size_t i = 0; i < names.size(); ++i) {
        Variant candidate = alternative<Variant>(i);
        bool present = false;
        std::visit(
            [&](auto& alternativeValue) {
                std::optional<std::decay_t<decltype(alternativeValue)>> found;
                a(names[i].data(), found);
                present = found.has_value();
                if (present)
                    alternativeValue = *found;
            },
            candidate);
        if (present)
            v = candidate;
    }
}

template <class Variant> void writeAlternative(fields::Writer& a, Variant& v, std::span<const std::string_view> names)
{
    std::visit([&](auto& value) { a(names[v.index()].data(), value); }, v);
}

} // namespace vicegrip::parts
