#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A conditioner with its own supply that puts out volts above its own ground.
struct VoltageDevice
{
    struct Point
    {
        double value = 0; ///< SI of what is measured
        double volts = 0;
        bool operator==(const Point&) const = default;
    };
    std::vector<Point> points; ///< a bent output; empty: a straight line from low_v to high_v
    double low_v = 0, high_v = 5;
    double tolerance_v = 0.02;
    double out_ohm = 100;
    double supply_ohm = 1000; ///< heater and electronics together
    double least_supply_v = 8.0; ///< below this it puts out nothing
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "voltage"; ///< in files
    static constexpr KindTraits kTraits{.words = key("{} device"), .supplied = true, .ownVolts = true};
    static constexpr std::array<std::string_view, 1> kKeys{"volts"}; ///< its lines when typed
    [[nodiscard]] ElementValues values(const Part& part, double x) const;
    [[nodiscard]] std::vector<double> kinks(const Part& part) const;
    [[nodiscard]] ElementRange around(double value) const;
    [[nodiscard]] Result<void> check(const Part& part) const;
    void setTolerance(double share);
    void setDraw(double amps, const Part& part);
    [[nodiscard]] std::optional<OutputSpan> span() const;
    void setSpan(double from_v, double to_v, double share);
    [[nodiscard]] double mostVolts(const Part& part) const;
    [[nodiscard]] double supplyOhm() const { return supply_ohm; }
    [[nodiscard]] bool isBent() const { return !points.empty(); }
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const VoltageDevice&) const = default;
};

template <class A> void listFields(A& a, VoltageDevice::Point& p)
{
    a("value", p.value);
    a("volts", p.volts);
}

template <class A> void listFields(A& a, VoltageDevice& m)
{
    a("points", m.points);
    a("low_v", m.low_v);
    a("high_v", m.high_v);
    a("tolerance_v", m.tolerance_v);
    a("out_ohm", m.out_ohm);
    a("supply_ohm", m.supply_ohm);
    a("least_supply_v", m.least_supply_v);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
