#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/logbook/logbook.h"
#include "core/recheck/recheck.h"

#include <set>

/// What is open, what a change would cost, and what was done.
namespace vicegrip::book {

Blocks findingsOf(const analysis::Analysis& analysis)
{
    if (analysis.findings.empty())
        return {Paragraph{phrase("Nothing is open.")}};
    Table table{
        {{phrase("How grave"), 0.9}, {phrase("What"), 3}, {phrase("Why it matters"), 3}, {phrase("What to do"), 3}},
        {}};
    for (const findings::Finding& f : analysis.findings)
        table.rows.push_back({phrase(findings::severityName(f.severity)), f.what, f.why, f.todo});
    return {std::move(table)};
}

Blocks againOf(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Table table{{{phrase("After this change"), 2}, {phrase("Readings"), 0.8, true}, {phrase("In this order"), 5}}, {}};
    for (const recheck::Change& change : recheck::changesOf(job)) {
        const auto again = recheck::after(job, analysis.facts, change);
        if (again.empty())
            continue;
        std::string names;
        std::set<std::string> said;
        for (const recheck::Again& a : again) {
            const job::Circuit* c = job::find(job, a.circuit);
            const std::string name = c == nullptr ? phrase("run sheet") : c->name;
            if (said.insert(name).second)
                names += (names.empty() ? "" : ", ") + name;
        }
        table.rows.push_back({change.words, std::to_string(again.size()), names});
    }
    if (table.rows.empty())
        return {};
    return {Paragraph{phrase("What was read rests on what it was read through. After a change these readings are worth "
                             "nothing until they are taken again; what sets sparks comes first.")},
            std::move(table)};
}

Blocks logbookOf(const analysis::Analysis& analysis)
{
    Table table{{{phrase("When, UTC"), 1.2, true}, {phrase("What"), 6}}, {}};
    for (const logbook::LogLine& line : logbook::logbook(*analysis.job))
        table.rows.push_back({timeText(line.when), line.what});
    if (table.rows.empty())
        return {};
    return {std::move(table)};
}

} // namespace vicegrip::book
