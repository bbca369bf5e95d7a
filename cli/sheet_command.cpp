#include "cli/printing.h"
#include "core/base/phrase.h"
#include "core/job/json.h"
#include "core/run_sheet/run_sheet.h"

#include <cmath>
#include <iostream>

/// The command that prints the run sheet.
namespace vicegrip::cli {
namespace {

std::string_view byWord(run_sheet::By by)
{
    switch (by) {
    case run_sheet::By::Work:
        return "stage";
    case run_sheet::By::Eyes:
        return "eyes";
    case run_sheet::By::Meter:
        return "meter";
    case run_sheet::By::Ecu:
        return "ecu";
    case run_sheet::By::Typed:
        return "typed";
    }
    return {};
}

Json bound(double si)
{
    return std::isfinite(si) ? Json(si) : Json();
}

Json asJson(const run_sheet::Sheet& s, size_t i)
{
    const run_sheet::Line& line = s.lines[i];
    const run_sheet::Standing& standing = s.standings[i];
    Json waits = Json::array();
    for (const size_t other : standing.waitsFor)
        waits.push_back(s.lines[other].id);
    Json out{{"id", line.id},         {"section", run_sheet::sectionName(line.section)},
             {"what", line.what},     {"how", line.how},
             {"by", byWord(line.by)}, {"state", proof::stateName(standing.state)},
             {"waits_for", waits}};
    if (line.window)
        out["window"] = {{"measures", units::name(line.window->dimension)},
                         {"low", bound(line.window->low)},
                         {"high", bound(line.window->high)},
                         {"shown", run_sheet::windowText(line)},
                         {"source", line.source}};
    if (!standing.reason.empty())
        out["reason"] = standing.reason;
    if (!line.caution.empty())
        out["caution"] = line.caution;
    return out;
}

} // namespace

int runSheet(const SheetOptions& options)
{
    auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
    const run_sheet::Sheet s = run_sheet::sheetOf(analysis, nowText());
    if (options.json) {
        Json lines = Json::array();
        for (size_t i = 0; i < s.lines.size(); ++i)
            lines.push_back(asJson(s, i));
        std::cout << Json{{"job", analysis.job->name}, {"passed", run_sheet::passedOf(s)}, {"lines", lines}}.dump(2)
                  << '\n';
        return kFine;
    }
    Columns columns;
    const auto next = run_sheet::nextOf(s);
    for (size_t i = 0; i < s.lines.size(); ++i) {
        const run_sheet::Line& line = s.lines[i];
        if (i == 0 || s.lines[i - 1].section != line.section)
            columns.heading(phrase(run_sheet::sectionName(line.section)));
        columns.row({next == i ? "next" : phrase(proof::stateName(s.standings[i].state)), line.what,
                     run_sheet::windowText(line), s.standings[i].reason},
                    "  ");
    }
    columns.print();
    std::cout << run_sheet::passedOf(s) << " of " << s.lines.size() << " lines have passed\n";
    return kFine;
}

} // namespace vicegrip::cli
