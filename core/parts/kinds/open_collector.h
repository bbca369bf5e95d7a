#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A transistor that pulls the signal to ground, at a rate that follows the value: low_hz..high_hz for low..high. It
/// puts out nothing without a pull-up.
struct OpenCollector
{
    struct Point
    {
        double value = 0; ///< SI of what is measured
        double hz = 0;
        bool operator==(const Point&) const = default;
    };
    std::vector<Point> points; ///< a bent output; empty: a straight line from low_hz to high_hz
    double low_hz = 0, high_hz = 0;
    double tolerance = 0.01; ///< of the rate
    double on_ohm = 40, off_ohm = 1e6;
    double supply_ohm = 1000;
    double least_supply_v = 4.5;
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "open_collector"; ///< in files
    static constexpr KindTraits kTraits{
        .words = key("open collector"), .signal = SignalKind::Frequency, .pulledUp = true, .supplied = true};
    static constexpr std::array<std::string_view, 1> kKeys{"hertz"}; ///< its lines when typed
    [[nodiscard]] ElementValues values(const Part& part, double x) const;
    [[nodiscard]] Result<void> check(const Part& part) const;
    void setTolerance(double share) { tolerance = share; }
    void setDraw(double amps, const Part& part);
    [[nodiscard]] double supplyOhm() const { return supply_ohm; }
    [[nodiscard]] bool isBent() const { return !points.empty(); }
    [[nodiscard]] double mostHertz(const Part& part) const;
    [[nodiscard]] PulseOutput pulses() const { return {on_ohm, off_ohm, tolerance}; }
    [[nodiscard]] double hertz(const Part& part, double value) const;
    void setRates(double from_hz, double to_hz);
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const OpenCollector&) const = default;
};

template <class A> void listFields(A& a, OpenCollector::Point& p)
{
    a("value", p.value);
    a("hz", p.hz);
}

template <class A> void listFields(A& a, OpenCollector& m)
{
    a("points", m.points);
    a("low_hz", m.low_hz);
    a("high_hz", m.high_hz);
    a("tolerance", m.tolerance);
    a("on_ohm", m.on_ohm);
    a("off_ohm", m.off_ohm);
    a("supply_ohm", m.supply_ohm);
    a("least_supply_v", m.least_supply_v);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
