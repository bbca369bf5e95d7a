#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A stepper motor with two windings on four outputs: signal and signal-2 are one winding, signal-3 and signal-4 the
/// other.
struct Stepper
{
    double ohm = 0; ///< of each winding
    double tolerance = 0.1; ///< of the resistance (typical)
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "stepper"; ///< in files
    static constexpr KindTraits kTraits{.words = key("stepper"), .passive = true, .driven = true, .signalPins = 4};
    static constexpr std::array<std::string_view, 1> kKeys{"stepper"}; ///< its lines when typed
    void setTolerance(double share) { tolerance = share; }
    [[nodiscard]] Drive drive(const Part& part) const;
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const Stepper&) const = default;
};

template <class A> void listFields(A& a, Stepper& m)
{
    a("ohm", m.ohm);
    a("tolerance", m.tolerance);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
