#pragma once

#include "core/base/result.h"

#include <nlohmann/json.hpp>

#include <map>
#include <string>

namespace vicegrip::practice {

/// What one learner has practised: no names, no ranking.
struct Record
{
    /// Of a kind of fault.
    struct Kind
    {
        int right = 0, wrong = 0; ///< rounds
        int step = 0; ///< how often it was right in a row, no more than there are intervals
        int due = 0; ///< comes again from this round on
    };
    int rounds = 0; ///< played
    std::map<std::string, Kind> kinds; ///< by family of diagnosis/families.h, or "comes-and-goes"
};

/// One more round. What was found without help comes again after 1, 3, 7, then 21 rounds; what was not, in the next.
void answered(Record& record, const std::string& family, bool right);

/// Whether its turn has come again.
[[nodiscard]] bool isDue(const Record& record, const std::string& family);

/// "open wire": as people say it.
[[nodiscard]] std::string kindName(std::string family);

/// The members of a file; what makes no sense in one counts as never played.
[[nodiscard]] nlohmann::json written(const Record& record);
[[nodiscard]] Record recordOf(const nlohmann::json& members);

} // namespace vicegrip::practice
