#pragma once

#include <variant>
#include <vector>

/// Resistance of a temperature sensor, and its inverse. Temperatures in kelvin, resistances in Ohm.
namespace vicegrip::parts {

/// R = R25 exp(B (1/T - 1/298.15 K)).
struct BetaCurve
{
    double r25_ohm = 0;
    double beta_k = 0;
    bool operator==(const BetaCurve&) const = default;
};

/// 1/T = A + B ln R + C (ln R)^3 (Steinhart and Hart, "Calibration curves for thermistors", Deep-Sea Research 15,
/// 1968).
struct SteinhartHartCurve
{
    double a = 0, b = 0, c = 0;
    bool operator==(const SteinhartHartCurve&) const = default;
};

/// Points from a sheet. Between and beyond them ln R is straight in 1/T where R falls, R in T where it rises (metals).
struct TableCurve
{
    struct Point
    {
        double kelvin = 0;
        double ohm = 0;
        bool operator==(const Point&) const = default;
    };
    std::vector<Point> points; ///< by rising temperature, at least two
    bool operator==(const TableCurve&) const = default;
};

using ResistanceCurve = std::variant<BetaCurve, SteinhartHartCurve, TableCurve>;

/// Resistance at a temperature above 0 K. A Steinhart-Hart curve is inverted in closed form (Cardano).
[[nodiscard]] double ohms(const ResistanceCurve& curve, double kelvin);

/// Temperature at a resistance above 0 Ohm.
[[nodiscard]] double kelvin(const ResistanceCurve& curve, double ohms);

} // namespace vicegrip::parts
