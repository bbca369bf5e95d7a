#include "cli/printing.h"
#include "core/base/write_file.h"
#include "core/compare/compare.h"
#include "core/job/json.h"
#include "core/lists/lists.h"

#include <algorithm>
#include <iostream>

/// Lists out of a job and into it.
namespace vicegrip::cli {
int printList(const PrintedListOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto kind = std::ranges::find(lists::allKinds(), options.kind, &lists::kindName);
    std::cout << lists::toCsv(*job, *kind);
    return kFine;
}

int takeList(const TakenListOptions& options)
{
    auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto reading = lists::readFile(*job, options.list, library().parts);
    if (!reading)
        return refuse(reading.error(), kUnreadable);
    for (const lists::Note& n : reading->notes)
        std::cerr << Error{ErrorCode::Malformed, n.sentence, {options.list, {}, n.line, 0}}.text() << '\n';
    if (!reading->job)
        return refuse("nothing is taken until the list is mended", kNoAnswer);
    const auto before = analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
    const auto after = analysis::analyse(std::make_shared<const job::Job>(*reading->job));
    printDifferences(compare::differences(before, after));
    if (options.out.empty())
        return kFine;
    if (const auto written = writeFile(options.out, job::write(*reading->job)); !written)
        return refuse(written.error(), kNoAnswer);
    return kFine;
}

} // namespace vicegrip::cli
