#include "cli/printing.h"
#include "core/base/phrase.h"
#include "core/base/write_file.h"
#include "core/job/json.h"
#include "core/pulls/pulls.h"
#include "core/review/kept_review.h"

#include <cmath>
#include <fstream>
#include <iostream>

/// Commands about logs: what they say of sensors and wiring, and their pulls.
namespace vicegrip::cli {
namespace {

Json asJson(const log::Log& log, const std::vector<log_columns::Meaning>& meanings)
{
    Json out = Json::array();
    for (size_t c = 0; c < log.columns.size(); ++c) {
        const log::Summary s = log::summaryOf(log.columns[c].values);
        Json column{{"name", log.columns[c].name},
                    {"unit", log.columns[c].unit},
                    {"count", s.count},
                    {"mean", s.mean},
                    {"spread", s.spread},
                    {"least", s.least},
                    {"most", s.most}};
        if (meanings[c].circuit)
            column["circuit"] = meanings[c].circuit->value;
        column["holds"] = log_columns::nameOf(meanings[c].quantity).name;
        column["by"] = meanings[c].byHand ? "hand" : "words";
        out.push_back(std::move(column));
    }
    return out;
}

Json asJson(const log::Log& log, const review::Finding& f)
{
    Json stretches = Json::array();
    for (const review::Stretch& s : f.stretches)
        stretches.push_back(
            {{"from_s", log.time_s[s.first]}, {"to_s", log.time_s[s.last]}, {"line", log::lineOf(log, s.first)}});
    Json columns = Json::array();
    for (const size_t c : f.columns)
        columns.push_back(log.columns[c].name);
    Json out{{"rule", review::ruleName(f.rule)},
             {"weight", fields::enumName(f.weight)},
             {"what", f.what},
             {"todo", f.todo},
             {"columns", columns},
             {"times", f.times},
             {"stretches", stretches}};
    if (!f.place.empty())
        out["place"] = f.place;
    return out;
}

Json remarksJson(const log::Log& log)
{
    Json out = Json::array();
    for (const log::Remark& r : log.remarks)
        out.push_back({{"line", r.line}, {"column", r.column}, {"sentence", r.sentence}});
    return out;
}

/// Places in it that somebody marked.
Json marksJson(const std::vector<job::LogMark>& marks)
{
    Json out = Json::array();
    for (const job::LogMark& m : marks)
        out.push_back({{"at_s", m.at_s}, {"words", m.words}});
    return out;
}

void printRemarks(const log::Log& log, const std::string& file)
{
    for (const log::Remark& r : log.remarks)
        std::cerr << file << (r.line > 0 ? ":" + std::to_string(r.line) : "") << ": "
                  << (r.column.empty() ? "" : r.column + ": ") << r.sentence << '\n';
}

std::string clock(double seconds)
{
    return units::formatNumber(seconds, 1) + " s";
}

/// A log with what was made of it for a job.
struct Reviewed
{
    log::Log log;
    std::vector<log_columns::Meaning> meanings;
    review::Review review;
};

Result<Reviewed> reviewed(const std::string& file, const analysis::Analysis& analysis)
{
    auto log = log::readLog(file);
    if (!log)
        return tl::make_unexpected(log.error());
    Reviewed out{std::move(*log), {}, {}};
    out.meanings = log_columns::meaningsOf(out.log, analysis.job.get());
    out.review = review::review(out.log, out.meanings, analysis);
    return out;
}

void print(const Reviewed& r)
{
    for (const review::Finding& f : r.review.findings) {
        const review::Stretch& s = f.stretches.front();
        std::cout << phrase(job::weightWord(f.weight)) << "  " << f.what << '\n';
        std::cout << "       from " << clock(r.log.time_s[s.first]) << ", line " << log::lineOf(r.log, s.first)
                  << (f.times > 1 ? ", " + std::to_string(f.times) + " times" : "") << '\n';
        if (!f.todo.empty())
            std::cout << "       " << f.todo << '\n';
    }
    if (r.review.findings.empty())
        std::cout << "Nothing is found.\n";
}

/// What was asked of two logs, or everything that can be said.
Result<std::vector<review::Compared>> comparedBy(const ReviewOptions& options, const review::Side& before,
                                                 const review::Side& after)
{
    if (options.purpose.empty())
        return compareAll(before, after);
    const auto purpose = review::purposeFromName(options.purpose);
    if (!purpose)
        return tl::make_unexpected(purpose.error());
    const auto column = std::ranges::find(after.log.columns, options.column, &log::Column::name);
    if (column == after.log.columns.end())
        return fail(ErrorCode::Reference, phrase("the log has no column \"{}\"", options.column));
    auto one = review::compare(before, after, static_cast<size_t>(column - after.log.columns.begin()), *purpose);
    if (!one)
        return tl::make_unexpected(one.error());
    return std::vector{std::move(*one)};
}

} // namespace

int reviewLog(const ReviewOptions& options)
{
    auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
    const auto now = reviewed(options.log, analysis);
    if (!now)
        return refuse(now.error(), kUnreadable);
    std::vector<review::Compared> compared;
    if (!options.before.empty()) {
        const auto then = reviewed(options.before, analysis);
        if (!then)
            return refuse(then.error(), kUnreadable);
        auto said =
            comparedBy(options, {then->log, then->meanings, then->review}, {now->log, now->meanings, now->review});
        if (!said)
            return refuse(said.error(), kNoAnswer);
        compared = std::move(*said);
    }
    if (!options.out.empty()) {
        job::Job keeping = *analysis.job;
        auto kept = review::record(analysis, {now->log, now->meanings, now->review}, options.log, nowText());
        review::addChanges(kept, options.before, compared);
        review::keep(keeping, std::move(kept));
        if (const auto written = writeFile(options.out, job::write(keeping)); !written)
            return refuse(written.error(), kNoAnswer);
    }
    if (options.json) {
        Json findings = Json::array(), changes = Json::array();
        for (const review::Finding& f : now->review.findings)
            findings.push_back(asJson(now->log, f));
        for (const review::Compared& c : compared)
            changes.push_back({{"column", now->log.columns[c.after].name},
                               {"for", review::purposeName(c.purpose)},
                               {"difference", c.difference},
                               {"spread", c.spread},
                               {"conditions", c.conditions},
                               {"did", c.did},
                               {"verdict", c.verdict}});
        Json out{{"rows", now->log.rows()},
                 {"seconds", now->log.seconds()},
                 {"remarks", remarksJson(now->log)},
                 {"marks", marksJson(log_columns::marksOf(*analysis.job, options.log))},
                 {"columns", asJson(now->log, now->meanings)},
                 {"findings", findings}};
        if (!options.before.empty())
            out["changes"] = changes;
        std::cout << out.dump(2) << '\n';
    } else {
        printRemarks(now->log, options.log);
        print(*now);
        for (const job::LogMark& m : log_columns::marksOf(*analysis.job, options.log))
            std::cout << "mark   at " << clock(m.at_s) << ": " << m.words << '\n';
        for (const review::Compared& c : compared)
            std::cout << (c.did ? "done   " : "before and after: ") << c.verdict << '\n';
    }
    return std::ranges::any_of(now->review.findings,
                               [](const review::Finding& f) { return f.weight == review::Weight::Wrong; })
               ? kFindings
               : kFine;
}

int findPulls(const PullsOptions& options)
{
    const auto log = log::readLog(options.log);
    if (!log)
        return refuse(log.error(), kUnreadable);
    const auto pulls = pulls::pullsOf(*log, log_columns::meaningsOf(*log, nullptr));
    if (!pulls)
        return refuse(pulls.error(), kNoAnswer);
    size_t written = 0;
    for (const pulls::Pull& p : pulls->all) {
        if (options.out.empty() || !p.chosen)
            continue;
        const std::string file = options.out + "-" + std::to_string(++written) + ".csv";
        std::ofstream out(file, std::ios::binary);
        out << log::csvOf(*log, p.first, p.last + 1);
        if (!out.flush())
            return refuse(phrase("{} cannot be written", file), kUnreadable);
    }
    if (options.json) {
        Json all = Json::array();
        for (const pulls::Pull& p : pulls->all)
            all.push_back({{"from_s", log->time_s[p.first]},
                           {"to_s", log->time_s[p.last]},
                           {"line", log::lineOf(*log, p.first)},
                           {"from_rpm", p.from_rpm},
                           {"to_rpm", p.to_rpm},
                           {"gear", p.gear ? Json(*p.gear) : Json()},
                           {"chosen", p.chosen},
                           {"why", p.why}});
        std::cout << Json{{"pulls", all}, {"verdict", pulls->verdict}, {"remarks", remarksJson(*log)}}.dump(2) << '\n';
        return kFine;
    }
    printRemarks(*log, options.log);
    Columns columns;
    for (const pulls::Pull& p : pulls->all)
        columns.row({p.chosen ? "send" : "", clock(log->time_s[p.first]), clock(p.seconds),
                     units::formatNumber(p.from_rpm, 0) + " to " + units::formatNumber(p.to_rpm, 0) + " rpm",
                     p.gear ? "gear " + std::to_string(*p.gear) : "", p.why});
    columns.print();
    std::cout << pulls->verdict << '\n';
    return kFine;
}

} // namespace vicegrip::cli
