#include "cli/beside.h"
#include "cli/printing.h"
#include "core/analysis/analysis.h"
#include "core/base/write_file.h"
#include "core/job/json.h"
#include "core/packet/folder.h"
#include "core/packet/zip.h"

/// The tuner's packet.
namespace vicegrip::cli {

int writePacket(const PacketOptions& options)
{
    auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto logs = packet::readLogs({options.logs.begin(), options.logs.end()});
    if (!logs)
        return refuse(logs.error(), kUnreadable);
    const auto beside = besideOf(*job, options.job, options.since);
    if (!beside)
        return refuse(beside.error(), kUnreadable);
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
    const auto made = packet::packetOf(analysis, *beside, *logs);
    if (!made)
        return refuse(made.error(), kNoAnswer);
    if (!options.out.ends_with(".zip")) {
        if (const auto written = packet::writeFolder(*made, options.out); !written)
            return refuse(written.error(), kNoAnswer);
        return kFine;
    }
    const auto zip = packet::zipOf(*made);
    if (!zip)
        return refuse(zip.error(), kNoAnswer);
    if (const auto written = writeFile(options.out, *zip); !written)
        return refuse(written.error(), kNoAnswer);
    return kFine;
}

} // namespace vicegrip::cli
