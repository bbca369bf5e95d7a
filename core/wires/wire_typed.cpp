#include "core/wires/wire_typed.h"

#include "core/base/typed_text.h"
#include "core/units/units.h"

#include <string>

namespace vicegrip::wires {
namespace {

constexpr double kShortest_m = 0.01, kLongest_m = 50, kThinnest_m2 = 0.05e-6, kThickest_m2 = 120e-6;

} // namespace

Result<double> lengthTyped(std::string_view typed, std::string_view unit)
{
    return units::parse(typed::withPoints(std::string(typed)), units::Dimension::Length, unit)
        .and_then([](double m) -> Result<double> {
            if (m < kShortest_m || m > kLongest_m)
                return fail(ErrorCode::Range, "expected a length from 1 cm to 50 m");
            return m;
        });
}

Result<double> areaTyped(std::string_view typed, std::string_view unit)
{
    const bool gauge = typed::lower(std::string(unit)) == "awg";
    const bool bare = typed.find_first_not_of("0123456789./ ") == std::string_view::npos;
    return units::parse(typed::withPoints(std::string(typed)) + (gauge && bare ? " AWG" : ""), units::Dimension::Area,
                        gauge ? "mm²" : unit)
        .and_then([](double m2) -> Result<double> {
            if (m2 < kThinnest_m2 || m2 > kThickest_m2)
                return fail(ErrorCode::Range, "expected 0.05 to 120 mm², or a gauge such as 20 AWG");
            return m2;
        });
}

} // namespace vicegrip::wires
