#pragma once

#include "core/electrics/wiring.h"
#include "core/findings/finding.h"
#include "core/job/facts.h"
#include "core/job/job.h"
#include "core/proof/verdict.h"

#include <optional>
#include <string>
#include <vector>

/// The click test: each output is switched on by itself, with the engine stopped, and somebody says which part
/// answered. An output that works another cylinder's part is two wires, or two plugs, exchanged.
///
///     for (const clicks::Standing& s : clicks::standings(job, facts))   // in firing order: what is to be heard
///     job.clicks.push_back(clicks::record(job, facts, wiring, circuit, {answered}, when));
namespace vicegrip::clicks {

/// An output to be clicked, and what its last click is worth today.
struct Standing
{
    job::CircuitId circuit;
    std::optional<job::Click> last;
    proof::State state = proof::State::Untouched;
    std::string reason; ///< why it is failing or stale, one line
    std::string todo; ///< what hands do about that
    std::vector<job::CircuitId> ring; ///< those that answer for one another, this one first; empty: none are known to
    std::optional<job::CircuitId> next; ///< the one whose click tells what is wrong here
};

/// Everything that the ECU drives and that has a seat: injectors in firing order, coils in theirs, then the rest as the
/// job lists them.
[[nodiscard]] std::vector<Standing> standings(const job::Job& job, const job::Facts& facts);

/// The next to be clicked: the first whose click does not stand; none when all do.
[[nodiscard]] std::optional<size_t> nextOf(const std::vector<Standing>& standings);

/// What is kept of a click: what answered, and the facts that it rests on.
[[nodiscard]] job::Click record(const job::Job& job, const job::Facts& facts, const electrics::Wiring& wiring,
                                const job::Circuit& circuit, std::vector<job::CircuitId> answered, std::string when);

/// "banks-exchanged", "click-exchanged" and "click-silent": what has not answered as drawn, those that are exchanged
/// once.
void check(std::vector<findings::Finding>& out, const job::Job& job, const std::vector<Standing>& standings);

} // namespace vicegrip::clicks
