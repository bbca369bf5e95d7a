#include "core/trigger/usual_wheels.h"

#include <array>

namespace vicegrip::trigger {
namespace {

constexpr std::array<std::string_view, 3> kManyGaps = {"36-1-1", "60-2-2", "36-2-2-2"};

constexpr std::array<std::string_view, 23> kUsual = {
    "36-1",   "60-2",    "36-2",     "24-1",         "24-2",         "30-1", "30-2", "32-2", "12-1",
    "36-1-1", "60-2-2",  "36-2-2-2", "24+1",         "12+1",         "4",    "6",    "8",    "cam 1",
    "cam 3",  "cam 4+1", "cam 4",    "cam 24 slots", "cam 360 slots"};

} // namespace

std::span<const std::string_view> usualWheels()
{
    return kUsual;
}

std::span<const std::string_view> wheelsOfManyGaps()
{
    return kManyGaps;
}

} // namespace vicegrip::trigger
