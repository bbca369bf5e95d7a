#pragma once

#include "core/findings/finding.h"
#include "core/job/facts.h"
#include "core/proof/verdict.h"
#include "core/wiggle/blame.h"

#include <optional>
#include <string>
#include <vector>

namespace vicegrip::wiggle {

/// A circuit that was watched, and what its last wiggle test is worth today.
struct Standing
{
    job::CircuitId circuit;
    job::Wiggle last;
    proof::State state = proof::State::Untouched; ///< done: nothing let go; failing: it comes and goes
    std::string reason; ///< why it is failing or stale, one line
};

/// Of every circuit that has been watched.
[[nodiscard]] std::vector<Standing> standings(const job::Job& job, const job::Facts& facts);

/// What is kept: how often it let go, what did, and the facts that rests on.
[[nodiscard]] job::Wiggle record(const job::Job& job, const job::Facts& facts, const job::Circuit& circuit,
                                 const Watch& watch, const Verdict& verdict, std::string when);

/// Which ends of wires a test that was kept names; empty where it names none.
[[nodiscard]] std::vector<faults::Loose> named(const job::Job& job, const job::Wiggle& wiggle);

/// "It comes and goes: wire w20 at Plug FP 3", as a mend that is kept has it.
[[nodiscard]] std::string whatText(const job::Job& job, const std::vector<faults::Loose>& what);

/// "comes-and-goes": the circuits whose last wiggle test says so and still stands.
void check(std::vector<findings::Finding>& out, const job::Job& job, const std::vector<Standing>& standings);

} // namespace vicegrip::wiggle
