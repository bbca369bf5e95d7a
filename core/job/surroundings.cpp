#include "core/job/surroundings.h"

#include "core/units/units.h"

namespace vicegrip::job {
namespace {

using units::Dimension;

Result<double> between(double low, double high, double si, const char* sentence)
{
    if (!(si >= low && si <= high))
        return fail(ErrorCode::Range, sentence);
    return si;
}

} // namespace

Result<double> parseAmbient(std::string_view typed)
{
    return units::parse(typed, Dimension::Temperature, "°C").and_then([](double k) {
        return between(213.15, 343.15, k, "an ambient lies between -60 °C and 70 °C");
    });
}

Result<double> parseBarometer(std::string_view typed)
{
    return units::parse(typed, Dimension::AbsolutePressure, "kPa").and_then([](double pa) {
        return between(40e3, 110e3, pa, "a barometer reads between 40 kPa and 110 kPa");
    });
}

} // namespace vicegrip::job
