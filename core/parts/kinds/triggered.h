#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// Electronics with a supply and a ground of their own that a logic signal commands: a coil with its driver inside, an
/// ignition module, a tachometer, a solid-state relay.
struct Triggered
{
    double needs_v = 3; ///< the signal counts as on above this
    double input_ohm = 10e3; ///< to its ground
    double draws_a = 0.1; ///< from its supply, at work
    double tolerance = 0.3; ///< of both resistances (typical)
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "triggered"; ///< in files
    static constexpr KindTraits kTraits{.words = key("electronics"), .supplied = true, .driven = true};
    static constexpr std::array<std::string_view, 1> kKeys{"trigger"}; ///< its lines when typed
    void setTolerance(double share) { tolerance = share; }
    void setDraw(double amps, const Part& part);
    [[nodiscard]] Drive drive(const Part& part) const;
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const Triggered&) const = default;
};

template <class A> void listFields(A& a, Triggered& m)
{
    a("needs_v", m.needs_v);
    a("input_ohm", m.input_ohm);
    a("draws_a", m.draws_a);
    a("tolerance", m.tolerance);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
