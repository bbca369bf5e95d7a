#pragma once

#include "core/analysis/analysis.h"
#include "core/parts/library.h"

#include <string>
#include <vector>

namespace vicegrip::lookup {

/// What an entry is. The order is that of two that are meant equally.
enum class Kind {
    Action, ///< something the window does; the window's own
    Spot, ///< a view, or a field of one; the window's own
    Circuit,
    Cavity, ///< of any plug
    Wire,
    Place, ///< a splice, a stud, a post
    Part, ///< a sensor of the job
    Library, ///< a sensor, an ECU or a connector of the library, "sensor/ID" and so on
    Term, ///< of the glossary; the window's own
    Finding,
    Log ///< a line of the logbook
};

struct Entry
{
    Kind kind = Kind::Action;
    std::string id; ///< which one of its kind: a circuit's, wire's or part's id, a place (PointRef's text), a number in
                    ///< the analysis' findings or the job's log
    std::string text; ///< what it is called: "Cavity A7"
    std::string detail; ///< one line more: "Coolant temp, signal; w12 blue, white tracer"
    std::string also; ///< further words it goes by

    /// The same from start to start, for what is counted of it. Findings and log lines are not the same next time:
    /// empty.
    [[nodiscard]] std::string key() const;
};

/// What the library has and the job has not: sensors, ECUs, connectors.
[[nodiscard]] std::vector<Entry> entriesOf(const parts::Library& library, const job::Job& job);

/// All of the job: circuits, cavities, wires, places, parts, findings, the log.
[[nodiscard]] std::vector<Entry> entriesOf(const analysis::Analysis& analysis);

} // namespace vicegrip::lookup
