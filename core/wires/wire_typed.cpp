#include "core/wires/wire_typed.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/units/shown.h"

#include <string>

namespace vicegrip::wires {
namespace {

using units::Dimension;

constexpr double kShortest_m = 0.01, kLongest_m = 50, kThinnest_m2 = 0.05e-6, kThickest_m2 = 120e-6;

Result<double> aLength(double m)
{
    if (m < kShortest_m || m > kLongest_m)
        return fail(ErrorCode::Range,
                    phrase("expected a length from {} to {}", units::format(kShortest_m, Dimension::Length, "cm", 0),
                           units::format(kLongest_m, Dimension::Length, "m", 0)));
    return m;
}

Result<double> anArea(double m2)
{
    if (m2 < kThinnest_m2 || m2 > kThickest_m2)
        return fail(ErrorCode::Range, phrase("expected 0.05 to 120 mm², or a gauge such as 20 AWG"));
    return m2;
}

std::string plain(std::string_view typed)
{
    return typed::withPoints(std::string(typed));
}

} // namespace

Result<double> lengthTyped(std::string_view typed, std::string_view unit)
{
    return units::parse(plain(typed), Dimension::Length, unit).and_then(aLength);
}

Result<double> areaTyped(std::string_view typed, std::string_view unit)
{
    const bool gauge = typed::lower(std::string(unit)) == "awg";
    const bool bare = typed.find_first_not_of("0123456789./ ") == std::string_view::npos;
    return units::parse(plain(typed) + (gauge && bare ? " AWG" : ""), Dimension::Area, gauge ? "mm²" : unit)
        .and_then(anArea);
}

Result<double> lengthShown(std::string_view typed)
{
    return units::parseShown(plain(typed), Dimension::Length, "m").and_then(aLength);
}

Result<double> areaShown(std::string_view typed)
{
    return units::parseShown(plain(typed), Dimension::Area, "mm²").and_then(anArea);
}

} // namespace vicegrip::wires
