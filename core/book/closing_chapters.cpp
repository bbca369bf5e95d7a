#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/logbook/logbook.h"
#include "core/recheck/recheck.h"

#include <set>

/// What is open, what a change would cost, and what was done.
namespace vicegrip::book {
namespace {

Block shown(const job::Photo& photo, const photos::Album& album)
{
    const std::string words = photo.words.empty() ? timeText(photo.when) : photo.words + ", " + timeText(photo.when);
    const auto kept = album.find(photo.file);
    if (kept == album.end() || !kept->second)
        return Paragraph{phrase("{}: the photo {} is not there.", words, photo.file)};
    return Photo{*kept->second, words};
}

} // namespace

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

/// Together by what they are of, in the order of the first of each.
Blocks photosOf(const analysis::Analysis& analysis, const photos::Album& album)
{
    const job::Job& job = *analysis.job;
    Blocks out;
    std::vector<std::string> subjects;
    for (const job::Photo& p : job.photos)
        subjects.push_back(photos::subjectText(job, p));
    std::set<std::string> said;
    for (const std::string& subject : subjects) {
        if (!said.insert(subject).second)
            continue;
        out.emplace_back(Heading{subject});
        for (size_t i = 0; i < subjects.size(); ++i)
            if (subjects[i] == subject)
                out.push_back(shown(job.photos[i], album));
    }
    return out;
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
