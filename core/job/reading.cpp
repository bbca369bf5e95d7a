#include "core/job/reading.h"

#include "core/base/phrase.h"
#include "core/units/shown.h"

namespace vicegrip::job {
namespace {

using units::Dimension;

int decimals(Dimension dimension, std::string_view unit)
{
    switch (dimension) {
    case Dimension::Temperature:
        return 1;
    case Dimension::AbsolutePressure:
    case Dimension::GaugePressure:
        return unit == "bar" ? 2 : 1;
    case Dimension::Lambda:
        return 3;
    case Dimension::Counts:
        return 0;
    case Dimension::Ratio:
    case Dimension::Frequency:
        return 1;
    default:
        return 3;
    }
}

std::string ohmsText(double ohm)
{
    if (ohm >= 1e6)
        return units::formatNumber(ohm / 1e6, 3) + " MΩ";
    if (ohm >= 1000)
        return units::formatNumber(ohm / 1000, 3) + " kΩ";
    return units::formatNumber(ohm, ohm < 100 ? 2 : 1) + " Ω";
}

} // namespace

std::string conditionWords(Condition condition)
{
    static constexpr const char* kWords[] = {key("battery off"), key("key on"), key("cranking"), key("running")};
    return phrase(kWords[static_cast<size_t>(condition)]);
}

std::string readingText(const Reading& reading, std::string_view unit)
{
    if (!reading.quantity())
        return reading.isOpen() ? "open" : "overload";
    const Dimension dimension = reading.dimension();
    if (dimension == Dimension::Resistance)
        return ohmsText(*reading.quantity());
    const std::string_view fitting = units::measures(unit, dimension) ? unit : units::everydayUnit(dimension);
    return units::format(*reading.quantity(), dimension, fitting, decimals(dimension, fitting));
}

std::string readingTextOnEcu(const Reading& reading, std::string_view unit)
{
    const Dimension dimension = reading.dimension();
    if (!reading.quantity() || !units::measures(unit, dimension) || units::shownUnit(dimension, unit) == unit)
        return {};
    return units::formatIn(*reading.quantity(), dimension, unit, decimals(dimension, unit));
}

} // namespace vicegrip::job
