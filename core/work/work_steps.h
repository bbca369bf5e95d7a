#pragma once

#include "core/job/job.h"
#include "core/work/work_order.h"

#include <optional>

/// The steps of a whole job, from mounting to the last plug, with what each waits for and when its place closes.
namespace vicegrip::work {

/// Something that goes back on and buries what is behind it: the intake manifold, the front drive, the undertray.
struct Gate
{
    std::string id; ///< also the id of the step that closes it
    std::string name; ///< "Intake manifold"
    std::string what; ///< "Intake manifold goes back on"
    std::string open; ///< "Intake manifold off again"
    std::string place;
    double hours = 0; ///< to open and close it again (typical)
};

[[nodiscard]] std::vector<Gate> gates();

/// Mounting, sensors, grounds, wires, plugs, sleeves and gates of the job's drawing. Buried sensors come before the
/// gate that buries them; the ECU's own plugs are pinned when every wire has arrived; a sleeve is closed when all plugs
/// are counted (common practice). Done is what the job has ticked, what is pinned, and what a pinned plug shows to be.
/// What is still to be done behind a gate that the job calls closed costs opening it, and a step says so.
[[nodiscard]] std::vector<Step> steps(const job::Job& job);

/// The usual places, by which steps are gathered.
[[nodiscard]] const std::vector<std::string>& places();

/// The plug whose place decides a step's; none for steps that are where they are.
[[nodiscard]] std::optional<std::string> plugOf(const std::string& step, const job::Job& job);

/// Says where a plug, with its sensor, is in this car: one of places(), or a name of the user's own. At a gate's place
/// it is buried by that gate. Empty: where its function usually sits.
void setPlace(job::Job& job, const std::string& plug, const std::string& place);

/// What the closed gates cost that still have work behind them: a sentence each. Empty when none has.
[[nodiscard]] std::vector<std::string> costs(const job::Job& job);

/// Ticks a step, and writes it into the logbook. Those of plugs are not ticked: they are done when their cavities are,
/// which the error says (Range).
[[nodiscard]] Result<void> tick(job::Job& job, const std::string& step, const std::string& when);

/// States whether a gate is shut; one that is shut is ticked no longer when it opens.
void setClosed(job::Job& job, const std::string& gate, bool closed);

} // namespace vicegrip::work
