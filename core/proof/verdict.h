#pragma once

#include "core/proof/expected.h"

#include <optional>
#include <string>
#include <vector>

/// Readings against promises, and whether what was proved still stands.
namespace vicegrip::proof {

enum class State { Untouched, Done, Failing, Stale, NotNeeded };

/// A key: `phrase` says it.
[[nodiscard]] std::string_view stateName(State state);

/// Reads what was typed for this station ("2.52", "2.52 V", "open"; "OL" as the meter says it, and
/// where the ECU shows nothing). The station's own unit stands in for a missing one.
[[nodiscard]] Result<job::Reading> parseReading(const Place& place, std::string_view typed);

/// The record of a reading: the promise as it stands now, and the facts it rests on.
[[nodiscard]] job::Proof record(const job::Facts& facts, const job::CircuitId& circuit, const Expectation& expectation,
                                const job::Reading& reading, job::ReadingSource source, std::string when);

/// One sentence: "2.52 V is within 2.36 to 2.68 V".
[[nodiscard]] std::string verdictText(const Expectation& expectation, const job::Reading& reading);

/// What was promised at a place when it was read.
[[nodiscard]] Expectation promisedThen(const Place& place, const job::Proof& proof);

/// How a place stands: its latest reading, and what that is worth today.
struct Standing
{
    Place place;
    const job::Proof* last = nullptr; ///< in the job that was judged
    State state = State::Untouched;
    std::string reason; ///< why it is stale or failing, one line
};

/// A circuit's proofs, in the order they were taken.
using Proofs = std::vector<const job::Proof*>;

/// Each place of the circuit, in their order. A proof keeps the bounds it was held to, so this asks for no promise.
[[nodiscard]] std::vector<Standing> judge(const Proofs& proofs, const job::Facts& facts,
                                          const std::vector<Place>& places);

/// A place with what must be read there.
struct Judged
{
    Expectation expectation;
    const job::Proof* last = nullptr;
    State state = State::Untouched;
    std::string reason;
};

/// The two together, place by place.
[[nodiscard]] std::vector<Judged> judged(const std::vector<Standing>& standings,
                                         const std::vector<Expectation>& promises);

/// How many places of the job have a reading that rests on any of these fact subjects: those a mend of them makes
/// stale.
[[nodiscard]] size_t restingOn(const job::Job& job, const std::vector<std::string>& subjects);

/// Of many, as one cell of the Board: failing before stale before untouched before done.
[[nodiscard]] State worst(const std::vector<State>& states);

} // namespace vicegrip::proof
