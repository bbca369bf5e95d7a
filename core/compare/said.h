#pragma once

#include "core/job/job.h"

#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

/// Inside: how a fact or a member of the file, named as programs name them, is told to people.
namespace vicegrip::compare {

/// The names on the way to a scalar of the file: {"circuits", "clt", "want"}. Things in a list go by their id, a
/// stretch of the harness by its ends, else by their place from 1.
using Way = std::vector<std::string>;

struct Said
{
    job::CircuitId circuit; ///< empty: of none alone
    std::string what; ///< "Input AN1, most frequency"
    std::string before, after; ///< with units: "1.9 mm", "12.6 V", "yes"
};

/// Of a fact (core/job/facts.h), whose two texts are these. Things are called as in `job`.
[[nodiscard]] Said saidOfFact(const job::Job& job, const std::string& subject, const std::string& before,
                              const std::string& after);

/// Of a member of the file; null: not there. Its unit is the one its name ends in, in the file's own measure.
[[nodiscard]] Said saidOfMember(const job::Job& job, const Way& way, const nlohmann::json& before,
                                const nlohmann::json& after);

/// Of members of a part's file, below the part.
[[nodiscard]] Said saidOfPart(const std::string& part, const Way& way, const nlohmann::json& before,
                              const nlohmann::json& after);

/// Two texts with their long fractions cut to six digits, where that leaves them apart.
void shorten(std::string& before, std::string& after);

} // namespace vicegrip::compare
