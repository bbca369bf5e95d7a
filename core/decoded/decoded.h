#pragma once

#include "core/findings/finding.h"
#include "core/job/facts.h"
#include "core/proof/verdict.h"
#include "core/trigger/verdicts.h"

#include <optional>
#include <string>
#include <vector>

/// Does the signal of this wheel decode, as it was captured last? A coil makes volts only while it moves fast: a
/// capture on the starter is the only proof it has.
namespace vicegrip::decoded {

/// A circuit that reads a wheel, and what its last capture is worth today.
struct Standing
{
    job::CircuitId circuit;
    bool only = false; ///< nothing else proves it: a coil
    std::optional<job::Decoded> last;
    proof::State state = proof::State::Untouched;
    std::string reason; ///< why it is failing or stale, one line
};

/// Of every circuit that reads a wheel.
[[nodiscard]] std::vector<Standing> standings(const job::Job& job, const job::Facts& facts);

/// What is kept of a capture, with the facts it rests on: its wheel and how the sensor stands before it, the sensor,
/// and the wires to it.
[[nodiscard]] job::Decoded record(const job::Job& job, const job::Facts& facts, const job::Circuit& circuit,
                                  const trigger::Look& look, const std::vector<trigger::Verdict>& verdicts,
                                  std::string capture, std::string when);

/// "signal-wrong": captures that stand and are wrong in something.
void check(std::vector<findings::Finding>& out, const job::Job& job, const std::vector<Standing>& standings);

} // namespace vicegrip::decoded
