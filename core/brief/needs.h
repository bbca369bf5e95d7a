#pragma once

#include "core/brief/functions.h"
#include "core/parts/library.h"

#include <string>
#include <vector>

/// What the facts of an engine require of its circuits, and what changes in a job when the facts change.
namespace vicegrip::brief {

/// A circuit the facts ask for.
struct Need
{
    job::FunctionId function;
    job::Want want = job::Want::Required;
    std::string reason; ///< "speed density works out the air from manifold pressure"
    std::string askedBy; ///< the fact: "air method"
};

/// Each function once, with the strongest reason; required first.
[[nodiscard]] std::vector<Need> needs(const job::Brief& brief);

enum class Standing {
    There, ///< asked for, and in the job
    Added, ///< asked for: comes in when the brief is applied
    Changing, ///< asked for and there, with a part that is not what the facts say: changed when the brief is applied
    Declined, ///< asked for, and the user took it out
    Leaving, ///< in the job, and nothing asks for it any more: goes when the brief is applied
    Kept, ///< the same, but the user keeps it
    Own ///< the user's own, which no fact ever asked for
};

/// A key: `phrase` says it.
[[nodiscard]] std::string_view standingName(Standing standing);

struct Consequence
{
    job::FunctionId function;
    std::string name;
    job::Want want = job::Want::Required;
    Standing standing = Standing::There;
    std::string reason, askedBy;
    std::vector<job::CircuitId> circuits; ///< of the job that do it
};

/// What the brief means for the job's circuits, before anything is done about it: the needs in order, then what nothing
/// asks for.
[[nodiscard]] std::vector<Consequence> consequences(const job::Job& job, const job::Brief& brief);

/// Brings the circuits in line with the job's brief: those that are asked for come in with the sensor that suits, those
/// it drew and nothing asks for any more go unless they are kept, and what the user declined stays out.
[[nodiscard]] Result<void> apply(job::Job& job, const parts::Library& library);

/// States the altitude, and with it the barometer of a standard day there (ISO 2533).
void setAltitude(job::Job& job, double altitude_m);

/// Takes a circuit out, and remembers that the user did: the brief will not bring it back.
[[nodiscard]] Result<void> decline(job::Job& job, const job::CircuitId& circuit);

/// The facts that cannot be: the field's name and why. Empty when the brief makes sense.
struct Nonsense
{
    std::string field; ///< as in the file: "cylinders"
    std::string sentence;
};
[[nodiscard]] std::vector<Nonsense> nonsense(const job::Brief& brief);

} // namespace vicegrip::brief
