#pragma once

#include "core/seating/plan.h"

#include <variant>

/// What would get a circuit a seat that has none. Each is worked out, and can be applied as it stands.
namespace vicegrip::seating {

/// A pull-up in the harness, and the values it was weighed against; empty where the value does not matter.
struct AddedPullUp
{
    PullUpChoice choice;
    double tolerance = 0.01;
    std::vector<PullUpChoice> weighed;
};

struct ExternalPullUp
{
    parts::InputId input;
    AddedPullUp fitted;
};

struct OtherSensor
{
    parts::Part sensor;
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
    std::optional<AddedPullUp> fitted; ///< there, for the circuit that comes
};

/// A resistor in series with a winding that takes more than the output gives.
struct SeriesResistor
{
    parts::OutputId output;
    double ohm = 0, tolerance = 0.05;
};

/// What the ECU drives in place of a part: another version of it, or a relay or a module that switches it.
struct OtherPart
{
    parts::Part part;
    parts::OutputId output;
    double switched_a = 0; ///< of a relay: what its contact feeds; 0: nothing that is drawn
};

struct OutputExpander
{
    parts::EcuProfile profile;
    parts::OutputId output; ///< as the profile names it
};

/// A circuit that is wanted less gives its output up; it takes another where one is free.
struct GiveWayOutput
{
    job::CircuitId other;
    parts::OutputId output;
    parts::OutputId otherTo; ///< empty: it is left without
};

using Measure = std::variant<ExternalPullUp, OtherSensor, Divider, Expander, GiveWay, OtherPart, OutputExpander,
                             GiveWayOutput, SeriesResistor>;

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

/// The pull-up a way out fits; null when it fits none.
[[nodiscard]] const AddedPullUp* addedBy(const WayOut& way);

/// The same way out with another of the values its pull-up was weighed against.
[[nodiscard]] WayOut withAnother(const job::Job& job, WayOut way, const PullUpChoice& choice);

/// Does what the way out says: the electrical model, and so every expected reading and table, follows.
[[nodiscard]] Result<void> apply(job::Job& job, const WayOut& way);

} // namespace vicegrip::seating
