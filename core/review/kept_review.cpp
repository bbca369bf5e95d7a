#include "core/review/kept_review.h"

#include "core/base/phrase.h"
#include "core/base/utf8.h"
#include "core/electrics/wiring.h"

#include <algorithm>
#include <filesystem>
#include <set>

namespace vicegrip::review {
namespace {

std::string nameOf(const std::string& file)
{
    return std::filesystem::path(file).filename().string();
}

/// Names of columns are as long as their log has them, and it may have thousands: what is kept must be read again.
constexpr size_t kMostSaid = 1000, kMostBytes = 2000;

std::string bounded(std::string sentence)
{
    if (sentence.size() <= kMostBytes)
        return sentence;
    return std::string(cutTo(sentence, kMostBytes - 3)) + "...";
}

void say(job::LogReview& to, Weight weight, std::string what, std::string todo)
{
    if (to.said.size() < kMostSaid)
        to.said.push_back({weight, bounded(std::move(what)), bounded(std::move(todo)), nlohmann::json::object()});
}

} // namespace

job::LogReview record(const analysis::Analysis& analysis, const Side& of, const std::string& log, std::string when)
{
    const job::Job& job = *analysis.job;
    const electrics::Wiring wiring(job);
    std::set<std::string> subjects;
    for (const log_columns::Meaning& m : of.meanings) {
        const job::Circuit* circuit = m.circuit ? job::find(job, *m.circuit) : nullptr;
        if (circuit == nullptr)
            continue;
        subjects.merge(std::set{"circuit " + circuit->id.value, "scaling " + circuit->id.value,
                                "sensor " + circuit->device.value, "input " + circuit->input.value});
        for (const electrics::Path& path : wiring.paths(*circuit))
            subjects.insert(path.subjects.begin(), path.subjects.end());
    }
    job::LogReview out;
    out.log = nameOf(log);
    out.rows = static_cast<int>(of.log.rows());
    out.seconds = of.log.seconds();
    for (const Finding& f : of.review.findings)
        say(out, f.weight, f.times > 1 ? phrase("{}, {} times", f.what, std::to_string(f.times)) : f.what, f.todo);
    out.when = std::move(when);
    out.restsOn = job::RestsOn(job::factsOf(analysis.facts, {subjects.begin(), subjects.end()}));
    return out;
}

void addChanges(job::LogReview& to, const std::string& before, const std::vector<Compared>& changes)
{
    for (const Compared& c : changes)
        say(to, c.did ? Weight::Fine : Weight::Doubtful, phrase("Since {}: {}", nameOf(before), c.verdict), {});
    std::ranges::stable_sort(to.said, {}, &job::LogSaid::weight);
}

void keep(job::Job& job, job::LogReview review)
{
    std::erase_if(job.logReviews, [&](const job::LogReview& r) { return r.log == review.log; });
    job.logReviews.push_back(std::move(review));
}

const job::LogReview* keptOf(const job::Job& job, const std::string& log)
{
    const auto kept = std::ranges::find(job.logReviews, nameOf(log), &job::LogReview::log);
    return kept == job.logReviews.end() ? nullptr : &*kept;
}

} // namespace vicegrip::review
