#include "core/practice/debrief.h"

#include "core/base/phrase.h"
#include "core/units/units.h"
#include "core/wiggle/wiggle.h"

#include <algorithm>
#include <map>
#include <memory>

namespace vicegrip::practice {
namespace {

using diagnosis::Prediction;
using diagnosis::Spot;
using job::Condition;

/// What was done at one moment.
struct Done
{
    std::string when;
    const job::Proof* read = nullptr;
    const job::Wiggle* wiggled = nullptr;
    const job::Mend* mended = nullptr;
};

/// In the order of their times; within a second readings come before what was made of them.
std::vector<Done> doneIn(const job::Job& played, size_t known)
{
    std::vector<Done> out;
    for (size_t i = known; i < played.proofs.size(); ++i)
        out.push_back({played.proofs[i].when, &played.proofs[i], nullptr, nullptr});
    for (const job::Wiggle& w : played.wiggles)
        out.push_back({w.when, nullptr, &w, nullptr});
    for (const job::Mend& m : played.mends)
        out.push_back({m.when, nullptr, nullptr, &m});
    std::ranges::stable_sort(out, {}, &Done::when); // ISO 8601 sorts as text
    return out;
}

class Replay
{
  public:
    Replay(const analysis::Analysis& of, const Round& round, const diagnosis::Families& families,
           const parts::Library& library)
        : m_of(of), m_round(round), m_taken(round.known)
    {
        if (round.level == Level::Comes)
            return;
        for (const job::CircuitId& c : round.circuits)
            m_finders[c] = std::make_unique<diagnosis::Finder>(of, c, families, library);
    }

    Step read(const job::Proof& p)
    {
        Step out;
        const auto spot = spotOf(p.circuit, p.station, p.reading);
        if (!spot)
            return out;
        out.what = readText(*spot, p.reading);
        out.seconds = diagnosis::secondsFor(*m_of.job, *spot, m_now);
        const auto finder = m_finders.contains(p.circuit) ? m_finders.find(p.circuit) : m_finders.begin();
        const bool asked = finder != m_finders.end();
        if (asked) {
            const diagnosis::Diagnosis before = finder->second->diagnosis(m_taken, m_now, 0);
            const auto probe = std::ranges::find_if(before.probes, [&](const diagnosis::Probe& x) {
                return x.spot.circuit == p.circuit && x.spot.place.station.key == p.station &&
                       x.spot.place.condition == p.reading.condition();
            });
            constexpr double kNothing = 0.01; // bits
            if (probe != before.probes.end() && probe->bits < kNothing)
                out.remark = phrase("told nothing");
        }
        m_taken.push_back({p.circuit, p.station, p.reading});
        m_now = spot->place.condition;
        if (asked)
            believe(out, finder->second->diagnosis(m_taken, m_now, 0));
        return out;
    }

    Step mended(const job::Mend& m)
    {
        Step out{.what = phrase("Mended: {}", m.what), .seconds = 0, .believed = {}, .share = 0, .remark = {}};
        const bool right = std::ranges::any_of(
            m_round.truth, [&](const diagnosis::Suspect& s) { return faults::isIn(s.subjects, m); });
        if (!right) {
            out.remark = phrase("was sound");
            out.seconds = kNeedlessMend_s;
        }
        return out;
    }

    /// The finder's own way from the complaint on a car with this fault, as the network has it.
    void best(Debrief& out) const
    {
        for (size_t i = 0; i < m_round.truth.size(); ++i)
            if (m_round.level == Level::Comes)
                bestWiggle(out);
            else
                bestReadings(out, m_round.circuits[i], m_round.truth[i]);
    }

  private:
    [[nodiscard]] std::optional<Spot> spotOf(const job::CircuitId& circuit, const std::string& station,
                                             const job::Reading& reading) const
    {
        for (const auto& s : analysis::standings(m_of, circuit, reading.condition()))
            if (s.place.station.key == station)
                return Spot{circuit, s.place};
        return std::nullopt; // it was drawn while the round was played
    }

    static std::string readText(const Spot& spot, const job::Reading& reading)
    {
        return phrase("{}, {}: {}", spot.place.station.label, job::conditionWords(spot.place.condition),
                      job::readingText(reading, spot.place.unit));
    }

