#include "core/faults/kinds/held_table.h"

#include <algorithm>

namespace vicegrip::faults {

Result<void> HeldTable::check() const
{
    if (std::ranges::adjacent_find(points, std::greater_equal{}, &Point::volts) == points.end())
        return {};
    return fail(ErrorCode::Range, phrase("the table's volts do not rise"), {{}, "/points", 0, 0});
}

} // namespace vicegrip::faults
