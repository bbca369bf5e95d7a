#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// Output a share of its supply: low_v..high_v for low..high at a supply of at_supply_v.
struct RatiometricTransducer
{
    double low_v = 0.5, high_v = 4.5, at_supply_v = 5;
    double tolerance = 0.01; ///< of the span
    double out_ohm = 10;
    double supply_ohm = 1000; ///< what the supply sees
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "ratiometric"; ///< in files
    static constexpr KindTraits kTraits{.words = key("{} transducer"), .supplied = true};
    static constexpr std::array<std::string_view, 1> kKeys{"ratiometric"}; ///< its lines when typed
    [[nodiscard]] ElementValues values(const Part& part, double x) const;
    [[nodiscard]] std::vector<double> kinks(const Part& part) const;
    [[nodiscard]] ElementRange around(double value) const;
    [[nodiscard]] Result<void> check(const Part& part) const;
    void setTolerance(double share) { tolerance = share; }
    void setDraw(double amps, const Part& part);
    [[nodiscard]] std::optional<OutputSpan> span() const;
    void setSpan(double from_v, double to_v, double share);
    [[nodiscard]] double mostVolts(const Part& part) const;
    [[nodiscard]] double supplyOhm() const { return supply_ohm; }

    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const RatiometricTransducer&) const = default;
};

template <class A> void listFields(A& a, RatiometricTransducer& m)
{
    a("low_v", m.low_v);
    a("high_v", m.high_v);
    a("at_supply_v", m.at_supply_v);
    a("tolerance", m.tolerance);
    a("out_ohm", m.out_ohm);
    a("supply_ohm", m.supply_ohm);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
