#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A coil that one output switches: an injector, the primary of an ignition coil, a relay's coil, a valve on pulse
/// width. Between the signal and the supply, or the signal and ground.
struct Winding
{
    double ohm = 0;
    double tolerance = 0.1; ///< of the resistance (typical)
    double limited_a = 0; ///< what its driver stops the current at; 0: the resistance alone
    bool suppressed = false; ///< a diode or a resistor across it takes its kick
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "winding"; ///< in files
    static constexpr KindTraits kTraits{.words = key("coil"), .passive = true, .driven = true};
    static constexpr std::array<std::string_view, 3> kKeys{"winding", "limited",
                                                           "suppressed"}; ///< its lines when typed
    void setTolerance(double share) { tolerance = share; }
    [[nodiscard]] Drive drive(const Part& part) const;
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const Winding&) const = default;
};

template <class A> void listFields(A& a, Winding& m)
{
    a("ohm", m.ohm);
    a("tolerance", m.tolerance);
    a("limited_a", m.limited_a);
    a("suppressed", m.suppressed);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
