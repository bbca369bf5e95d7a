#pragma once

#include "core/base/result.h"
#include "core/job/job.h"

#include <string>
#include <string_view>
#include <vector>

/// An old plug and the plug that takes its place, side by side by function: what moves, what stays, what is exchanged,
/// and in which order hands do it.
/// In this room: work_at_plug.h (inside: the order of hands at the plug).
namespace vicegrip::remap {

enum class Fate {
    Stays, ///< the same cavity
    Moves, ///< to another cavity, or to another unit's plug
    Exchanged, ///< with another function that takes its place
    New, ///< the old plug had nothing of the kind
    Goes ///< the job has no use for it
};

/// One function on both sides.
struct Remapped
{
    Fate fate = Fate::Stays;
    std::string function; ///< as the job calls it; of the old list where the job has none
    std::string oldCavity, oldColour; ///< empty for New
    std::string newCavity, newColour; ///< empty for Goes
    std::string newPlug; ///< Moves: the other plug it goes to; empty: this one
    std::string with; ///< Exchanged: the other function
    bool otherColour = false; ///< it stays, and the job's wire has another colour than the list says
    std::string asListed; ///< the old list's own words
};

/// One thing to do at the plug.
struct RemapStep
{
    std::string what;
    std::string why; ///< empty where it is plain
};

struct Remap
{
    std::vector<Remapped> rows; ///< in the order of the new cavities, then what goes
    std::vector<RemapStep> work;
    std::string verdict; ///< the whole in one sentence
};

/// Functions are matched by their words: abbreviations of the trade are known, one old pin goes to one new cavity, and
/// among equals the one that stays is taken first. What this plug has no use for may go on in the plug of another unit,
/// a gateway say, unless that one has an old list of its own.
[[nodiscard]] Remap remap(const job::Job& job, const job::OldPlug& old);

/// A line of an old plug's list.
struct PastedPin
{
    int line = 0;
    std::string text;
    std::string trouble; ///< empty: it was taken
};

struct PastedPlug
{
    std::vector<job::OldPin> pins;
    std::vector<PastedPin> lines;
};

/// Reads a list of cavities: cavity, function, colour, in this order or as a first line names them. A line without a
/// cavity, a cavity that stands twice or a colour that is none says so, and the rest is kept. Errors: those of
/// readList.
[[nodiscard]] Result<PastedPlug> pasteOldPins(std::string_view text);

/// The list of a plug as the text that pasteOldPins reads.
[[nodiscard]] std::string textOf(const std::vector<job::OldPin>& pins);

} // namespace vicegrip::remap
