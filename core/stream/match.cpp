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

Words wordsOf(const std::string& name)
{
    return alike::wordsOf(alike::apart(name));
}

bool isKnown(const std::string& unit)
{
    for (int d = 0; d <= static_cast<int>(units::Dimension::Counts); ++d)
        if (units::measures(unit, static_cast<units::Dimension>(d)))
            return true;
    return toSi(Tells::LowTime, {}, unit).has_value() || any(alike::wordsOf(unit), kCounts);
}

} // namespace

Matcher::Matcher(std::shared_ptr<const dbc::Database> database) : m_database(std::move(database))
{
    std::map<std::string, bool> known; // a database has few units
    for (const dbc::Message& m : m_database->messages()) {
        const Words ofMessage = wordsOf(m.name);
        for (const dbc::Signal& s : m.carries) {
            const Words own = wordsOf(s.name);
            Words both = own;
            both.insert(ofMessage.begin(), ofMessage.end());
            for (const std::string& word : both)
                m_words.emplace(word, static_cast<int>(m_words.size()));
            const auto [unit, isNew] = known.try_emplace(s.unit);
            if (isNew)
                unit->second = isKnown(s.unit);
            m_signals.push_back({&m, &s, about(own), about(both), any(own, kVolts), any(own, kCounts),
                                 any(own, kPulses), any(own, kLow), unit->second});
        }
    }
}

/// The first of a kind often has no number.
Matcher::About Matcher::about(const Words& words) const
{
    About out;
    auto unheard = static_cast<int>(m_words.size()); // words that no signal has
    for (const std::string& w : words) {
        if (!w.empty() && std::isdigit(static_cast<unsigned char>(w.front())) != 0) {
            out.number += w;
        } else if (w != "first" && !kVolts.contains(w) && !kCounts.contains(w) && !kPulses.contains(w) &&
                   !kPlain.contains(w)) {
            const auto heard = m_words.find(w);
            out.words.push_back(heard == m_words.end() ? unheard++ : heard->second);
        }
    }
    std::ranges::sort(out.words);
    if (out.number.empty())
        out.number = "1";
    return out;
}

/// The same words about each of a circuit's names.
std::vector<Matcher::About> Matcher::namesOf(const job::Job& job, const job::Circuit& circuit) const
{
    std::vector<About> out;
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    for (const std::string& name : {circuit.name, circuit.function.value, circuit.id.value,
                                    input == nullptr ? std::string() : input->name, circuit.input.value})
        if (!name.empty())
            out.push_back(about(wordsOf(name)));
    return out;
}

/// What it can tell of a circuit with this sensor; none: its unit is of something else.
std::optional<Tells> Matcher::tellsOf(const Read& read, const parts::Part& sensor)
{
    const std::string& unit = read.signal->unit;
    const bool pulses = parts::pulsesOf(sensor).has_value();
    const auto fits = [&](Tells tells) { return toSi(tells, sensor.measures, unit).has_value(); };
    if (unit.empty()) {
        if (read.counts)
            return Tells::Counts;
        if (read.volts)
            return Tells::Volts;
        return pulses && read.pulses ? Tells::Hertz : Tells::Value;
    }
    if (fits(Tells::Value))
        return Tells::Value;
    if (fits(Tells::Volts))
        return Tells::Volts;
    if (pulses && fits(Tells::Hertz))
        return Tells::Hertz;
    if (pulses && fits(Tells::LowTime) && read.low)
        return Tells::LowTime;
    return any(alike::wordsOf(unit), kCounts) ? std::optional(Tells::Counts) : std::nullopt;
}

std::vector<Candidate> Matcher::candidates(const job::Job& job, const job::Circuit& circuit) const
{
    std::vector<Candidate> out;
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr || !job::inputIndex(job, circuit.input))
        return out;
    const std::vector<About> names = namesOf(job, circuit);
    const auto likeness = [](const About& a, const About& b) {
        return a.number == b.number ? alike::shared(a.words, b.words) : 0;
    };
    for (const Read& r : m_signals) {
        const auto tells = tellsOf(r, *sensor);
        if (!tells && r.isKnown)
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

job::Told toldBy(const job::Circuit& circuit, const Candidate& candidate)
{
    return {candidate.tells, candidate.message->name, candidate.signal->name, {}, circuit.input};
}

std::vector<Matched> Matcher::match(const job::Job& job) const
{
    struct Pair
    {
        const job::Circuit* circuit = nullptr;
        Candidate candidate;
    };
    std::vector<Pair> pairs;
    for (const job::Circuit& c : job.circuits)
        for (const Candidate& candidate : candidates(job, c)) {
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
