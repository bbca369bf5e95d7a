#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A coil that a passing tooth makes an alternating voltage in; its frequency is the value.
struct VariableReluctance
{
    double coil_ohm = 0, coil_h = 0;
    double peak_v = 0; ///< at the top of its range
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "variable_reluctance"; ///< in files
    static constexpr KindTraits kTraits{
        .words = key("coil"), .signal = SignalKind::Frequency, .passive = true, .alternating = true};
    static constexpr std::array<std::string_view, 1> kKeys{"coil"}; ///< its lines when typed
    [[nodiscard]] Result<void> check(const Part& part) const;
    [[nodiscard]] double mostVolts(const Part&) const { return peak_v; }
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const VariableReluctance&) const = default;
};

template <class A> void listFields(A& a, VariableReluctance& m)
{
    a("coil_ohm", m.coil_ohm);
    a("coil_h", m.coil_h);
    a("peak_v", m.peak_v);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
