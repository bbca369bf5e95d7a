#include "core/practice/round.h"

#include "core/base/phrase.h"
#include "core/harness/start.h"
#include "core/practice/candidates.h"
#include "core/units/units.h"
#include "core/wiggle/wiggle.h"

#include <algorithm>
#include <array>
#include <random>
#include <set>

namespace vicegrip::practice {
namespace {

using diagnosis::Prediction;
using diagnosis::Spot;
using diagnosis::Suspect;
using job::Condition;
using proof::StationKind;

/// What of the catalogue a level draws from.
const std::set<std::string>& familiesOf(Level level)
{
    static const std::set<std::string> kBroken = {"open-wire",    "not-home",      "bad-crimp", "tap",  "short-ground",
                                                  "short-supply", "short-battery", "touching",  "drift"};
    static const std::set<std::string> kShared = {
        "open-wire",    "ground-paint", "ground-other", "wrong-feed", "load-on-sensor-ground",
        "short-ground", "bad-crimp",    "not-home"};
    static const std::set<std::string> kHands = {"exchanged",  "miscounted", "setting",
                                                 "other-part", "table",      "plugs-exchanged"};
    static const std::set<std::string> kNone;
    switch (level) {
    case Level::One:
    case Level::Two:
        return kBroken;
    case Level::Shared:
        return kShared;
    case Level::Hands:
        return kHands;
    case Level::Comes:
        break;
    }
    return kNone;
}

/// What the ECU reports of a circuit with the key on, and what it should.
struct Watched
{
    Spot spot;
    proof::Expectation promise;
};

/// What is wrong to see: where, and as what.
struct Symptom
{
    const Watched* at = nullptr;
    Prediction shows;
};

/// Whether the ECU says something that can be believed.
bool says(const Prediction& p)
{
    return p.kind != Prediction::Kind::Nothing && p.kind != Prediction::Kind::Anything;
}

class Maker
{
  public:
    Maker(const analysis::Analysis& of, const diagnosis::Families& families, const parts::Library& library, Level level,
          unsigned seed, const Record& record)
        : m_of(of), m_families(families), m_library(library), m_level(level), m_record(record)
    {
        std::seed_seq both{seed, static_cast<unsigned>(level)};
        m_random.seed(both);
        for (const job::Circuit& c : of.job->circuits) {
            const auto& promises = analysis::promises(of, c.id, Condition::KeyOn);
            for (const proof::Expectation& e : promises)
                if (e.promises() && !e.due.isOverload() && !e.due.isOpen() &&
                    (e.station.kind == StationKind::Value || e.station.kind == StationKind::Input))
                    m_watched.push_back({{c.id, e}, e});
        }
        for (const Watched& w : m_watched)
            m_spots.push_back(w.spot);
    }

    Result<Round> make()
    {
        Round out;
        out.level = m_level;
        const size_t wanted = m_level == Level::Two ? 2 : 1;
        for (const job::CircuitId& circuit : shuffledCircuits()) {
            if (m_level == Level::Comes ? addLoose(out, circuit) : addBroken(out, circuit))
                if (out.truth.size() == wanted)
                    return out;
        }
        return fail(ErrorCode::Range, phrase("nothing on this car can be wrong in that way so that the ECU shows it"));
    }

  private:
    std::vector<job::CircuitId> shuffledCircuits()
    {
        std::vector<job::CircuitId> out;
        for (const Watched& w : m_watched)
            if (out.empty() || out.back() != w.spot.circuit)
                out.push_back(w.spot.circuit);
        std::ranges::shuffle(out, m_random);
        return out;
    }

