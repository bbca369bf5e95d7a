#include "core/job/surroundings.h"

#include "core/base/phrase.h"
#include "core/units/shown.h"

namespace vicegrip::job {
namespace {

using units::Dimension;

Result<double> between(double low, double high, double si, const std::string& what, Dimension dimension,
                       const char* unit)
{
    if (!(si >= low && si <= high))
        return fail(ErrorCode::Range, phrase("{} between {} and {}", what, units::format(low, dimension, unit, 0),
                                             units::format(high, dimension, unit, 0)));
    return si;
}

} // namespace

Result<double> parseAmbient(std::string_view typed)
{
    return units::parseShown(typed, Dimension::Temperature, "°C").and_then([](double k) {
        return between(213.15, 343.15, k, phrase("an ambient lies"), Dimension::Temperature, "°C");
    });
}

Result<double> parseBarometer(std::string_view typed)
{
    return units::parseShown(typed, Dimension::AbsolutePressure, "kPa").and_then([](double pa) {
        return between(40e3, 110e3, pa, phrase("a barometer reads"), Dimension::AbsolutePressure, "kPa");
    });
}

} // namespace vicegrip::job
