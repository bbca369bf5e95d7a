#include "core/base/phrase.h"
#include "core/compare/told.h"
#include "core/logbook/logbook.h"
#include "core/scaling/exchange.h"

#include <algorithm>
#include <array>
#include <numeric>
#include <set>
#include <string_view>

/// What is set and done otherwise, and what follows: tables, and proofs that are lost.
namespace vicegrip::compare {
namespace {

const job::Circuit* circuitOf(const analysis::Analysis& analysis, const job::CircuitId& id)
{
    return job::find(*analysis.job, id);
}

/// Facts that are told as a circuit, a wire, a cavity or a part.
bool isToldElsewhere(const std::string& subject)
{
    constexpr std::array<std::string_view, 5> kElsewhere = {"wire ", "sensor ", "actuator ", "contact ", "mended "};
    return std::ranges::any_of(kElsewhere, [&](std::string_view of) { return subject.starts_with(of); });
}

size_t seated(const analysis::Analysis& analysis)
{
    size_t out = 0;
    for (const auto& [plug, pins] : analysis.pins)
        out += static_cast<size_t>(std::ranges::count_if(pins, [](const pinning::Pin& pin) {
            return pin.state == pinning::PinState::Seated || pin.state == pinning::PinState::Counted;
        }));
    return out;
}

size_t readingsOf(const job::Job& job, const job::CircuitId& id)
{
    return static_cast<size_t>(std::ranges::count(job.proofs, id, &job::Proof::circuit));
}

int ticked(const job::Job& job)
{
    return std::accumulate(job.pinned.begin(), job.pinned.end(), 0,
                           [](int sum, const job::Pinned& p) { return sum + p.steps; });
}

/// Places that were read in both, and said something else.
void readAgain(Told& told, const analysis::Analysis& before, const analysis::Analysis& after)
{
    for (const proof::CircuitView& then : before.circuits) {
        const proof::CircuitView* now = analysis::find(after, then.id);
        const job::Circuit* circuit = circuitOf(before, then.id);
        if (now == nullptr)
            continue;
        for (const auto& [condition, stations] : then.stations)
            for (const proof::Standing& was : stations)
                for (const proof::Standing& is : proof::stations(*now, condition))
                    if (is.place.station.key == was.place.station.key && was.last != nullptr && is.last != nullptr)
                        told.tell(About::Work, then.id,
                                  phrase("{}, {}, {}, last reading", circuit->name, job::conditionWords(condition),
                                         was.place.station.label),
                                  job::readingText(was.last->reading, was.place.unit),
                                  job::readingText(is.last->reading, is.place.unit));
    }
}

/// Of the lines that were written: those that tell of readings bear the names of today.
std::multiset<std::string> writtenOf(const job::Job& job)
{
    std::multiset<std::string> out;
    for (const auto& line : job.log)
        out.insert(line.when + " " + line.what);
    return out;
}

/// The first line of the one that is not in the other.
std::string lacking(const std::multiset<std::string>& one, const std::multiset<std::string>& other)
{
    const auto it = std::ranges::find_if(one, [&](const std::string& line) { return !other.contains(line); });
    return it == one.end() ? std::string() : *it;
}

/// With its time: another review of the same log may count the same.
std::string saidWhen(const job::LogReview* review)
{
    return review == nullptr ? std::string() : job::saidText(*review) + ", " + review->when;
}

} // namespace

void settings(Told& told, const analysis::Analysis& before, const analysis::Analysis& after)
{
    const auto text = [](const job::Facts& facts, const std::string& subject) {
        const auto it = facts.find(subject);
        return it == facts.end() ? std::string() : it->second;
    };
    std::set<std::string> subjects;
    for (const auto* facts : {&before.facts, &after.facts})
        for (const auto& [subject, fact] : *facts)
            if (!isToldElsewhere(subject))
                subjects.insert(subject);
    std::string gone, come; // of what is in one of the two only, its first fact stands for all
    for (const std::string& subject : subjects) {
        const std::string was = text(before.facts, subject), is = text(after.facts, subject);
        if ((was.empty() && !come.empty() && subject.starts_with(come + ' ')) ||
            (is.empty() && !gone.empty() && subject.starts_with(gone + ' ')))
            continue;
        if (was.empty())
            come = subject;
        if (is.empty())
            gone = subject;
        if (was == is)
            continue;
        told.facts.insert(subject);
        told.tell(About::Setting, saidOfFact(*after.job, subject, was, is));
    }
    const job::Job &then = *before.job, &now = *after.job;
    told.tell(About::Setting, {}, phrase("Title"), then.title, now.title);
    using units::Dimension;
    const auto exact = [](double si, double tolerance, Dimension of, Dimension difference) {
        return units::formatExact(si, of) + " ± " + units::formatExact(tolerance, difference);
    };
    const auto ambient = [&](const job::Surroundings& s) {
        return exact(s.ambient_k, s.ambientTolerance_k, Dimension::Temperature, Dimension::TemperatureDifference);
    };
    const auto barometer = [&](const job::Surroundings& s) {
        return exact(s.barometer_pa, s.barometerTolerance_pa, Dimension::AbsolutePressure, Dimension::AbsolutePressure);
    };
    told.tell(About::Setting, {}, phrase("Ambient"), ambient(then.surroundings), ambient(now.surroundings));
    told.tell(About::Setting, {}, phrase("Barometer"), barometer(then.surroundings), barometer(now.surroundings));
}

void work(Told& told, const analysis::Analysis& before, const analysis::Analysis& after)
{
    const size_t others = told.out.size();
    told.tell(About::Work, {}, phrase("Cavities with their wire in"), std::to_string(seated(before)),
              std::to_string(seated(after)));
    for (const auto& [then, now] :
         paired(before.job->circuits, after.job->circuits, [](const auto& c) { return c.id.value; }))
        if (then != nullptr && now != nullptr)
            told.tell(About::Work, now->id, phrase("{}, readings taken", now->name),
                      std::to_string(readingsOf(*before.job, then->id)),
                      std::to_string(readingsOf(*after.job, now->id)));
    told.tell(About::Work, {}, phrase("Steps of hands at cavities"), std::to_string(ticked(*before.job)),
              std::to_string(ticked(*after.job)));
    readAgain(told, before, after);
    told.tell(About::Work, {}, phrase("Lines of the run sheet passed"), std::to_string(before.job->passed.size()),
              std::to_string(after.job->passed.size()));
    for (const auto& [then, now] :
         paired(before.job->logReviews, after.job->logReviews, [](const auto& r) { return r.log; }))
        told.tell(About::Work, {}, phrase("Log {}, reviewed", (now != nullptr ? now : then)->log), saidWhen(then),
                  saidWhen(now));
    told.tell(About::Work, {}, phrase("Lines of the logbook"), std::to_string(logbook::logbook(*before.job).size()),
              std::to_string(logbook::logbook(*after.job).size()));
    const auto then = writtenOf(*before.job), now = writtenOf(*after.job);
    // As many others: what they are of may have been told above.
    if (then.size() == now.size() && told.out.size() == others)
        told.tell(About::Work, {}, phrase("The logbook's first line that is otherwise"), lacking(then, now),
                  lacking(now, then));
}

void tables(Told& told, const analysis::Analysis& before, const analysis::Analysis& after)
{
    for (const proof::CircuitView& now : after.circuits) {
        const proof::CircuitView* then = analysis::find(before, now.id);
        const job::Circuit* circuit = circuitOf(after, now.id);
        const parts::Part* sensor = circuit == nullptr ? nullptr : job::sensorOf(*after.job, *circuit);
        if (then == nullptr || sensor == nullptr || (!then->table && !now.table))
            continue;
        if (!then->table || !now.table) {
            const auto points = [](const proof::CircuitView& v) {
                return v.table ? phrase("{} points", std::to_string(v.table->points.size())) : std::string();
            };
            told.tell(About::Table, now.id, circuit->name, points(*then), points(now));
            continue;
        }
        if (then->table->points == now.table->points || then->table->axis != now.table->axis)
            continue;
        const auto off = scaling::difference(*then->table, *now.table, scaling::readingStep(*after.job, *circuit));
        const auto shown = [&](const scaling::Table& t) {
            return units::format(scaling::lookUp(t, off.worst.reading), sensor->measures, sensor->unit, 1);
        };
        told.tell(About::Table, now.id,
                  phrase("{}, largest at {}", circuit->name, scaling::readingText(off.worst.reading, now.table->axis)),
                  shown(*then->table), shown(*now.table));
    }
}

void proofs(Told& told, const analysis::Analysis& before, const analysis::Analysis& after)
{
    for (const proof::CircuitView& then : before.circuits) {
        const proof::CircuitView* now = analysis::find(after, then.id);
        const job::Circuit* circuit = circuitOf(before, then.id);
        for (const auto& [condition, stations] : then.stations)
            for (const proof::Standing& was : stations) {
                if (was.state != proof::State::Done)
                    continue;
                std::string is = phrase("not measured here any more");
                if (now != nullptr)
                    for (const proof::Standing& s : proof::stations(*now, condition))
                        if (s.place.station.key == was.place.station.key)
                            is = s.state == proof::State::Done ? std::string()
                                 : s.reason.empty()            ? phrase(proof::stateName(s.state))
                                                               : s.reason;
                if (!is.empty())
                    told.tell(
                        About::Proof, then.id,
                        phrase("{}, {}, {}", circuit->name, job::conditionWords(condition), was.place.station.label),
                        was.last == nullptr ? phrase("done") : job::readingText(was.last->reading, was.place.unit), is);
            }
    }
}

} // namespace vicegrip::compare
