#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A lamp on one output. Cold, its filament has a tenth of its working resistance (typical): an ohmmeter reads that.
struct Lamp
{
    double lit_a = 0; ///< at 12 V
    double tolerance = 0.3; ///< of the resistance (typical)
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "lamp"; ///< in files
    static constexpr KindTraits kTraits{.words = key("lamp"), .passive = true, .driven = true};
    static constexpr std::array<std::string_view, 1> kKeys{"lamp"}; ///< its lines when typed
    void setTolerance(double share) { tolerance = share; }
    [[nodiscard]] Drive drive(const Part& part) const;
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const Lamp&) const = default;
};

template <class A> void listFields(A& a, Lamp& m)
{
    a("lit_a", m.lit_a);
    a("tolerance", m.tolerance);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
