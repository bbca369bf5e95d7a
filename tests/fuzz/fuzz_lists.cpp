#include "core/branches/tree.h"
#include "core/job/check.h"
#include "core/lists/lists.h"
#include "core/logbook/logbook.h"
#include "core/pasted/pasted_wires.h"
#include "core/remap/remap.h"

#include <cstdint>
#include <cstdlib>

using namespace vicegrip;

namespace {

job::Job drawing()
{
    job::Job job;
    for (const auto& [id, kind] : {std::pair("A", job::ConnectorKind::Ecu), {"CLT", job::ConnectorKind::Sensor}}) {
        job::Connector c;
        c.id = id;
        c.kind = kind;
        c.cavities = {"1", "2", "3", "12"};
        job.connectors.push_back(c);
    }
    job.joints.push_back({"S1", "Splice", job::JointKind::Splice, {}});
    return job;
}

void holds(const job::Job& job)
{
    if (!job::check(job))
        std::abort();
}

} // namespace

/// Any bytes as a list of wires, an old plug's list, a stretch of the harness, a list that comes back and a search of
/// the logbook: what is taken from them leaves a drawing that holds.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, size_t size)
{
    const std::string_view text(reinterpret_cast<const char*>(data), size); // NOLINT: bytes are characters here
    static const job::Job kEmpty = drawing();
    job::Job job = kEmpty;
    if (const auto wires = pasted::pasteWires(job, text)) {
        (void)pasted::drawPasted(job, *wires);
        holds(job);
    }
    if (const auto pins = remap::pasteOldPins(text); pins && !pins->pins.empty()) {
        job.oldPlugs.push_back({"A", {}, true, pins->pins});
        holds(job);
        (void)remap::remap(job, job.oldPlugs.back());
    }
    if (const auto branch = branches::branchTyped(job, text); branch && branch->from != branch->to) {
        job.branches.push_back(*branch);
        holds(job);
        (void)branches::stretches(job);
    }
    if (const auto list = lists::read(job, text); list && list->job)
        holds(*list->job);
    (void)logbook::logbook(job, text);
    return 0;
}
