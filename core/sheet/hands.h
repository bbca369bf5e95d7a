#pragma once

#include "core/job/job.h"
#include "core/sheet/route.h"

#include <set>

/// The chores of a whole job, from mounting to the last plug, with what each waits for and when its place closes.
namespace vicegrip::sheet {

/// Something that goes back on and buries what is behind it: the intake manifold, the front drive, the undertray.
struct Gate
{
    std::string id; ///< also the id of the chore that closes it
    std::string name; ///< "Intake manifold"
    std::string what; ///< "Intake manifold goes back on"
    std::string open; ///< "Intake manifold off again"
    std::string place;
    double hours = 0; ///< to open and close it again (typical)
};

[[nodiscard]] const std::vector<Gate>& gates();

/// Mounting, sensors, grounds, wires, plugs, sleeves and gates of the job's drawing. Buried sensors come before the
/// gate that buries them; the ECU's own plugs are pinned when every wire has arrived; a sleeve is closed when all plugs
/// at its end are counted (common practice). What is pinned already is done. `closed` names gates that are shut: what
/// is still to be done behind one costs opening it, and a chore says so.
[[nodiscard]] std::vector<Chore> chores(const job::Job& job, const std::set<std::string>& closed = {});

/// What the closed gates cost that still have work behind them: a sentence each. Empty when none has.
[[nodiscard]] std::vector<std::string> costs(const job::Job& job, const std::set<std::string>& closed);

} // namespace vicegrip::sheet
