#pragma once

#include "core/job/job.h"

#include <string>
#include <vector>

/// Adapter lead, taps or a full harness, side by side for the job at hand.
namespace vicegrip::brief {

struct HarnessOption
{
    job::HarnessKind kind = job::HarnessKind::Full;
    std::string name;
    bool possible = true;
    std::string verdict; ///< why not, or when it is the right one
    int connectors = 0, joints = 0; ///< added
    double wire_m = 0;
    double money = 0; ///< in the user's money, material and hours
    double hours = 0;
    double rework = 0; ///< chance that somebody goes back for a fault
    std::string reworkSource;
    std::string reversible;
    bool chosen = false;
};

/// All three, for the circuits the job has now and the user's prices. Hours and chances are typical and said to be.
[[nodiscard]] std::vector<HarnessOption> harnessOptions(const job::Job& job, const job::Brief& brief);

} // namespace vicegrip::brief
