#pragma once

#include <vector>

/// How thick a bundle of wires is, and what goes over it and through the wall with it.
namespace vicegrip::branches {

/// Packed round wires: centres from the middle of the smallest circle that was found, in the order of the diameters.
struct Packing
{
    struct Centre
    {
        double x_m = 0, y_m = 0;
    };
    double diameter_m = 0;
    std::vector<Centre> centres;
};

/// Packs circles of these diameters into a small circle: many starts relaxed as soft discs under a shrinking wall, the
/// best kept, spread until none overlap, so that the diameter is one the wires do fit in. Within 2 % of the published
/// optima for 2 to 19 equal circles (Kravitz 1967; Graham, Lubachevsky, Nurmela, Ostergard 1998). Diameters that are
/// not above 0 count as nothing. Deterministic.
[[nodiscard]] Packing pack(const std::vector<double>& diameters_m);

/// Wires in a loom lie less tightly than circles on paper (typical).
inline constexpr double kLooseness = 1.1;

/// What goes over a bundle of this diameter, from the usual sizes (typical); 0 where none is large enough.
struct Dressing
{
    double bundle_m = 0; ///< with looseness
    double sleeve_m = 0; ///< braided or split sleeve, nominal
    double shrinkSupplied_m = 0, shrinkRecovered_m = 0; ///< goes over before, grips after
    double hole_m = 0; ///< of the grommet, inner
    double wall_m = 0; ///< drilled in the wall for that grommet
};

[[nodiscard]] Dressing dress(double packed_m);

} // namespace vicegrip::branches
