#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A motor: of a pump or a fan between signal and supply or ground, of a throttle between two outputs. It is measured
/// by its winding and draws what its work asks for.
struct Motor
{
    double ohm = 0; ///< standing still
    double running_a = 0;
    double tolerance = 0.3; ///< of the resistance, brushes and all (typical)
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "motor"; ///< in files
    static constexpr KindTraits kTraits{.words = key("motor"), .passive = true, .driven = true};
    static constexpr std::array<std::string_view, 1> kKeys{"motor"}; ///< its lines when typed
    void setTolerance(double share) { tolerance = share; }
    [[nodiscard]] Drive drive(const Part& part) const;
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const Motor&) const = default;
};

template <class A> void listFields(A& a, Motor& m)
{
    a("ohm", m.ohm);
    a("running_a", m.running_a);
    a("tolerance", m.tolerance);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
