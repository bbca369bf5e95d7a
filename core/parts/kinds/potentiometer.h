#pragma once

#include "core/parts/kind.h"

namespace vicegrip::parts {

/// A track between supply and ground with a wiper on the signal pin; position 0 is the ground end.
struct Potentiometer
{
    double track_ohm = 0;
    double tolerance = 0.2; ///< of the track
    double wiper_ohm = 0;
    double endGap = 0; ///< share of the track outside the wiper's travel, at each end
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "potentiometer"; ///< in files
    static constexpr KindTraits kTraits{.words = key("potentiometer"), .passive = true, .supplied = true};
    static constexpr std::array<std::string_view, 1> kKeys{"track"}; ///< its lines when typed
    [[nodiscard]] ElementValues values(const Part& part, double x) const;
    [[nodiscard]] std::vector<double> kinks(const Part& part) const;
    void setTolerance(double share) { tolerance = share; }
    [[nodiscard]] double mostVolts(const Part& part) const;
    [[nodiscard]] double supplyOhm() const { return track_ohm; }
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const Potentiometer&) const = default;
};

template <class A> void listFields(A& a, Potentiometer& m)
{
    a("track_ohm", m.track_ohm);
    a("tolerance", m.tolerance);
    a("wiper_ohm", m.wiper_ohm);
    a("end_gap", m.endGap);
    a.rest(m.extra);
}

} // namespace vicegrip::parts
