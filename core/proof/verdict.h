#pragma once

#include "core/proof/expected.h"

#include <optional>
#include <string>
#include <vector>

/// Readings against promises, and whether what was proved still stands.
namespace vicegrip::proof {

enum class State { Untouched, Done, Failing, Stale, NotNeeded };

[[nodiscard]] std::string_view stateName(State state);

/// Reads what was typed for this station ("2.52", "2.52 V", "open"). The station's own unit stands in for a missing
/// one.
[[nodiscard]] Result<double> parseReading(const Expectation& expectation, std::string_view typed);

/// The record of a reading: the promise as it stands now, and the facts it rests on.
[[nodiscard]] job::Proof record(const job::Facts& facts, const job::CircuitId& circuit, job::Condition condition,
                                const Expectation& expectation, double value, job::ReadingSource source,
                                std::string when);

/// One sentence: "2.52 V is within 2.36 to 2.68 V".
[[nodiscard]] std::string verdictText(const Expectation& expectation, double value);

/// A station as the thread shows it.
struct Judged
{
    Expectation expectation;
    const job::Proof* last = nullptr; ///< latest reading, in the job that was judged
    State state = State::Untouched;
    std::string reason; ///< why it is stale or failing, one line
};

/// Each expectation with its latest reading and what that is worth today.
[[nodiscard]] std::vector<Judged> judge(const job::Job& job, const job::Facts& facts, const job::CircuitId& circuit,
                                        job::Condition condition, std::vector<Expectation> expectations);

/// Of many, as one cell of the Board: failing before stale before untouched before done.
[[nodiscard]] State worst(const std::vector<State>& states);

} // namespace vicegrip::proof
