#include "core/obd/values.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace vicegrip::obd {
namespace {

using enum units::Dimension;

constexpr double kPercent = 100.0 / 255, kTrim = 100.0 / 128;

// SAE J1979, appendix B, from memory: numbers, lengths, scaling.
constexpr std::array kParameters = {
    Parameter{0x04, key("Load, as the unit reckons it"), "", 1, kPercent, 0, "%", Ratio},
    Parameter{0x05, key("Coolant temp"), "clt", 1, 1, -40, "°C", Temperature},
    Parameter{0x06, key("Short-term fuel trim, bank 1"), "", 1, kTrim, -100, "%", Ratio},
    Parameter{0x07, key("Long-term fuel trim, bank 1"), "", 1, kTrim, -100, "%", Ratio},
    Parameter{0x08, key("Short-term fuel trim, bank 2"), "", 1, kTrim, -100, "%", Ratio},
    Parameter{0x09, key("Long-term fuel trim, bank 2"), "", 1, kTrim, -100, "%", Ratio},
    Parameter{0x0A, key("Fuel pressure"), "fuel-pressure", 1, 3, 0, "kPa", GaugePressure},
    Parameter{0x0B, key("Manifold pressure"), "map", 1, 1, 0, "kPa", AbsolutePressure},
    Parameter{0x0C, key("Engine speed"), "", 2, 0.25, 0, "rpm", std::nullopt},
    Parameter{0x0D, key("Road speed"), "speed", 1, 1, 0, "km/h", Speed},
    Parameter{0x0F, key("Intake air temp"), "iat", 1, 1, -40, "°C", Temperature},
    Parameter{0x10, key("Air mass"), "maf", 2, 0.01, 0, "g/s", MassFlow},
    Parameter{0x11, key("Throttle, as a share of its supply"), "", 1, kPercent, 0, "%", Ratio}, // not 0 when shut
    Parameter{0x22, key("Fuel rail pressure over the manifold's"), "", 2, 0.079, 0, "kPa", GaugePressure},
    Parameter{0x23, key("Fuel rail pressure"), "", 2, 10, 0, "kPa", GaugePressure},
    Parameter{0x2F, key("Fuel level"), "fuel-level", 1, kPercent, 0, "%", Ratio},
    Parameter{0x33, key("Barometer"), "baro", 1, 1, 0, "kPa", AbsolutePressure},
    Parameter{0x42, key("Volts at the unit"), "", 2, 0.001, 0, "V", Voltage},
    Parameter{0x44, key("Lambda that is asked for"), "", 2, 2.0 / 65536, 0, "λ", Lambda},
    Parameter{0x45, key("Throttle"), "tps", 1, kPercent, 0, "%", Ratio},
    Parameter{0x46, key("Outside air temp"), "", 1, 1, -40, "°C", Temperature},
    Parameter{0x47, key("Throttle, second track, as a share of its supply"), "", 1, kPercent, 0, "%", Ratio},
    Parameter{0x49, key("Pedal, as a share of its supply"), "", 1, kPercent, 0, "%", Ratio},
    Parameter{0x4A, key("Pedal, second track, as a share of its supply"), "", 1, kPercent, 0, "%", Ratio},
    Parameter{0x52, key("Ethanol in the fuel"), "flex", 1, kPercent, 0, "%", Ratio},
    Parameter{0x5A, key("Pedal"), "pedal1", 1, kPercent, 0, "%", Ratio},
    Parameter{0x5C, key("Oil temp"), "oil-temp", 1, 1, -40, "°C", Temperature},
};

} // namespace

std::span<const Parameter> parameters()
{
    return kParameters;
}

const Parameter* findParameter(std::uint8_t number)
{
    const auto found = std::ranges::find(kParameters, number, &Parameter::number);
    return found == kParameters.end() ? nullptr : &*found;
}

std::optional<double> valueOf(const Parameter& parameter, std::span<const std::uint8_t> data)
{
    if (std::ssize(data) < parameter.bytes)
        return std::nullopt;
    double raw = 0;
    for (int i = 0; i < parameter.bytes; ++i)
        raw = raw * 256 + data[static_cast<size_t>(i)];
    return raw * parameter.scale + parameter.offset;
}

std::vector<std::uint8_t> bytesOf(const Parameter& parameter, double value)
{
    const double most = std::pow(256, parameter.bytes) - 1;
    auto raw =
        static_cast<std::uint32_t>(std::clamp(std::round((value - parameter.offset) / parameter.scale), 0.0, most));
    std::vector<std::uint8_t> out(static_cast<size_t>(parameter.bytes));
    for (auto byte = out.rbegin(); byte != out.rend(); ++byte, raw >>= 8)
        *byte = static_cast<std::uint8_t>(raw);
    return out;
}

std::set<std::uint8_t> supported(std::uint8_t base, std::span<const std::uint8_t> mask)
{
    std::set<std::uint8_t> out;
    if (mask.size() < 4)
        return out;
    for (int i = 0; i < 32; ++i)
        if ((mask[static_cast<size_t>(i / 8)] >> (7 - i % 8) & 1) != 0 && base + i + 1 <= 0xFF)
            out.insert(static_cast<std::uint8_t>(base + i + 1));
    return out;
}

std::vector<std::uint8_t> maskOf(std::uint8_t base, const std::set<std::uint8_t>& numbers)
{
    std::vector<std::uint8_t> out(4);
    for (int i = 0; i < 32; ++i)
        if (numbers.contains(static_cast<std::uint8_t>(base + i + 1)))
            out[static_cast<size_t>(i / 8)] |= static_cast<std::uint8_t>(0x80 >> i % 8);
    return out;
}

} // namespace vicegrip::obd
