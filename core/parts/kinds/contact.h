#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A switch: from the signal to ground, or from the supply to the signal when it has no ground pin.
struct Contact
{
    double on_ohm = 0.5;
    bool closedAtRest = false;
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "contact"; ///< in files
    static constexpr KindTraits kTraits{.words = key("switch"), .signal = SignalKind::OnOff, .contact = true};
    static constexpr std::array<std::string_view, 1> kKeys{"switch"}; ///< its lines when typed
    [[nodiscard]] bool needsPullUp(const Part& part) const;
    [[nodiscard]] double mostVolts(const Part& part) const;
    void setContact(std::optional<double> ohm);
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const Contact&) const = default;
};

template <class A> void listFields(A& a, Contact& m)
{
    a("on_ohm", m.on_ohm);
    a("closed_at_rest", m.closedAtRest);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