    /// Those of the level, in the order they are tried: by their weights at random, what is due first.
    std::vector<Suspect> drawn(const job::CircuitId& circuit)
    {
        const auto& families = familiesOf(m_level);
        std::vector<std::pair<double, Suspect>> all;
        for (Suspect& s : diagnosis::suspects(m_of, circuit, m_families, m_library)) {
            const bool coarse = s.family == "drift" ? s.solved : s.series.empty() || diagnosis::isDecade(s.size);
            if (!families.contains(s.family) || s.subjects.empty() || !coarse)
                continue;
            constexpr double kDue = 10;
            const double weight = s.weight * (isDue(m_record, s.family) ? kDue : 1);
            // The order of exponential waits is a draw without putting back (Efraimidis, Spirakis 2006; from memory).
            all.emplace_back(std::exponential_distribution<double>(weight)(m_random), std::move(s));
        }
        std::ranges::stable_sort(all, {}, &std::pair<double, Suspect>::first);
        constexpr size_t kTried = 25;
        all.resize(std::min(all.size(), kTried));
        std::vector<Suspect> out;
        for (auto& [wait, s] : all)
            out.push_back(std::move(s));
        return out;
    }

    bool addBroken(Round& round, const job::CircuitId& circuit)
    {
        for (const Suspect& s : drawn(circuit)) {
            const auto shown = symptoms(s);
            std::set<job::CircuitId> circuits;
            for (const Symptom& symptom : shown)
                circuits.insert(symptom.at->spot.circuit);
            const auto own = std::ranges::find(shown, circuit, [](const Symptom& x) { return x.at->spot.circuit; });
            const bool shared = circuits.size() > 1;
            if (own == shown.end() || (m_level == Level::Shared && !shared) || overlaps(round, circuits) ||
                (m_level != Level::Shared && m_level != Level::Hands && shared))
                continue;
            take(round, s, *own);
            if (m_level == Level::Shared)
                round.complaint += ' ' + phrase("It is not alone: look at the others too.");
            return true;
        }
        return false;
    }

    static bool overlaps(const Round& round, const std::set<job::CircuitId>& circuits)
    {
        return std::ranges::any_of(round.circuits, [&](const job::CircuitId& c) { return circuits.contains(c); });
    }

    /// What of the ECU's reports is beside its promise, values before volts.
    [[nodiscard]] std::vector<Symptom> symptoms(const Suspect& s) const
    {
        const Suspect sound{.family = "nothing", .faults = {}, .what = {}, .mend = {}, .places = {}};
        const auto predicted = diagnosis::predictions(m_of, m_watched.front().spot.circuit, {sound, s}, m_spots)[1];
        std::vector<Symptom> out;
        for (const StationKind kind : {StationKind::Value, StationKind::Input})
            for (size_t i = 0; i < m_watched.size(); ++i) {
                const Prediction& p = predicted[i];
                const proof::Expectation& e = m_watched[i].promise;
                // So far beside it that nobody calls it an edge.
                constexpr double kVolts = 0.1;
                const double width = std::max(e.high - e.low, e.dimension == units::Dimension::Voltage ? kVolts : 0.0);
                const bool beside = !says(p) || p.value < e.low - width || p.value > e.high + width;
                if (e.station.kind == kind && beside)
                    out.push_back({&m_watched[i], p});
            }
        return out;
    }

    void take(Round& round, const Suspect& s, const Symptom& symptom) const
    {
        const proof::Expectation& e = symptom.at->promise;
        const std::string& name = job::find(*m_of.job, symptom.at->spot.circuit)->name;
        std::string said;
        if (!says(symptom.shows)) {
            said = phrase("With the key on the ECU says nothing of {}.", name);
            round.known.push_back(
                {symptom.at->spot.circuit, e.station.key, job::Reading::beyond(e.dimension, e.condition)});
        } else {
            const job::Reading shown = e.reading(symptom.shows.value);
            said = phrase("With the key on {} shows {}; {} is right.", name, job::readingText(shown, e.unit),
                          proof::boundsText(e));
            round.known.push_back({symptom.at->spot.circuit, e.station.key, shown});
        }
        round.complaint += (round.complaint.empty() ? "" : " ") + said;
        round.circuits.push_back(symptom.at->spot.circuit);
        round.truth.push_back(s);
    }

