#include "core/run_sheet/run_sheet.h"

#include "core/base/phrase.h"
#include "core/job/facts.h"
#include "core/run_sheet/made.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <cmath>
#include <map>
#include <set>

namespace vicegrip::run_sheet {
namespace {

using proof::State;

constexpr double kWorkday_h = 12; ///< for so long the place is taken to be as it was seen
constexpr size_t kDate = 10; ///< letters of the date in an ISO 8601 moment

/// Hours since 1970 of an ISO 8601 moment, UTC; none where it is no such thing.
std::optional<double> hoursOf(std::string_view when)
{
    const auto number = [&](size_t at, size_t letters) {
        int out = -1;
        if (at + letters <= when.size())
            std::from_chars(when.data() + at, when.data() + at + letters, out);
        return out;
    };
    const int year = number(0, 4), month = number(5, 2), day = number(8, 2), hour = number(11, 2),
              minute = number(14, 2);
    if (year < 0 || month < 0 || day < 0 || hour < 0 || minute < 0)
        return std::nullopt;
    const std::chrono::year_month_day date{std::chrono::year(year), std::chrono::month(static_cast<unsigned>(month)),
                                           std::chrono::day(static_cast<unsigned>(day))};
    if (!date.ok())
        return std::nullopt;
    return static_cast<double>(std::chrono::sys_days(date).time_since_epoch().count()) * 24 + hour + minute / 60.0;
}

/// Whether what was seen then may be otherwise by now. By hours and not by the date, which changes in the middle of
/// somebody's evening.
bool isOfAnotherDay(std::string_view when, std::string_view now)
{
    const auto then = hoursOf(when), today = hoursOf(now);
    return !then || !today || std::abs(*today - *then) > kWorkday_h;
}

/// The facts a line rests on: its own, and the window's.
job::RestsOn restsOn(const Line& line, const job::Facts& facts)
{
    std::vector<std::string> subjects = line.subjects;
    if (line.window)
        subjects.insert(subjects.end(), line.window->subjects.begin(), line.window->subjects.end());
    return job::RestsOn(job::factsOf(facts, subjects));
}

Standing ofWork(const Line& line)
{
    const State state = line.worked == State::NotNeeded ? State::Done : line.worked;
    return {.state = state, .reason = line.workReason, .read = {}, .when = {}, .waitsFor = {}};
}

/// What was read of a circuit's place, as the analysis judges it.
Standing ofCircuit(const Line& line, const analysis::Analysis& analysis)
{
    Standing out;
    for (const proof::Standing& s : analysis::standings(analysis, line.circuit, line.window->condition)) {
        if (s.place.station.key != line.window->station.key || s.last == nullptr)
            continue;
        out.state = s.state;
        out.reason = s.reason;
        out.read = job::readingText(s.last->reading, line.window->unit);
        out.when = s.last->when;
    }
    return out;
}

Standing ofPassed(const Line& line, const job::Passed& last, const job::Facts& facts, std::string_view now)
{
    Standing out;
    out.when = last.when;
    const std::string unit = line.window ? line.window->unit : std::string();
    if (last.reading)
        out.read = job::readingText(*last.reading, unit);
    out.state = last.passes() ? State::Done : State::Failing;
    if (!last.passes() && line.window)
        out.reason = phrase("{} was read, and {} is due", out.read, windowText(line));
    if (const auto changed = job::changes(last.restsOn.facts(), facts); !changed.empty()) {
        out.state = State::Stale;
        out.reason = changed.front();
    } else if (line.today && isOfAnotherDay(last.when, now)) {
        out.state = State::Stale;
        out.reason = phrase("that was on another day ({}): look again", last.when.substr(0, kDate));
    }
    return out;
}

void judge(Sheet& sheet, const analysis::Analysis& analysis, std::string_view now)
{
    std::map<std::string, const job::Passed*> last;
    for (const job::Passed& p : analysis.job->passed)
        last[p.line] = &p;
    std::map<std::string, size_t> index;
    for (size_t i = 0; i < sheet.lines.size(); ++i)
        index[sheet.lines[i].id] = i;
    for (const Line& line : sheet.lines) {
        const auto passed = last.find(line.id);
        Standing s = line.by == By::Work    ? ofWork(line)
                     : line.provesCircuit   ? ofCircuit(line, analysis)
                     : passed != last.end() ? ofPassed(line, *passed->second, sheet.facts, now)
                                            : Standing();
        if (!line.barred.empty()) {
            s.state = State::Failing;
            s.reason = line.barred;
        }
        sheet.standings.push_back(std::move(s));
    }
    for (size_t i = 0; i < sheet.lines.size(); ++i) {
        std::set<size_t> waits;
        for (const std::string& id : sheet.lines[i].after)
            if (const auto at = index.find(id); at != index.end() && sheet.standings[at->second].state != State::Done)
                waits.insert(at->second);
        sheet.standings[i].waitsFor.assign(waits.begin(), waits.end());
    }
}

} // namespace

std::string_view sectionName(Section section)
{
    static constexpr const char* kNames[] = {key("Before power"), key("Key on"), key("Outputs"), key("On the starter"),
                                             key("First start"),  key("Warm"),   key("Road")};
    return kNames[static_cast<size_t>(section)];
}

Sheet sheetOf(const analysis::Analysis& analysis, std::string_view now)
{
    Sheet out;
    if (analysis.job->circuits.empty())
        return out; // nothing is on it that could be started
    Made made(analysis);
    for (const auto part : {beforePower, keyOn, outputs, cranking, firstStart, warm, road})
        part(made);
    out.lines = std::move(made.lines());
    out.facts = analysis.facts;
    judge(out, analysis, now);
    return out;
}

std::optional<size_t> nextOf(const Sheet& sheet)
{
    for (size_t i = 0; i < sheet.lines.size(); ++i)
        if (sheet.standings[i].state != State::Done && sheet.standings[i].waitsFor.empty())
            return i;
    return std::nullopt;
}

size_t passedOf(const Sheet& sheet)
{
    return static_cast<size_t>(std::ranges::count(sheet.standings, State::Done, &Standing::state));
}

std::string windowText(const Line& line)
{
    if (!line.window)
        return {};
    const proof::Expectation& w = *line.window;
    return std::isfinite(w.high) ? proof::boundsText(w)
                                 : phrase("at least {}", job::readingText(w.reading(w.low), w.unit));
}

bool allows(const Line& line, const job::Reading& reading)
{
    return line.window && line.window->allows(reading);
}

Result<void> pass(job::Job& job, const Sheet& sheet, size_t index, const Seen& seen, const std::string& when)
{
    const Line& line = sheet.lines.at(index);
    const Standing& standing = sheet.standings.at(index);
    if (!standing.waitsFor.empty())
        return fail(ErrorCode::Range,
                    phrase("{}: first comes {}", line.what, sheet.lines[standing.waitsFor.front()].what));
    if (!line.barred.empty())
        return fail(ErrorCode::Range, line.barred);
    if (line.by == By::Work)
        return fail(ErrorCode::Range, phrase("{}: {} proves it", line.what, phrase(analysis::stageName(line.stage))));
    if (line.window.has_value() != seen.reading.has_value())
        return fail(ErrorCode::Range, line.window ? phrase("{}: that wants a reading", line.what)
                                                  : phrase("{}: eyes judge that, and no reading", line.what));
    if (seen.reading &&
        (seen.reading->dimension() != line.window->dimension || seen.reading->condition() != line.window->condition))
        return fail(ErrorCode::Range, phrase("{}: that was read of something else", line.what));
    if (line.provesCircuit) {
        job.proofs.push_back(proof::record(sheet.facts, line.circuit, *line.window, *seen.reading, seen.source, when));
        return {};
    }
    job::Passed passed;
    passed.line = line.id;
    passed.what = line.what;
    passed.reading = seen.reading;
    if (line.window) {
        passed.low = line.window->low;
        passed.high = line.window->high;
    }
    passed.shut_v = line.shut_v;
    passed.source = seen.source;
    passed.when = when;
    passed.restsOn = restsOn(line, sheet.facts);
    job.passed.push_back(std::move(passed));
    return {};
}

Result<void> takeBack(job::Job& job, const Sheet& sheet, size_t index)
{
    const Line& line = sheet.lines.at(index);
    if (std::erase_if(job.passed, [&](const job::Passed& p) { return p.line == line.id; }) == 0)
        return fail(ErrorCode::Range, phrase("{}: it was not passed here", line.what));
    return {};
}

} // namespace vicegrip::run_sheet