    static void believe(Step& step, const diagnosis::Diagnosis& d)
    {
        if (d.groups.empty())
            return;
        const diagnosis::Group& first = d.groups.front();
        const std::string& what = d.suspects[first.members.front()].what;
        step.believed = first.members.size() == 1 ? what : phrase("{}, or alike", what);
        step.share = first.share;
    }

    void bestReadings(Debrief& out, const job::CircuitId& circuit, const diagnosis::Suspect& truth) const
    {
        std::vector<diagnosis::Taken> known;
        for (const diagnosis::Taken& t : m_round.known)
            if (t.circuit == circuit)
                known.push_back(t);
        const diagnosis::Suspect sound{.family = "nothing", .faults = {}, .what = {}, .mend = {}, .places = {}};
        const auto shown = [&](const Spot& spot) -> std::optional<job::Reading> {
            const Prediction p = diagnosis::predictions(m_of, circuit, {sound, truth}, {spot})[1][0];
            if (p.kind == Prediction::Kind::Nothing || p.kind == Prediction::Kind::Anything)
                return std::nullopt;
            if (p.kind == Prediction::Kind::Open)
                return spot.place.reading(std::numeric_limits<double>::infinity());
            return spot.place.reading(p.value);
        };
        const auto way = diagnosis::follow(*m_finders.at(circuit), known, Condition::KeyOn, shown);
        out.best_s += way.seconds;
        for (size_t i = known.size(); i < way.taken.size(); ++i)
            if (const auto spot = spotOf(circuit, way.taken[i].station, way.taken[i].reading))
                out.bestSteps.push_back(readText(*spot, way.taken[i].reading));
    }

    /// Hands at each place in turn, for as long as it takes, to the one that is loose.
    void bestWiggle(Debrief& out) const
    {
        const auto& what = std::get<faults::Loose>(m_round.truth.front().faults.front());
        for (const wiggle::Hold& h : wiggle::holds(*m_of.job, m_round.circuits.front(), Condition::KeyOn)) {
            out.best_s += wiggle::kLongEnough_s;
            out.bestSteps.push_back(phrase("Hands at {}", h.name));
            if (std::ranges::find(h.may, what, &wiggle::MayLetGo::what) != h.may.end())
                return;
        }
    }

    const analysis::Analysis& m_of;
    const Round& m_round;
    std::map<job::CircuitId, std::unique_ptr<diagnosis::Finder>> m_finders;
    std::vector<diagnosis::Taken> m_taken;
    Condition m_now = Condition::KeyOn;
};

} // namespace

Debrief debrief(const analysis::Analysis& of, const job::Job& played, const Round& round, int hints,
                const diagnosis::Families& families, const parts::Library& library)
{
    Debrief out;
    out.found = isMended(round, played);
    out.hints = hints;
    out.seconds = hints * kHint_s;
    for (const diagnosis::Suspect& s : round.truth)
        out.truth.push_back(s.what);
    Replay replay(of, round, families, library);
    for (const Done& done : doneIn(played, round.known.size())) {
        Step step;
        if (done.read != nullptr) {
            step = replay.read(*done.read);
            ++out.readings;
            out.idle += step.remark.empty() ? 0 : 1;
        } else if (done.wiggled != nullptr) {
            const job::Circuit* circuit = job::find(played, done.wiggled->circuit);
            step.what = phrase("Wiggle test of {}: {} drop-outs", circuit == nullptr ? "" : circuit->name,
                               std::to_string(done.wiggled->dropOuts));
            step.seconds = done.wiggled->watched_s;
        } else {
            step = replay.mended(*done.mended);
            out.soundMended += step.remark.empty() ? 0 : 1;
        }
        if (step.what.empty())
            continue;
        out.seconds += step.seconds;
        out.steps.push_back(std::move(step));
    }
    replay.best(out);
    return out;
}

void keep(Record& record, const Round& round, const Debrief& debrief)
{
    const int played = record.rounds;
    for (const diagnosis::Suspect& s : round.truth) {
        record.rounds = played; // two at once are one round
        answered(record, s.family, debrief.clean());
    }
}

} // namespace vicegrip::practice