    bool addLoose(Round& round, const job::CircuitId& circuit)
    {
        const auto holds = wiggle::holds(*m_of.job, circuit, Condition::KeyOn);
        std::vector<wiggle::MayLetGo> all;
        for (const wiggle::Hold& h : holds)
            if (!h.between)
                all.insert(all.end(), h.may.begin(), h.may.end());
        const job::Circuit& of = *job::find(*m_of.job, circuit);
        const double steady = wiggle::readsWith(*m_of.job, of, Condition::KeyOn, {}).value_or(0);
        constexpr double kGrains = 20; // that much nobody overlooks
        std::erase_if(all, [&](const wiggle::MayLetGo& m) { // without any reading the whole ECU would go
            return !m.reads || std::abs(*m.reads - steady) < kGrains * wiggle::grainOf(*m_of.job, of);
        });
        if (all.empty())
            return false;
        const auto& what = all[std::uniform_int_distribution<size_t>(0, all.size() - 1)(m_random)].what;
        round.truth.push_back(looseSuspect(*m_of.job, what));
        round.circuits.push_back(circuit);
        round.complaint =
            phrase("{} drops out now and then; at rest it reads right.", job::find(*m_of.job, circuit)->name);
        return true;
    }

    const analysis::Analysis& m_of;
    const diagnosis::Families& m_families;
    const parts::Library& m_library;
    Level m_level;
    const Record& m_record;
    std::mt19937 m_random;
    std::vector<Watched> m_watched;
    std::vector<Spot> m_spots;
};

} // namespace

std::string_view levelName(Level level)
{
    static constexpr std::array kNames{key("One thing is broken"), key("A ground or a supply that several share"),
                                       key("A slip of hands: counted, exchanged, another part, an old table"),
                                       key("Two things at once"), key("It comes and goes")};
    return kNames[static_cast<size_t>(level)];
}

faults::FaultList Round::faults() const
{
    faults::FaultList out;
    for (const Suspect& s : truth)
        out.insert(out.end(), s.faults.begin(), s.faults.end());
    return out;
}

job::Job practiceJob(job::Job job)
{
    const std::string name = job.name;
    job.stream.clear(); // its car is simulated
    job.instrument.clear();
    return harness::anotherLike(std::move(job), name);
}

job::Job startOf(const analysis::Analysis& of, const Round& round, const std::string& when)
{
    job::Job out = *of.job;
    for (const diagnosis::Taken& t : round.known)
        for (const proof::Expectation& e : analysis::promises(of, t.circuit, t.reading.condition()))
            if (e.station.key == t.station)
                out.proofs.push_back(proof::record(of.facts, t.circuit, e, t.reading, job::ReadingSource::Ecu, when));
    return out;
}

Level suggested(const Record& record)
{
    const auto holds = [](Level level, const std::string& family) {
        return level == Level::Comes ? family == kComesAndGoes : familiesOf(level).contains(family);
    };
    for (const bool isNew : {false, true})
        for (int i = 0; i < kLevels; ++i) {
            const auto level = static_cast<Level>(i);
            const bool any = std::ranges::any_of(record.kinds, [&](const auto& kind) {
                return holds(level, kind.first) && (isNew ? kind.second.right > 0 : isDue(record, kind.first));
            });
            if (any != isNew)
                return level;
        }
    return Level::One;
}

Result<Round> makeRound(const analysis::Analysis& of, const diagnosis::Families& families,
                        const parts::Library& library, Level level, unsigned seed, const Record& record)
{
    return Maker(of, families, library, level, seed, record).make();
}

bool isMended(const Round& round, const job::Job& played)
{
    return std::ranges::all_of(round.truth, [&](const Suspect& s) {
        return std::ranges::any_of(played.mends, [&](const job::Mend& m) { return faults::isIn(s.subjects, m); });
    });
}

} // namespace vicegrip::practice
