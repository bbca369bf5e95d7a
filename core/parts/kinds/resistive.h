#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A resistance that follows something other than temperature, between signal and ground: a level, a pressure.
/// Straight lines between its points.
struct Resistive
{
    struct Point
    {
        double value = 0; ///< SI of what is measured
        double ohm = 0;
        bool operator==(const Point&) const = default;
    };
    std::vector<Point> points; ///< by rising value, at least two
    double tolerance = 0.05; ///< of the resistance
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "resistive"; ///< in files
    static constexpr KindTraits kTraits{
        .words = key("resistive sensor"), .passive = true, .pulledUp = true, .bent = true};
    static constexpr std::array<std::string_view, 1> kKeys{"ohms"}; ///< its lines when typed
    [[nodiscard]] ElementValues values(const Part& part, double x) const;
    [[nodiscard]] std::vector<double> kinks(const Part& part) const;
    [[nodiscard]] ElementRange around(double value) const;
    [[nodiscard]] Result<void> check(const Part& part) const;
    void setTolerance(double share) { tolerance = share; }
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const Resistive&) const = default;
};

template <class A> void listFields(A& a, Resistive::Point& p)
{
    a("value", p.value);
    a("ohm", p.ohm);
}

template <class A> void listFields(A& a, Resistive& m)
{
    a("points", m.points);
    a("tolerance", m.tolerance);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
