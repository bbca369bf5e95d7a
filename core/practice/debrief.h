#pragma once

#include "core/practice/round.h"

#include <string>
#include <vector>

namespace vicegrip::practice {

/// Something that hands did in a round.
struct Step
{
    std::string what; ///< "Cavity A11, key on: 0.03 V"
    double seconds = 0; ///< of work (typical)
    std::string believed; ///< what the finder held for likeliest after it
    double share = 0; ///< how likely; 0: it had nothing to say of this
    std::string remark; ///< "told nothing", "was sound"; empty: nothing to say
};

/// A round when it is over.
struct Debrief
{
    bool found = false; ///< all that was wrong has been mended
    std::vector<std::string> truth; ///< sentences
    std::vector<Step> steps;
    double seconds = 0; ///< of work, help and mends that mended nothing included
    int readings = 0, idle = 0; ///< taken; that could not have told anything
    int soundMended = 0; ///< mends of what was sound
    int hints = 0;
    double best_s = 0; ///< of the finder, from the same complaint
    std::vector<std::string> bestSteps; ///< where it would have read
    [[nodiscard]] bool clean() const { return found && soundMended == 0 && hints == 0; }
};

/// What a hint costs, and a mend that mends nothing (typical).
inline constexpr double kHint_s = 60, kNeedlessMend_s = 900;

/// What the job that was played, from `startOf` on, says of the round. `of`: the analysis that the round was made with.
[[nodiscard]] Debrief debrief(const analysis::Analysis& of, const job::Job& played, const Round& round, int hints,
                              const diagnosis::Families& families, const parts::Library& library);

/// One more round in the record: of each kind that was in it.
void keep(Record& record, const Round& round, const Debrief& debrief);

} // namespace vicegrip::practice
