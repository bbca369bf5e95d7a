#include "core/base/phrase.h"
#include "core/book/book.h"
#include "core/diagram/net.h"
#include "core/logbook/logbook.h"
#include "core/recheck/recheck.h"

#include <algorithm>

/// What stands in each chapter, counted without making it.
namespace vicegrip::book {
namespace {

/// "23 circuits"; empty where there are none.
std::string counted(const char* one, const char* many, size_t n)
{
    return n == 0 ? std::string() : n == 1 ? phrase(one) : phrase(many, std::to_string(n));
}

std::string joined(const std::vector<std::string>& all)
{
    std::string out;
    for (const std::string& one : all)
        out += (out.empty() || one.empty() ? "" : ", ") + one;
    return out;
}

size_t changesThatCost(const analysis::Analysis& analysis)
{
    const auto changes = recheck::changesOf(*analysis.job);
    return static_cast<size_t>(std::ranges::count_if(
        changes, [&](const auto& c) { return !recheck::after(*analysis.job, analysis.facts, c).empty(); }));
}

} // namespace

std::string chapterHolds(const analysis::Analysis& analysis, Chapter chapter)
{
    const job::Job& job = *analysis.job;
    const auto tables = static_cast<size_t>(
        std::ranges::count_if(analysis.circuits, [](const auto& c) { return c.table.has_value(); }));
    switch (chapter) {
    case Chapter::Circuits:
        return joined({counted(key("one circuit"), key("{} circuits"), job.circuits.size()),
                       counted(key("one reading"), key("{} readings"), job.proofs.size())});
    case Chapter::Plugs:
        return counted(key("one plug"), key("{} plugs"), job.connectors.size());
    case Chapter::Wires:
        return counted(key("one wire"), key("{} wires"), job.wires.size());
    case Chapter::Harness:
        return counted(key("one stretch"), key("{} stretches"), job.branches.size());
    case Chapter::Diagrams:
        return counted(key("one sheet"), key("{} sheets"), diagram::sheetsOf(job).size());
    case Chapter::Scaling:
        return counted(key("one table"), key("{} tables"), tables);
    case Chapter::Trigger:
        return counted(key("one wheel"), key("{} wheels"),
                       static_cast<size_t>(std::ranges::count_if(
                           job.circuits, [&](const job::Circuit& c) { return job::readsWheel(job, c); })));
    case Chapter::RunSheet:
        return joined({phrase("every line"), counted(key("one passed"), key("{} passed"), job.passed.size())});
    case Chapter::Logs:
        return joined({counted(key("one capture"), key("{} captures"), job.decoded.size()),
                       counted(key("one log"), key("{} logs"), job.logReviews.size()),
                       counted(key("one mark"), key("{} marks"), job.logMarks.size())});
    case Chapter::Since:
        return phrase("what is different, where a book was made before");
    case Chapter::Findings:
        return analysis.findings.empty() ? phrase("nothing is open")
                                         : counted(key("one finding"), key("{} findings"), analysis.findings.size());
    case Chapter::Again:
        return counted(key("one change that would cost readings"), key("{} changes that would cost readings"),
                       changesThatCost(analysis));
    case Chapter::Photos:
        return counted(key("one photo"), key("{} photos"), job.photos.size());
    case Chapter::Logbook:
        return counted(key("one line"), key("{} lines"), logbook::logbook(job).size());
    }
    return {};
}

} // namespace vicegrip::book
