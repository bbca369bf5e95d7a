#pragma once

#include "core/job/job.h"

#include <string>
#include <vector>

/// What stands on a sheet of the diagram.
namespace vicegrip::diagram {

enum class LinkKind { Wire, Fuse, Contact, Resistor, Load };

/// What joins two places.
struct Link
{
    LinkKind kind = LinkKind::Wire;
    std::string about; ///< a fact subject: "wire w12", "switch K1"
    std::string label; ///< "w12 BU/WH 0.5", "Main fuse, 5 A"
    std::string colour; ///< of a wire, IEC 60757
    job::PointRef from, to;
};

/// Every link of the job: wires, then what is fitted between them, then what they feed.
[[nodiscard]] std::vector<Link> linksOf(const job::Job& job);

/// One sheet.
struct Sheet
{
    std::string name; ///< for files: "power", "plug-A-2"
    std::string title; ///< "ECU plug A, 2 of 3"
    std::vector<Link> links;
    std::vector<std::string> first; ///< blocks of the left column, as blockOf names them
    bool inOrder = false; ///< their cavities stay in the order of the plug
    std::vector<job::CircuitId> circuits; ///< that are on it as a whole
};

/// The block a place belongs to: its plug, its joint; both halves of an inline pair are one: "BE|BC".
[[nodiscard]] std::string blockOf(const job::Job& job, const job::PointRef& place);

/// The sheets of a job: power, grounds, its circuits by kind, its units' plugs and
/// bulkheads, and what is on none of these: every link of the job is on one at least. A sheet holds about
/// thirty links; what has more goes on to the next.
[[nodiscard]] std::vector<Sheet> sheetsOf(const job::Job& job);

} // namespace vicegrip::diagram
