#pragma once

#include <QSize>

namespace vicegrip::app {

/// The size the window opens at on a desk that has `free` left beside its bars, with room for the window's own frame:
/// never larger than that, unless the desk is smaller than the window can be.
[[nodiscard]] inline QSize openingSize(const QSize& free)
{
    constexpr QSize kWanted(1280, 800), kFrame(8, 40);
    return kWanted.boundedTo(free - kFrame);
}

} // namespace vicegrip::app
