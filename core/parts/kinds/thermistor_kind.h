#pragma once

#include "core/parts/kind.h"
#include "core/parts/resistance_curve.h"

namespace vicegrip::parts {

/// A resistance that follows temperature, between signal and ground.
struct Thermistor
{
    ResistanceCurve curve;
    double tolerance = 0.02; ///< of the resistance
    double dissipation_w_per_k = 2e-3; ///< power that warms it by 1 K where it sits
    nlohmann::json extra = nlohmann::json::object();

    static constexpr std::string_view kName = "thermistor"; ///< in files
    static constexpr KindTraits kTraits{.words = key("thermistor"), .passive = true, .pulledUp = true, .bent = true};
    static constexpr std::array<std::string_view, 3> kKeys{"beta", "steinhart-hart", "table"}; ///< its lines when typed
    [[nodiscard]] ElementValues values(const Part& part, double x) const;
    [[nodiscard]] std::vector<double> kinks(const Part& part) const;
    [[nodiscard]] ElementRange around(double value) const;
    [[nodiscard]] Result<void> check(const Part& part) const;
    void setTolerance(double share) { tolerance = share; }
    [[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state) const;
    void write(DeckPen& to, const Part& part, const PartState& state) const;
    void readLine(PartLines& lines, const Line& line, const Part& part);
    [[nodiscard]] std::string lines(const Part& part) const;
    bool operator==(const Thermistor&) const = default;
};

void listFields(fields::Reader& a, Thermistor& t);
void listFields(fields::Writer& a, Thermistor& t);

} // namespace vicegrip::parts
