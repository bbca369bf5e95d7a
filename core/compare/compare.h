#pragma once

#include "core/analysis/analysis.h"

#include <string>
#include <string_view>
#include <vector>

/// What is different between two jobs, or two moments of one, as people read it?
/// In this room too: told.h (inside: a function for each kind of difference), said.h (inside: in which words).
namespace vicegrip::compare {

enum class About {
    Circuit,
    Wire,
    Cavity, ///< which wires end in it
    Part,
    Setting, ///< of a unit, the battery, a fuse, a ground, the surroundings
    Work, ///< how far hands and meter are
    Table, ///< follows: what the ECU needs is not the same
    Proof ///< follows: it was proved, and is no more
};
/// A key: `phrase` says it.
[[nodiscard]] std::string_view aboutName(About about);
/// Whether nobody changed it, and it follows from what was.
[[nodiscard]] constexpr bool follows(About about)
{
    return about >= About::Table;
}

struct Difference
{
    About about = About::Circuit;
    job::CircuitId circuit; ///< empty: none alone
    std::string what; ///< "Wire w12, length"
    std::string before, after; ///< as shown, with units; empty: it was not there
    bool operator==(const Difference&) const = default;
};

/// In the order of `About`, then of the job. Things are the same where their names are; a wire that moved to another
/// cavity is told there and not again as a wire.
[[nodiscard]] std::vector<Difference> differences(const analysis::Analysis& before, const analysis::Analysis& after);

/// RFC 4180, a header line first.
[[nodiscard]] std::string toCsv(const std::vector<Difference>& differences);

} // namespace vicegrip::compare
