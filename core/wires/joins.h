#pragma once

#include "core/electrics/wiring.h"

#include <map>
#include <string>
#include <vector>

/// How wires go on at their ends, and which serve nothing.
namespace vicegrip::wires {

/// How a wire goes on at its ends, in words: "crimped in S2 with 8 more", "BE-BC as w2". Empty for a wire from
/// plug to plug.
[[nodiscard]] std::map<job::WireId, std::string> through(const job::Job& job);

/// What a splice needs, by how it is made; both schools say why theirs holds.
struct JointAdvice
{
    std::string needs;
    std::string school; ///< why some prefer it
    std::string caution; ///< empty where none is due
};
[[nodiscard]] JointAdvice adviceOn(job::JointMethod method);

/// The same of a wire without a splice: one that goes on through an inline pair, as an adapter lead or a bulkhead does,
/// or one full run.
[[nodiscard]] JointAdvice adviceOnRun(bool throughPair);

/// Wires that no circuit, unit, load or ground uses: of a harness that came with more circuits than the job has. They
/// are taken out before it is laid and before sleeves are shrunk (common practice).
[[nodiscard]] std::vector<job::WireId> unusedWires(const job::Job& job, const electrics::Wiring& wiring);

/// Takes wires out, with splices that join nothing any more. A cavity that was pinned with one turns wrong until it is
/// pulled out.
void removeWires(job::Job& job, const std::vector<job::WireId>& wires);

} // namespace vicegrip::wires
