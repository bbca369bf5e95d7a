#pragma once

#include "core/findings/finding.h"
#include "core/hand_test/count.h"
#include "core/job/facts.h"
#include "core/proof/verdict.h"

#include <optional>
#include <string>
#include <vector>

namespace vicegrip::hand_test {

/// A circuit that reads a wheel, and what its last turn by hand is worth today.
struct Standing
{
    job::CircuitId circuit;
    bool byHand = true; ///< false: a coil, which no hand proves
    std::optional<job::HandTurn> last;
    proof::State state = proof::State::Untouched;
    std::string reason; ///< why it is failing or stale, one line
    std::string todo; ///< what hands do about that
};

/// Of every circuit that reads a wheel.
[[nodiscard]] std::vector<Standing> standings(const job::Job& job, const job::Facts& facts);

/// What is kept of a full turn, with the facts it rests on.
[[nodiscard]] job::HandTurn record(const job::Facts& facts, const job::Circuit& circuit, const Count& count,
                                   const Due& due, bool loose, std::string when);

/// "tooth-not-seen": turns by hand that stand and missed a tooth.
void check(std::vector<findings::Finding>& out, const job::Job& job, const std::vector<Standing>& standings);

} // namespace vicegrip::hand_test
