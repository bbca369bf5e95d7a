#include "core/base/phrase.h"
#include "core/units/dimensions.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

namespace vicegrip::units {
namespace {

std::string inUnit(double si, Dimension dimension, std::string_view unit)
{
    constexpr int kDigits = 6; // an end of a range is a round number, whatever the conversion leaves of it
    std::array<char, 32> buffer{};
    const auto [end, error] = std::to_chars(buffer.data(), buffer.data() + buffer.size(), toUnit(si, dimension, unit),
                                            std::chars_format::general, kDigits);
    return std::string(buffer.data(), end) + " " + std::string(unit);
}

} // namespace

Result<double> inRange(double si, Dimension dimension, std::string_view unit)
{
    const DimensionFacts& dim = facts(dimension);
    const Range& r = dim.range;
    const bool tiny = si != 0 && std::abs(si) < r.least;
    if (si >= r.low && si <= r.high && !tiny) // what is not a number is neither
        return si;
    if (findUnit(dim, fold(unit)) == nullptr)
        unit = dim.everyday;
    std::string name(dim.name);
    std::ranges::replace(name, '-', ' ');
    return fail(ErrorCode::Range,
                phrase("{} is no {} that occurs: from {} to {}", inUnit(si, dimension, unit), name,
                       inUnit(r.least > 0 ? r.least : r.low, dimension, unit), inUnit(r.high, dimension, unit)));
}

} // namespace vicegrip::units
