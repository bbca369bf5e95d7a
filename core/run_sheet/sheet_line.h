#pragma once

#include "core/analysis/analysis.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace vicegrip::run_sheet {

/// The parts of a run sheet, in the order they are worked through.
enum class Section { BeforePower, KeyOn, Outputs, Cranking, FirstStart, Warm, Road };

/// A key: `phrase` says it.
[[nodiscard]] std::string_view sectionName(Section section);

/// Who judges a line.
enum class By {
    Work, ///< another stage proves it, and nothing is done here
    Eyes, ///< somebody looks, and says so
    Meter, ///< a meter between two places
    Ecu, ///< what the ECU reports
    Typed ///< a number that is read off elsewhere: a gauge, the calibration program
};

/// A number that the unit's own program shows, and no input holds: where something tells it, it need not be typed.
enum class OfProgram { Nothing, IdleAir, Correction };

/// A line of the run sheet.
struct Line
{
    std::string id; ///< stays the same from edit to edit: "battery", "value clt"
    Section section = Section::BeforePower;
    By by = By::Eyes;
    std::string what; ///< "Coolant temp reads its place": to be read from two metres
    std::string how; ///< what hands and eyes do
    std::string source; ///< where the window comes from; empty without one
    std::string caution; ///< where it can hurt; empty otherwise
    std::string remedy; ///< what to do when it fails
    std::optional<proof::Expectation> window; ///< of the reading that passes it; none: it takes no reading
    job::CircuitId circuit; ///< that it is about; empty: none
    OfProgram shows = OfProgram::Nothing; ///< of By::Typed
    bool provesCircuit = false; ///< its reading is a proof of the circuit, at the window's place
    std::optional<double> shut_v; ///< where a throttle rests whose idle this reads
    bool holds = false; ///< nothing that comes later passes before it
    bool today = false; ///< it is about the place as it is now: on another day it is asked again
    std::string barred; ///< why it cannot pass, whoever looks; empty: it can
    std::vector<std::string> after; ///< lines, by id, that pass before it
    std::vector<std::string> subjects; ///< of facts that it rests on, beyond the window's
    analysis::Stage stage = analysis::Stage::Start; ///< where By::Work is done
    proof::State worked = proof::State::Untouched; ///< how far By::Work is
    std::string workReason; ///< why it is not done, one line
};

} // namespace vicegrip::run_sheet
