#pragma once

#include "core/seating/plan.h"

#include <variant>

/// What would get a circuit a seat that has none. Each is worked out, and can be applied as it stands.
namespace vicegrip::seating {

struct ExternalPullUp
{
    parts::InputId input;
    PullUpChoice choice;
    double tolerance = 0.01;
};

struct OtherSensor
{
    parts::Sensor sensor;
    parts::InputId input;
};

struct Divider
{
    parts::InputId input;
    double series_ohm = 0, toGround_ohm = 0, tolerance = 0.01;
};

struct Expander
{
    parts::EcuProfile profile;
    parts::InputId input; ///< as the profile names it
};

/// A circuit that is wanted less gives its seat up; it takes another where one is free.
struct GiveWay
{
    job::CircuitId other;
    parts::InputId input;
    parts::InputId otherTo; ///< empty: it is left without
    std::optional<PullUpChoice> pullUp; ///< fitted there for the circuit that comes
};

using Measure = std::variant<ExternalPullUp, OtherSensor, Divider, Expander, GiveWay>;

struct WayOut
{
    job::CircuitId circuit;
    Measure measure;
    std::string title; ///< "Fit a 2k2 pull-up at U3"
    std::string detail; ///< span, resolution, error, what it costs
};

/// The ways out for a circuit without a seat, least trouble first; empty for one that is seated.
[[nodiscard]] std::vector<WayOut> waysOut(const job::Job& job, const job::Circuit& circuit,
                                          const parts::Library& library);

/// Does what the way out says: the electrical model, and so every expected reading and table, follows.
void apply(job::Job& job, const WayOut& way);

} // namespace vicegrip::seating
