#pragma once

#include "core/analysis/analysis.h"
#include "core/diagnosis/diagnosis.h"
#include "core/practice/returning.h"

#include <string>
#include <vector>

namespace vicegrip::practice {

enum class Level {
    One, ///< one thing is broken
    Shared, ///< one ground, or one supply, of several circuits
    Hands, ///< counted wrong, exchanged, another part, an old table
    Two, ///< two things, on two circuits
    Comes ///< it comes and goes
};
inline constexpr int kLevels = 5;

/// Keys: `phrase` says them.
[[nodiscard]] std::string_view levelName(Level level);

/// What is wrong with the car, and what its driver says.
struct Round
{
    Level level = Level::One;
    std::vector<diagnosis::Suspect> truth; ///< all of it
    std::vector<job::CircuitId> circuits; ///< that the driver complains of, one for each
    std::string complaint;
    /// What the complaint says the ECU reports; an overload where it reports nothing.
    std::vector<diagnosis::Taken> known;

    [[nodiscard]] faults::FaultList faults() const;
};

/// The same car with nothing read, clicked, mended or counted yet.
[[nodiscard]] job::Job practiceJob(job::Job job);

/// A round of that level, the same for the same seed. Kinds whose turn has come again come before others. `of` is of a
/// practice job. Errors (Range): nothing on this car can be wrong in that way so that the ECU shows it.
[[nodiscard]] Result<Round> makeRound(const analysis::Analysis& of, const diagnosis::Families& families,
                                      const parts::Library& library, Level level, unsigned seed,
                                      const Record& record = {});

/// The job as the learner gets it: what the driver has seen is read already. Its first proofs are those.
[[nodiscard]] job::Job startOf(const analysis::Analysis& of, const Round& round, const std::string& when);

/// The level to play next: what is due first, then what has never been found.
[[nodiscard]] Level suggested(const Record& record);

/// Whether what hands have mended is all that was wrong.
[[nodiscard]] bool isMended(const Round& round, const job::Job& played);

} // namespace vicegrip::practice
