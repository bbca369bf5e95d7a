#include "core/stream/match.h"

#include "core/alike/alike.h"
#include "core/stream/listener.h"

#include <algorithm>
#include <cctype>
#include <set>
#include <tuple>

namespace vicegrip::stream {
namespace {

using job::Tells;
using Words = std::set<std::string>;

constexpr double kLikeEnough = 0.5;
constexpr double kByMessage = 0.9; // words of a message say less than the signal's own

/// Words that say how a number is given, and of what every signal could be.
const Words kVolts = {"volts", "volt", "voltage", "v", "mv"};
const Words kCounts = {"counts", "count", "raw", "adc", "lsb"};
const Words kPulses = {"hz", "freq", "frequency"};
const Words kLow = {"low", "width"};
const Words kPlain = {"sensor", "sens",  "snsr",     "sig", "signal", "value", "val", "engine",  "eng",
                      "ecu",    "input", "filtered", "act", "actual", "c",     "f",   "k",       "deg",
                      "degc",   "degf",  "kpa",      "pa",  "bar",    "psi",   "pct", "percent", "ms"};

bool any(const Words& words, const Words& of)
{
    return std::ranges::any_of(words, [&](const std::string& w) { return of.contains(w); });
}

/// What a name is about, with its number apart: the first of a kind often has none.
struct About
{
    Words words;
    std::string number;
};

About about(const Words& all)
{
    About out;
    for (const std::string& w : all) {
        if (!w.empty() && std::isdigit(static_cast<unsigned char>(w.front())) != 0)
            out.number += w;
        else if (!kVolts.contains(w) && !kCounts.contains(w) && !kPulses.contains(w) && !kPlain.contains(w))
            out.words.insert(w);
    }
    out.words.erase("first");
    if (out.number.empty())
        out.number = "1";
    return out;
}

double likeness(const About& a, const About& b)
{
    return a.number == b.number ? alike::shared(a.words, b.words) : 0;
}

/// The same words about each of a circuit's names.
std::vector<About> namesOf(const job::Job& job, const job::Circuit& circuit)
{
    std::vector<About> out;
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    for (const std::string& name : {circuit.name, circuit.function.value, circuit.id.value,
                                    input == nullptr ? std::string() : input->name, circuit.input.value})
        if (!name.empty())
            out.push_back(about(alike::wordsOf(alike::apart(name))));
    return out;
}

/// What it can tell of a circuit with this sensor; none: its unit is of something else.
std::optional<Tells> tellsOf(const dbc::Signal& signal, const Words& words, const parts::Part& sensor)
{
    const bool counts = parts::pulsesOf(sensor).has_value();
    const auto fits = [&](Tells tells) { return toSi(tells, sensor.measures, signal.unit).has_value(); };
    if (signal.unit.empty()) {
        if (any(words, kCounts))
            return Tells::Counts;
        if (any(words, kVolts))
            return Tells::Volts;
        return counts && any(words, kPulses) ? Tells::Hertz : Tells::Value;
    }
    if (fits(Tells::Value))
        return Tells::Value;
    if (fits(Tells::Volts))
        return Tells::Volts;
    if (counts && fits(Tells::Hertz))
        return Tells::Hertz;
    if (counts && fits(Tells::LowTime) && any(words, kLow))
        return Tells::LowTime;
    return any(alike::wordsOf(signal.unit), kCounts) ? std::optional(Tells::Counts) : std::nullopt;
}

bool isKnown(const std::string& unit)
{
    for (int d = 0; d <= static_cast<int>(units::Dimension::Counts); ++d)
        if (units::measures(unit, static_cast<units::Dimension>(d)))
            return true;
    return toSi(Tells::LowTime, {}, unit).has_value() || any(alike::wordsOf(unit), kCounts);
}

/// A signal's words, read once for all circuits.
struct Read
{
    const dbc::Message* message = nullptr;
    const dbc::Signal* signal = nullptr;
    Words words;
    About own, withMessage;
};

std::vector<Read> readAll(const dbc::Database& database)
{
    std::vector<Read> out;
    for (const dbc::Message& m : database.messages())
        for (const dbc::Signal& s : m.carries) {
            const Words words = alike::wordsOf(alike::apart(s.name));
            out.push_back({&m, &s, words, about(words),
                           about(alike::wordsOf(alike::apart(m.name) + " " + alike::apart(s.name)))});
        }
    return out;
}

std::vector<Candidate> candidatesAmong(const std::vector<Read>& all, const job::Job& job, const job::Circuit& circuit)
{
    std::vector<Candidate> out;
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr || !job::inputIndex(job, circuit.input))
        return out;
    const std::vector<About> names = namesOf(job, circuit);
    for (const Read& r : all) {
        const auto tells = tellsOf(*r.signal, r.words, *sensor);
        if (!tells && isKnown(r.signal->unit))
            continue;
        double like = 0;
        for (const About& name : names)
            like = std::max({like, likeness(name, r.own), kByMessage * likeness(name, r.withMessage)});
        out.push_back({r.message, r.signal, tells.value_or(Tells::Value), like, !tells});
    }
    std::ranges::stable_sort(out, [](const Candidate& a, const Candidate& b) {
        return std::tuple(!a.unknownUnit, a.likeness) > std::tuple(!b.unknownUnit, b.likeness);
    });
    return out;
}

} // namespace

std::vector<Candidate> candidates(const job::Job& job, const job::Circuit& circuit, const dbc::Database& database)
{
    return candidatesAmong(readAll(database), job, circuit);
}

job::Told toldBy(const job::Circuit& circuit, const Candidate& candidate)
{
    return {candidate.tells, candidate.message->name, candidate.signal->name, {}, circuit.input};
}

std::vector<Matched> match(const job::Job& job, const dbc::Database& database)
{
    struct Pair
    {
        const job::Circuit* circuit = nullptr;
        Candidate candidate;
    };
    std::vector<Pair> pairs;
    const std::vector<Read> all = readAll(database);
    for (const job::Circuit& c : job.circuits)
        for (const Candidate& candidate : candidatesAmong(all, job, c)) {
            if (candidate.likeness < kLikeEnough || candidate.unknownUnit)
                break;
            pairs.push_back({&c, candidate});
        }
    std::ranges::stable_sort(pairs, std::greater(), [](const Pair& p) { return p.candidate.likeness; });

    std::vector<Matched> out;
    std::set<std::pair<const job::Circuit*, Tells>> told;
    std::set<const dbc::Signal*> taken;
    const auto isOpen = [&](const Pair& p) {
        return !told.contains({p.circuit, p.candidate.tells}) && !taken.contains(p.candidate.signal);
    };
    for (auto first = pairs.begin(); first != pairs.end();) {
        const auto last = std::find_if(first, pairs.end(),
                                       [&](const Pair& p) { return p.candidate.likeness < first->candidate.likeness; });
        std::vector<Pair> level;
        std::copy_if(first, last, std::back_inserter(level), isOpen);
        for (const Pair& p : level) {
            const bool doubted = std::ranges::any_of(level, [&](const Pair& o) {
                return (o.circuit == p.circuit && o.candidate.tells == p.candidate.tells &&
                        o.candidate.signal != p.candidate.signal) ||
                       (o.circuit != p.circuit && o.candidate.signal == p.candidate.signal);
            });
            told.insert({p.circuit, p.candidate.tells});
            taken.insert(p.candidate.signal);
            if (!doubted)
                out.push_back({p.circuit->id, toldBy(*p.circuit, p.candidate), p.candidate.likeness});
        }
        first = last;
    }
    return out;
}

} // namespace vicegrip::stream
