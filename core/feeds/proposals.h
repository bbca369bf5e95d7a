#pragma once

#include "core/feeds/feeds.h"
#include "core/parts/library.h"

#include <functional>
#include <string>
#include <vector>

/// What would make a job's feeds as they should be, each change with the reason and the numbers for it.
///
///     for (const feeds::Proposal& p : feeds::propose(job, library))   // those that can be made now
///         p.change(job);                                              // or feeds::takeAll(job, library)
namespace vicegrip::feeds {

struct Proposal
{
    std::string subject; ///< what is changed, for a program: "fuse-1", "injectors", "ECU"
    std::string what; ///< "Main fuse: to 15 A"
    std::string why; ///< one sentence
    std::function<void(job::Job&)> change; ///< to the job it was proposed for
};

/// In the order in which they are best taken: coils that kick, main feeds, relays, fuses of groups, then wires and
/// ratings. Empty where nothing is to be done.
[[nodiscard]] std::vector<Proposal> propose(const job::Job& job, const parts::Library& library);

/// Takes them one after the other, each proposed anew for what the one before left, until none is left. How many.
int takeAll(job::Job& job, const parts::Library& library);

} // namespace vicegrip::feeds
