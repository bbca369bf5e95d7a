#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A device on a CAN bus, a wideband controller or a display: signal is CAN high, signal-2 CAN low. Its transceiver
/// holds a quiet pair near 2.5 V, 2 V to 3 V (ISO 11898-2, from memory). Without supply and ground it lives on power
/// that is not this harness's: the vehicle network with all that hangs on it, seen from one place.
struct BusDevice
{
    double terminator_ohm = 0; ///< between high and low inside; 0: none
    double terminator_tolerance = 0.05; ///< (typical)
    double draws_a = 0.1; ///< from its supply
    bool port = false; ///< it is the bus port of a unit: transceiver and terminator are the unit's own
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "bus"; ///< in files
    static constexpr KindTraits kTraits{
        .words = key("bus device"), .supplied = true, .driven = true, .pair = true, .signalPins = 2};
    static constexpr std::array<std::string_view, 1> kKeys{"bus"}; ///< its lines when typed
    void setTolerance(double share) { terminator_tolerance = share; }
    void setDraw(double amps, const Part& part);
    [[nodiscard]] Drive drive(const Part& part) const;
    [[nodiscard]] Result<void> check(const Part& part) const;
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const BusDevice&) const = default;
};

template <class A> void listFields(A& a, BusDevice& m)
{
    a("terminator_ohm", m.terminator_ohm);
    a("terminator_tolerance", m.terminator_tolerance);
    a("draws_a", m.draws_a);
    a("port", m.port);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
