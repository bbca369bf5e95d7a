#include "cli/beside.h"
#include "cli/printing.h"
#include "core/base/phrase.h"
#include "core/base/write_file.h"
#include "core/book/book.h"
#include "core/book/html.h"
#include "core/book/pdf.h"
#include "core/compare/compare.h"
#include "core/diagram/diagram.h"
#include "core/drawn/svg.h"
#include "core/job/json.h"
#include "core/recheck/recheck.h"

#include <algorithm>
#include <filesystem>
#include <iostream>

/// The commands of the stage Handover.
namespace vicegrip::cli {
namespace {

Result<analysis::Analysis> analysed(const std::string& file)
{
    auto job = job::readFile(file);
    if (!job)
        return tl::unexpected(job.error());
    return analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
}

} // namespace

void printDifferences(const std::vector<compare::Difference>& differences)
{
    Columns columns;
    for (const compare::Difference& d : differences)
        columns.row({phrase(compare::aboutName(d.about)), d.what, d.before.empty() ? "–" : d.before,
                     d.after.empty() ? "–" : d.after});
    columns.print();
    std::cout << (differences.empty() ? std::string("nothing is different")
                                      : std::to_string(differences.size()) + " differences")
              << '\n';
}

int writeBook(const BookOptions& options)
{
    const auto analysis = analysed(options.job);
    if (!analysis)
        return refuse(analysis.error(), kUnreadable);
    std::set<book::Chapter> chapters(book::allChapters().begin(), book::allChapters().end());
    if (!options.chapters.empty()) {
        std::string names;
        std::set<book::Chapter> chosen;
        for (const book::Chapter c : chapters) {
            names += (names.empty() ? "" : ", ") + std::string(book::chapterName(c));
            if (std::ranges::count(options.chapters, book::chapterName(c)) > 0)
                chosen.insert(c);
        }
        if (chosen.size() != options.chapters.size())
            return refuse("chapters are " + names, kUsage);
        chapters = std::move(chosen);
    }
    const auto beside = besideOf(*analysis->job, options.job, options.since);
    if (!beside)
        return refuse(beside.error(), kUnreadable);
    const book::Book made = book::bookOf(*analysis, chapters, *beside);
    if (!options.html.empty()) {
        if (const auto written = writeFile(options.html, book::htmlOf(made)); !written)
            return refuse(written.error(), kNoAnswer);
        return kFine;
    }
    const auto pdf = book::pdfOf(made);
    if (!pdf)
        return refuse(pdf.error(), kNoAnswer);
    if (const auto written = writeFile(options.pdf, *pdf); !written)
        return refuse(written.error(), kNoAnswer);
    return kFine;
}

int drawDiagram(const DiagramOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    auto sheets = diagram::sheetsOf(*job);
    if (!options.sheet.empty()) {
        std::erase_if(sheets, [&](const diagram::Sheet& s) { return s.name != options.sheet; });
        if (sheets.empty())
            return refuse("the diagram has no sheet \"" + options.sheet + "\"; without --sheet they are named",
                          kNoAnswer);
    }
    if (options.svg.empty()) {
        Columns columns;
        for (const diagram::Sheet& s : sheets)
            columns.row({s.name, s.title, std::to_string(s.links.size()) + " links"});
        columns.print();
        return kFine;
    }
    const std::filesystem::path to = options.svg;
    if (options.sheet.empty()) {
        std::error_code trouble;
        std::filesystem::create_directories(to, trouble);
        if (trouble)
            return refuse(Error{ErrorCode::Io, "cannot be made: " + trouble.message(), {options.svg, {}, 0, 0}},
                          kNoAnswer);
    }
    const auto figures = diagram::drawnOf(*job, sheets);
    for (size_t i = 0; i < sheets.size(); ++i) {
        const auto file = options.sheet.empty() ? to / (sheets[i].name + ".svg") : to;
        if (const auto written = writeFile(file, drawn::svgOf(figures[i])); !written)
            return refuse(written.error(), kNoAnswer);
    }
    return kFine;
}

int recheckAfter(const RecheckOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const job::Facts now = job::facts(*job);
    if (options.after.empty()) {
        Columns columns;
        for (const recheck::Change& c : recheck::changesOf(*job))
            columns.row({c.name, c.words, std::to_string(recheck::after(*job, now, c).size()) + " to prove again"});
        columns.print();
        return kFine;
    }
    const auto change = recheck::changeNamed(*job, options.after);
    if (!change)
        return refuse(change.error(), kNoAnswer);
    const auto again = recheck::after(*job, now, *change);
    if (options.json) {
        Json list = Json::array();
        for (const recheck::Again& a : again)
            list.push_back({{"risk", recheck::riskName(a.risk)},
                            {"circuit", a.circuit.value},
                            {"what", a.what},
                            {"rests_on", a.rests},
                            {"when", a.when},
                            {"stands", a.stands}});
        std::cout << Json{{"job", job->name}, {"after", change->name}, {"again", list}}.dump(2) << '\n';
        return kFine;
    }
    Columns columns;
    for (size_t i = 0; i < again.size(); ++i) {
        if (i == 0 || again[i - 1].risk != again[i].risk)
            columns.heading(phrase(recheck::riskName(again[i].risk)));
        columns.row({phrase(again[i].stands ? key("stands") : key("stale")), again[i].what, again[i].rests}, "  ");
    }
    columns.print();
    std::cout << again.size() << " to prove again after: " << change->words << '\n';
    return kFine;
}

int compareJobs(const CompareOptions& options)
{
    const auto before = analysed(options.before);
    if (!before)
        return refuse(before.error(), kUnreadable);
    const auto after = analysed(options.after);
    if (!after)
        return refuse(after.error(), kUnreadable);
    const auto differences = compare::differences(*before, *after);
    if (options.csv) {
        std::cout << compare::toCsv(differences);
        return kFine;
    }
    if (options.json) {
        Json list = Json::array();
        for (const compare::Difference& d : differences)
            list.push_back({{"about", compare::aboutName(d.about)},
                            {"circuit", d.circuit.value},
                            {"what", d.what},
                            {"before", d.before},
                            {"after", d.after},
                            {"follows", compare::follows(d.about)}});
        std::cout << Json{{"differences", list}}.dump(2) << '\n';
        return kFine;
    }
    printDifferences(differences);
    return kFine;
}

} // namespace vicegrip::cli
