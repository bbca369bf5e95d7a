#pragma once

#include "core/base/result.h"
#include "core/units/units.h"

/// Gauge and absolute pressure are different types: one becomes the other only through a barometer that is named.
namespace vicegrip::units {

struct AbsolutePressure
{
    double pa = 0;
    auto operator<=>(const AbsolutePressure&) const = default;
};

struct GaugePressure
{
    double pa = 0;
    auto operator<=>(const GaugePressure&) const = default;
};

[[nodiscard]] inline AbsolutePressure absolute(GaugePressure gauge, AbsolutePressure barometer)
{
    return {gauge.pa + barometer.pa};
}

[[nodiscard]] inline GaugePressure gauge(AbsolutePressure absolute, AbsolutePressure barometer)
{
    return {absolute.pa - barometer.pa};
}

[[nodiscard]] inline Result<AbsolutePressure> parseAbsolute(std::string_view text, std::string_view assumedUnit = {})
{
    return parse(text, Dimension::AbsolutePressure, assumedUnit).map([](double pa) { return AbsolutePressure{pa}; });
}

[[nodiscard]] inline Result<GaugePressure> parseGauge(std::string_view text, std::string_view assumedUnit = {})
{
    return parse(text, Dimension::GaugePressure, assumedUnit).map([](double pa) { return GaugePressure{pa}; });
}

} // namespace vicegrip::units
