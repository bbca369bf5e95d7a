#include "core/logbook/logbook.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/units/units.h"

#include <algorithm>
#include <sstream>

namespace vicegrip::logbook {
namespace {

std::string reading(const job::Job& job, const job::Proof& p, const job::Circuit& circuit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    const std::string place = job::spoken(job, job::PointRef::fromText(p.station)),
                      read = job::readingText(p.reading, sensor == nullptr ? std::string_view() : sensor->unit);
    const char* said =
        p.passes() ? key("{}, {}, {}: {}, as promised") : key("{}, {}, {}: {}, outside what was promised");
    return phrase(said, circuit.name, job::conditionWords(p.reading.condition()), place, read);
}

std::string clicked(const job::Job& job, const job::Click& click, const job::Circuit& circuit)
{
    std::string answered;
    for (const job::CircuitId& id : click.answered)
        if (const job::Circuit* c = job::find(job, id))
            answered += (answered.empty() ? "" : ", ") + c->name;
    return answered.empty() ? phrase("{}, output clicked: nothing answered", circuit.name)
                            : phrase("{}, output clicked: {} answered", circuit.name, answered);
}

std::string wiggled(const job::Job& job, const job::Wiggle& w, const job::Circuit& circuit)
{
    const std::string seconds = units::formatNumber(w.watched_s, 0);
    if (w.dropOuts == 0)
        return phrase("{}, wiggle test: nothing let go in {} s", circuit.name, seconds);
    const std::string where = w.wires.empty() ? phrase("no place named") : job::spokenEnds(job, w.wires, w.at);
    return phrase("{}, wiggle test: {} drop-outs in {} s, {}", circuit.name, std::to_string(w.dropOuts), seconds,
                  where);
}

std::string turnedByHand(const job::HandTurn& t, const job::Circuit& circuit)
{
    if (t.missed.empty())
        return phrase("{}, turned by hand: all {} teeth of {} seen", circuit.name, std::to_string(t.teeth), t.wheel);
    return phrase("{}, turned by hand: {} of {} teeth of {} not seen", circuit.name, std::to_string(t.missed.size()),
                  std::to_string(t.teeth), t.wheel);
}

std::string decoded(const job::Decoded& d, const job::Circuit& circuit)
{
    std::string wrong;
    for (const std::string& one : d.wrong)
        wrong += (wrong.empty() ? "" : ", ") + one;
    return wrong.empty() ? phrase("{}, capture {}: {} decodes with margin", circuit.name, d.capture, d.wheel)
                         : phrase("{}, capture {}: {}", circuit.name, d.capture, wrong);
}

std::string passed(const job::Passed& p)
{
    if (!p.reading)
        return phrase("Run sheet: {}", p.what);
    const std::string read = job::readingText(*p.reading, {});
    return p.passes() ? phrase("Run sheet: {}: {}", p.what, read)
                      : phrase("Run sheet: {}: {}, which is not as it must be", p.what, read);
}

bool holds(const std::string& text, const std::vector<std::string>& words)
{
    const std::string low = typed::lower(text);
    return std::ranges::all_of(words, [&](const std::string& w) { return low.find(w) != std::string::npos; });
}

} // namespace

std::vector<LogLine> logbook(const job::Job& job, std::string_view filter)
{
    std::vector<std::string> words;
    std::istringstream typed(typed::lower(std::string(filter)));
    for (std::string word; typed >> word;)
        words.push_back(word);
    std::vector<LogLine> out;
    const auto add = [&](const std::string& when, const std::string& about, std::string what) {
        if (holds(when + " " + about + " " + what, words))
            out.push_back({when, std::move(what)});
    };
    for (const job::LogEntry& e : job.log)
        add(e.when, e.about, e.what);
    for (const job::Proof& p : job.proofs)
        if (const job::Circuit* circuit = job::find(job, p.circuit))
            add(p.when, p.circuit.value, reading(job, p, *circuit));
    for (const job::Click& c : job.clicks)
        if (const job::Circuit* circuit = job::find(job, c.circuit))
            add(c.when, c.circuit.value, clicked(job, c, *circuit));
    for (const job::Wiggle& w : job.wiggles)
        if (const job::Circuit* circuit = job::find(job, w.circuit))
            add(w.when, w.circuit.value, wiggled(job, w, *circuit));
    for (const job::HandTurn& t : job.handTurns)
        if (const job::Circuit* circuit = job::find(job, t.circuit))
            add(t.when, t.circuit.value, turnedByHand(t, *circuit));
    for (const job::Decoded& d : job.decoded)
        if (const job::Circuit* circuit = job::find(job, d.circuit))
            add(d.when, d.circuit.value, decoded(d, *circuit));
    for (const job::Passed& p : job.passed)
        add(p.when, {}, passed(p));
    for (const job::Mend& m : job.mends)
        add(m.when, {}, phrase("Mended: {}", m.what));
    for (const job::LogReview& r : job.logReviews)
        add(r.when, {}, phrase("Log {} reviewed: {}", r.log, job::saidText(r)));
    for (const job::Photo& p : job.photos)
        add(p.when, p.of == job::PhotoOf::Circuit ? p.subject : std::string(),
            p.words.empty() ? phrase("Photo") : phrase("Photo: {}", p.words));
    std::ranges::stable_sort(out, std::greater(), &LogLine::when); // ISO 8601 sorts as text
    return out;
}

std::string lastDate(const job::Job& job)
{
    const auto lines = logbook(job);
    return lines.empty() ? std::string() : lines.front().when;
}

} // namespace vicegrip::logbook
