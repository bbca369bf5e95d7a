#include "core/parts/conductor.h"

#include "core/units/units.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

namespace vicegrip::parts {

double outerDiameter(double area_m2)
{
    // mm² and mm.
    static constexpr std::array<std::pair<double, double>, 16> kThinWall = {{{0.13, 1.05},
                                                                             {0.22, 1.2},
                                                                             {0.35, 1.4},
                                                                             {0.5, 1.6},
                                                                             {0.75, 1.9},
                                                                             {1, 2.1},
                                                                             {1.5, 2.4},
                                                                             {2, 2.8},
                                                                             {2.5, 3},
                                                                             {3, 3.4},
                                                                             {4, 3.7},
                                                                             {6, 4.3},
                                                                             {10, 6},
                                                                             {16, 7.2},
                                                                             {25, 8.7},
                                                                             {35, 10.4}}};
    const double root = std::sqrt(area_m2 * 1e6);
    size_t i = 1;
    while (i + 1 < kThinWall.size() && kThinWall[i].first < area_m2 * 1e6)
        ++i;
    const auto& [below, thin] = kThinWall[i - 1];
    const auto& [above, thick] = kThinWall[i];
    const double share = (root - std::sqrt(below)) / (std::sqrt(above) - std::sqrt(below));
    return (thin + share * (thick - thin)) * 1e-3;
}

double crimpHolds(double area_m2)
{
    // mm² and N.
    static constexpr std::array<std::pair<double, double>, 14> kTable = {{{0.14, 18},
                                                                          {0.22, 28},
                                                                          {0.32, 40},
                                                                          {0.5, 60},
                                                                          {0.75, 85},
                                                                          {1, 108},
                                                                          {1.3, 135},
                                                                          {1.5, 150},
                                                                          {2.1, 200},
                                                                          {2.5, 230},
                                                                          {3.3, 275},
                                                                          {4, 310},
                                                                          {6, 360},
                                                                          {10, 380}}};
    const double area = std::clamp(area_m2 * 1e6, kTable.front().first, kTable.back().first);
    size_t i = 1;
    while (i + 1 < kTable.size() && kTable[i].first < area)
        ++i;
    const auto& [below, weak] = kTable[i - 1];
    const auto& [above, strong] = kTable[i];
    return weak + (area - below) / (above - below) * (strong - weak);
}

std::string areaText(double area_m2)
{
    return units::format(area_m2, units::Dimension::Area, "mm²", 3);
}

} // namespace vicegrip::parts
