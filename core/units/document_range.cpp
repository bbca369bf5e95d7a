#include "core/units/document_range.h"

#include "core/base/measurable.h"
#include "core/base/phrase.h"
#include "core/units/units.h"

#include <optional>

namespace vicegrip::units {
namespace {

using Json = nlohmann::json;

struct Named
{
    Dimension dimension;
    std::string_view unit;
};

/// By the last word of a member's name, where that is a unit.
std::optional<Named> namedBy(std::string_view member)
{
    static constexpr std::pair<std::string_view, Named> kEndings[] = {
        {"v", {Dimension::Voltage, "V"}},
        {"volts", {Dimension::Voltage, "V"}},
        {"ohm", {Dimension::Resistance, "Ω"}},
        {"a", {Dimension::Current, "A"}},
        {"mm2", {Dimension::Area, "mm²"}},
        {"mm", {Dimension::Length, "mm"}},
        {"m", {Dimension::Length, "m"}},
        {"c", {Dimension::Temperature, "°C"}},
        {"celsius", {Dimension::Temperature, "°C"}},
        {"kpa", {Dimension::AbsolutePressure, "kPa"}},
        {"hz", {Dimension::Frequency, "Hz"}},
        {"l", {Dimension::Volume, "l"}},
    };
    if (member == "altitude_m")
        return std::nullopt; // below the sea too; its schema says how far
    const size_t last = member.rfind('_');
    const std::string_view word = last == std::string_view::npos ? member : member.substr(last + 1);
    if (last == std::string_view::npos && word.size() == 1)
        return std::nullopt; // "a" alone is a coefficient
    for (const auto& [ending, named] : kEndings)
        if (word == ending)
            return named;
    return std::nullopt;
}

Result<void> numberIn(double value, std::string_view member)
{
    if (const auto named = namedBy(member))
        return inRange(fromUnit(value, named->dimension, named->unit), named->dimension, named->unit).map([](double) {
        });
    if (isMeasurable(value))
        return {};
    return fail(ErrorCode::Range, phrase("the number is larger or smaller than anything that is measured"));
}

/// The place is put together on the way back out, where something is wrong. `key`: a member, or an index.
template <class Key> Result<void> at(const Key& key, Result<void> sound)
{
    if (!sound)
        sound.error().place.pointer = (Json::json_pointer() / key).to_string() + sound.error().place.pointer;
    return sound;
}

Result<void> numbersIn(const Json& value, std::string_view member)
{
    if (value.is_number())
        return numberIn(value.get<double>(), member);
    if (value.is_object()) {
        for (const auto& [name, inner] : value.items())
            if (auto sound = at(name, numbersIn(inner, name)); !sound)
                return sound;
    } else if (value.is_array()) {
        for (size_t i = 0; i < value.size(); ++i)
            if (auto sound = at(i, numbersIn(value[i], member)); !sound)
                return sound;
    }
    return {};
}

} // namespace

Result<void> validate(const Json& document, std::string_view schema)
{
    return document::validate(document, schema).and_then([&] { return numbersIn(document, {}); });
}

} // namespace vicegrip::units
