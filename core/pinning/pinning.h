#pragma once

#include "core/job/job.h"
#include "core/pinning/cavity_steps.h"

#include <map>
#include <optional>

/// Pinning a connector: what belongs in each cavity, how far it is, and which comes next.
/// In this room: pin_use.h (what each cavity is for), cavity_steps.h (what hands do there, in order).
namespace vicegrip::pinning {

enum class PinState {
    Open, ///< nothing belongs there, and nothing need be done
    BlankDue, ///< unused, in a sealed plug that has wires: a blank plug belongs there
    BlankIn,
    Planned, ///< a wire belongs there
    InHand, ///< some steps are ticked
    Seated, ///< all are; not counted again
    Counted, ///< a second count led to the same cavity
    Wrong ///< it is somewhere else, or the wire was changed afterwards
};

struct Pin
{
    job::PointRef at;
    PinState state = PinState::Open;
    std::vector<job::WireId> wires; ///< that end there
    std::vector<CavityStep> steps;
    int ticked = 0;
    std::string trouble; ///< Wrong: what is, and what to do

    /// The step that comes next; null when all are ticked.
    [[nodiscard]] const CavityStep* next() const
    {
        return ticked < static_cast<int>(steps.size()) ? &steps[static_cast<size_t>(ticked)] : nullptr;
    }
};

/// Every cavity of the connector, in the connector's order.
[[nodiscard]] std::vector<Pin> pinsOf(const job::Job& job, const job::Connector& connector);

/// Those of every connector, by its name.
using Pins = std::map<std::string, std::vector<Pin>>;
[[nodiscard]] Pins pinsOf(const job::Job& job);

/// Whether there is nothing left to do in this cavity.
[[nodiscard]] bool isDone(PinState state);

/// The index of the pin to do next: one that is wrong, then the one in hand, then wires in order, then blank plugs.
/// None when all is done.
[[nodiscard]] std::optional<size_t> nextPin(const std::vector<Pin>& pins);

/// The changes below say what is in their way (Reference: no such cavity; Range: nothing that could be ticked or taken
/// back) and then leave the job as it was.

/// Ticks the next step of a cavity. A wire that was changed since starts anew. The logbook keeps what was seated,
/// counted and taken out, and when.
[[nodiscard]] Result<void> tick(job::Job& job, const job::PointRef& at, const std::string& when);

/// Takes a tick back.
[[nodiscard]] Result<void> untick(job::Job& job, const job::PointRef& at);

/// Records which cavity a second count led to.
[[nodiscard]] Result<void> count(job::Job& job, const job::PointRef& at, const std::string& cavity,
                                 const std::string& when);

/// Takes the wire out again: nothing is ticked.
[[nodiscard]] Result<void> pullOut(job::Job& job, const job::PointRef& at, const std::string& when);

/// What a person counted to on one face: "2 6" is row 2, sixth from the left, "2 6 right" from the right, and one
/// number is a cavity read off the part. An error says what was expected, or that nothing is there.
[[nodiscard]] Result<std::string> countTyped(const parts::Layout& layout, parts::Face face, std::string_view typed);

/// The cavities a wire's other ends come out at, in words: "Plug CLT 1".
[[nodiscard]] std::string otherEnds(const job::Job& job, const Pin& pin);

} // namespace vicegrip::pinning
