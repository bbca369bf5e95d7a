#pragma once

#include "core/analysis/analysis.h"

#include <string>
#include <string_view>
#include <vector>

/// What is to be proved again after a change, and in which order?
namespace vicegrip::recheck {

/// Something that can change about a car.
struct Change
{
    std::string name; ///< as it is asked for: "firmware", "plug A", "ground G1", "sensor clt"
    std::string words; ///< "ECU firmware", "Plug CLT pinned again"
    std::vector<std::string> subjects; ///< of facts that are not the same after it
};

/// Everything of this job that a proof could rest on and that hands or a download change: firmware, plugs, grounds,
/// supplies, fuses and relays, sensors and what is driven.
[[nodiscard]] std::vector<Change> changesOf(const job::Job& job);

/// By its name, in any case; an error (Reference) lists the kinds there are.
[[nodiscard]] Result<Change> changeNamed(const job::Job& job, std::string_view name);

/// What is lost first where it is wrong: the order of risk.
enum class Risk {
    Fire, ///< fuel where it burns
    Spark, ///< sparks at the wrong time: crank and cam
    Throttle, ///< the engine does not follow the foot
    Fuel, ///< the mixture: pressures, air, fuel, what injects and ignites
    Guard, ///< what the engine is protected by: oil, temperatures
    Other
};
/// A key: `phrase` says it.
[[nodiscard]] std::string_view riskName(Risk risk);

/// Something that was proved and is not, after the change.
struct Again
{
    Risk risk = Risk::Other;
    job::CircuitId circuit; ///< empty: a line of the run sheet
    std::string what; ///< "Coolant temp, key on, Cavity A7: 2.360 V"
    std::string rests; ///< on what of the change: "ECU firmware 0.4"
    std::string when; ///< it was proved, ISO 8601, UTC
    bool stands = true; ///< nothing it rests on has changed since
    std::string station; ///< of a reading, as job::Proof; empty: it is proved at its own stage
    job::Condition condition = job::Condition::KeyOn;
};

/// In the order of risk, what does not stand first, then as they were proved. Only the latest of each place counts.
/// `now` are the job's facts.
[[nodiscard]] std::vector<Again> after(const job::Job& job, const job::Facts& now, const Change& change);

/// Somebody read it again and it reads as before: the reading is kept once more, as of `when`, for what it rests on
/// now. Errors (Range): it is no reading, or nothing is promised there any more, or what it read is not allowed today:
/// a reading that should be another now cannot be the same.
[[nodiscard]] Result<void> renew(job::Job& job, const analysis::Analysis& analysis, const Again& again,
                                 const std::string& when);

} // namespace vicegrip::recheck
