#include "core/parts/resistance_curve.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::parts {
namespace {

constexpr double kT25 = 298.15;

template <class... F> struct Overloaded : F...
{
    using F::operator()...;
};
template <class... F> Overloaded(F...) -> Overloaded<F...>;

double steinhartHartLnR(const SteinhartHartCurve& s, double kelvin)
{
    // C y^3 + B y + (A - 1/T) = 0 for y = ln R; one real root since B and C are positive.
    const double constant = s.a - 1 / kelvin;
    if (s.c == 0)
        return -constant / s.b;
    const double p = s.b / s.c / 3, q = constant / s.c / 2;
    const double root = std::sqrt(q * q + p * p * p);
    return std::cbrt(-q + root) + std::cbrt(-q - root);
}

/// The pair of table points around the value, or the end pair beyond the table.
template <class Below> std::pair<TableCurve::Point, TableCurve::Point> around(const TableCurve& table, Below below)
{
    const auto upper = std::find_if_not(table.points.begin() + 1, table.points.end() - 1, below);
    return {*(upper - 1), *upper};
}

} // namespace

double ohms(const ResistanceCurve& curve, double kelvin)
{
    return std::visit(
        Overloaded{[&](const BetaCurve& b) { return b.r25_ohm * std::exp(b.beta_k * (1 / kelvin - 1 / kT25)); },
                   [&](const SteinhartHartCurve& s) { return std::exp(steinhartHartLnR(s, kelvin)); },
                   [&](const TableCurve& t) {
                       const auto [lo, hi] = around(t, [&](const auto& p) { return p.kelvin < kelvin; });
                       if (hi.ohm > lo.ohm)
                           return std::lerp(lo.ohm, hi.ohm, (kelvin - lo.kelvin) / (hi.kelvin - lo.kelvin));
                       const double share = (1 / kelvin - 1 / lo.kelvin) / (1 / hi.kelvin - 1 / lo.kelvin);
                       return std::exp(std::lerp(std::log(lo.ohm), std::log(hi.ohm), share));
                   }},
        curve);
}

double kelvin(const ResistanceCurve& curve, double ohms)
{
    return std::visit(
        Overloaded{[&](const BetaCurve& b) { return 1 / (std::log(ohms / b.r25_ohm) / b.beta_k + 1 / kT25); },
                   [&](const SteinhartHartCurve& s) {
                       const double y = std::log(ohms);
                       return 1 / (s.a + s.b * y + s.c * y * y * y);
                   },
                   [&](const TableCurve& t) {
                       const bool falling = t.points.front().ohm > t.points.back().ohm;
                       const auto [lo, hi] =
                           around(t, [&](const auto& p) { return falling ? p.ohm > ohms : p.ohm < ohms; });
                       if (!falling)
                           return std::lerp(lo.kelvin, hi.kelvin, (ohms - lo.ohm) / (hi.ohm - lo.ohm));
                       const double share = std::log(ohms / lo.ohm) / std::log(hi.ohm / lo.ohm);
                       return 1 / std::lerp(1 / lo.kelvin, 1 / hi.kelvin, share);
                   }},
        curve);
}

} // namespace vicegrip::parts
