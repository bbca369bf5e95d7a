#include "core/units/document_range.h"

#include "core/base/measurable.h"
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

Result<void> numberIn(double value, std::string_view member, const std::string& pointer)
{
    if (const auto named = namedBy(member)) {
        auto sound = inRange(fromUnit(value, named->dimension, named->unit), named->dimension, named->unit);
        if (sound)
            return {};
        sound.error().place.pointer = pointer;
        return tl::make_unexpected(std::move(sound.error()));
    }
    if (isMeasurable(value))
        return {};
    return fail(ErrorCode::Range, "the number is larger or smaller than anything that is measured",
                {{}, pointer, 0, 0});
}

Result<void> numbersIn(const Json& value, std::string_view member, const std::string& pointer)
{
    if (value.is_number())
        return numberIn(value.get<double>(), member, pointer);
    if (value.is_object()) {
        for (const auto& [name, inner] : value.items())
            if (inner.is_structured() || inner.is_number())
                if (auto sound = numbersIn(inner, name, pointer + "/" + name); !sound)
                    return sound;
    } else if (value.is_array()) {
        for (size_t i = 0; i < value.size(); ++i)
            if (auto sound = numbersIn(value[i], member, pointer + "/" + std::to_string(i)); !sound)
                return sound;
    }
    return {};
}

} // namespace

Result<void> validate(const Json& document, std::string_view schema)
{
    return document::validate(document, schema).and_then([&] { return numbersIn(document, {}, {}); });
}

} // namespace vicegrip::units
