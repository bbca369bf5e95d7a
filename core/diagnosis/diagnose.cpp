#include "core/diagnosis/diagnose.h"

#include "core/base/phrase.h"
#include "core/diagnosis/heard.h"
#include "core/diagnosis/reach.h"
#include "core/electrics/electrics.h"
#include "core/scaling/table.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

namespace vicegrip::diagnosis {
namespace {

using job::Condition;
using proof::Standing;
using proof::StationKind;

/// What is as good as sure, what no reading is taken for, and what a bit is worth once it is as good as sure: a mend
/// that mends nothing takes fifteen minutes (typical).
constexpr double kSure = 0.95, kWorthBits = 0.01, kBit_s = 900;

bool isWorthIts(const Probe& probe, bool sure)
{
    return probe.bits >= kWorthBits && (!sure || probe.bits * kBit_s > probe.seconds);
}

/// What the ECU was given for the circuit, in its own unit.
std::vector<faults::HeldTable::Point> tableOf(const analysis::Analysis& analysis, const job::CircuitId& id)
{
    std::vector<faults::HeldTable::Point> out;
    const proof::CircuitView* view = analysis::find(analysis, id);
    const job::Circuit* circuit = job::find(*analysis.job, id);
    const parts::Part* sensor = circuit == nullptr ? nullptr : job::sensorOf(*analysis.job, *circuit);
    if (view != nullptr && view->table && sensor != nullptr)
        for (const scaling::TablePoint& p : view->table->points)
            out.push_back({p.reading, units::toUnit(p.value, sensor->measures, view->table->unit)});
    return out;
}

/// The width of what can be shown at a spot.
double spanOf(const job::Job& job, const Spot& s)
{
    const job::Circuit* c = job::find(job, s.circuit);
    const parts::Part* sensor = c == nullptr ? nullptr : job::sensorOf(job, *c);
    constexpr double kVolts = 20, kHertz = 20e3, kCounts = 4096;
    if (s.place.station.kind == StationKind::Counts)
        return kCounts;
    if (s.place.station.kind == StationKind::Value && sensor != nullptr)
        return 2 * (sensor->high - sensor->low);
    return s.place.dimension == units::Dimension::Frequency ? kHertz : kVolts;
}

bool same(const Spot& a, const Spot& b)
{
    return a.circuit == b.circuit && a.place.station.key == b.place.station.key &&
           a.place.condition == b.place.condition;
}

bool among(const std::vector<Spot>& spots, const Spot& spot)
{
    return std::ranges::any_of(spots, [&](const Spot& s) { return same(s, spot); });
}

/// All that can be read of the circuit under these conditions. Counts are the input's volts again.
std::vector<Spot> ownSpots(const analysis::Analysis& analysis, const job::CircuitId& circuit,
                           const std::set<Condition>& conditions)
{
    std::vector<Spot> out;
    for (const Condition condition : conditions)
        for (const Standing& s : analysis::standings(analysis, circuit, condition))
            if (s.place.promises() && s.place.station.kind != StationKind::Counts)
                out.push_back({circuit, s.place});
    return out;
}

/// A reading that stands, with its spot.
struct Stands
{
    Spot spot;
    job::Reading reading;
    bool failing = false; ///< in the job, or in hand
};

/// Two of one place are as good as any number: what is read alike twice was no slip.
constexpr size_t kMostOfAPlace = 2;

bool isWrong(const analysis::Analysis& analysis, const job::CircuitId& circuit, const proof::Place& place,
             const job::Reading& reading)
{
    return std::ranges::any_of(analysis::promises(analysis, circuit, place.condition),
                               [&](const proof::Expectation& e) {
                                   return e.station.key == place.station.key && e.promises() && !e.allows(reading);
                               });
}

/// Of each place of the job those in hand, and before them those that are not stale.
std::vector<Stands> standing(const analysis::Analysis& analysis, const std::vector<Taken>& inHand)
{
    std::vector<Stands> out;
    std::map<job::CircuitId, proof::Proofs> proofs;
    for (const job::Proof& p : analysis.job->proofs)
        proofs[p.circuit].push_back(&p);
    for (const job::Circuit& c : analysis.job->circuits)
        for (const Condition condition :
             {Condition::BatteryOff, Condition::KeyOn, Condition::Cranking, Condition::Running})
            for (const Standing& s : analysis::standings(analysis, c.id, condition)) {
                if (!s.place.promises() || s.place.station.kind == StationKind::Counts)
                    continue;
                std::vector<job::Reading> readings;
                if (s.last != nullptr && s.state != proof::State::Stale)
                    for (const job::Proof* p : proofs[c.id])
                        if (p->station == s.place.station.key && p->reading.condition() == condition &&
                            job::changes(p->restsOn.facts(), analysis.facts).empty())
                            readings.push_back(p->reading);
                bool failing = s.state == proof::State::Failing;
                for (const Taken& t : inHand)
                    if (t.circuit == c.id && t.station == s.place.station.key && t.reading.condition() == condition) {
                        readings.push_back(t.reading);
                        failing = failing || isWrong(analysis, c.id, s.place, t.reading);
                    }
                for (size_t i = readings.size() - std::min(readings.size(), kMostOfAPlace); i < readings.size(); ++i)
                    out.push_back({{c.id, s.place}, readings[i], failing});
            }
    return out;
}

/// What would be shown at a spot, put together where an instrument shows the same.
std::vector<Outcome> outcomesAt(const Diagnosis& d, const std::vector<std::vector<Prediction>>& predicted, size_t spot,
                                const proof::Place& place)
{
    struct Bin
    {
        Prediction::Kind kind = Prediction::Kind::Nothing;
        double low = 0, high = 0, share = 0, best = 0;
        size_t likeliest = 0;
    };
    std::vector<size_t> order(d.suspects.size());
    std::iota(order.begin(), order.end(), size_t{0});
    std::ranges::stable_sort(order, std::greater{}, [&](size_t s) { return d.belief[s]; });
    constexpr double kOfAll = 0.97; // what is unlikely would make one of all that is shown
    double sum = 0;
    size_t kept = 0;
    while (kept < order.size() && sum < kOfAll)
        sum += d.belief[order[kept++]];
    order.resize(kept);
    std::ranges::stable_sort(order, {}, [&](size_t s) { return predicted[s][spot].value; });
    std::vector<Bin> bins;
    for (const size_t s : order) {
        const Prediction& p = predicted[s][spot];
        const double least = p.value - 2 * p.sigma(), high = p.value + 2 * p.sigma();
        const double low =
            p.value >= 0 && place.dimension != units::Dimension::Temperature ? std::max(least, 0.0) : least;
        const auto joins = std::ranges::find_if(bins, [&](const Bin& b) {
            return b.kind == p.kind && (p.kind != Prediction::Kind::Quantity || low <= b.high);
        });
        Bin& bin = joins != bins.end() ? *joins : bins.emplace_back(Bin{p.kind, low, high, 0, -1, s});
        bin.high = std::max(bin.high, high);
        bin.low = std::min(bin.low, low);
        bin.share += d.belief[s];
        if (d.belief[s] > bin.best) {
            bin.best = d.belief[s];
            bin.likeliest = s;
        }
    }
    std::ranges::stable_sort(bins, std::greater{}, &Bin::share);
    std::vector<Outcome> out;
    constexpr double kWorthSaying = 0.01;
    for (const Bin& b : bins) {
        if (b.share < kWorthSaying)
            break;
        const auto shown = [&](double si) { // no finer than hands tell apart
            return place.dimension == units::Dimension::Voltage ? units::format(si, place.dimension, place.unit, 2)
                                                                : job::readingText(place.reading(si), place.unit);
        };
        out.push_back({b.kind == Prediction::Kind::Open       ? phrase("open")
                       : b.kind == Prediction::Kind::Nothing  ? phrase("nothing at all")
                       : b.kind == Prediction::Kind::Anything ? phrase("nothing, or nonsense")
                                                              : units::rangeText(shown(b.low), shown(b.high)),
                       d.suspects[b.likeliest].what, b.share});
    }
    return out;
}

/// Readings of the circuit that the likeliest suspect takes for a slip; of others there may be a fault of their own.
/// And whose wrong readings it explains.
void explain(Diagnosis& d, const std::vector<Stands>& read, const job::CircuitId& own, const std::vector<Spot>& spots,
             const std::vector<Evidence>& evidence, const std::vector<std::vector<Prediction>>& predicted,
             const std::vector<double>& spans)
{
    d.slips.clear();
    d.explains.clear();
    const size_t likeliest = d.groups.front().members.front();
    const auto fits = [&](const Evidence& e) { // after all the others
        Track track(predicted[likeliest], spans);
        for (const Evidence& other : evidence)
            if (&other != &e)
                (void)track.take(other);
        return track.slipChance({e.spot, e.reading}) <= 0.5;
    };
    std::map<job::CircuitId, bool> explained; // of those that read wrong
    for (size_t i = 0; i < evidence.size(); ++i) {
        const Spot& spot = spots[evidence[i].spot];
        if (spot.circuit != own && !read[i].failing) // nobody asks
            continue;
        const bool fit = fits(evidence[i]);
        if (!fit && spot.circuit == own)
            d.slips.push_back(phrase("{} at {}, {}, fits nothing that is likely: read it again",
                                     job::readingText(evidence[i].reading, spot.place.unit), spot.place.station.label,
                                     job::conditionWords(spot.place.condition)));
        if (read[i].failing)
            explained.try_emplace(spot.circuit, true).first->second &= fit;
    }
    for (const auto& [circuit, all] : explained)
        if (all && d.suspects[likeliest].family != "nothing")
            d.explains.push_back(circuit);
}

} // namespace

std::vector<Suspect> suspects(const analysis::Analysis& analysis, const job::CircuitId& circuit,
                              const Families& families, const parts::Library& library)
{
    return suspects(*analysis.job, circuit, families, library, tableOf(analysis, circuit));
}

Finder::Finder(const analysis::Analysis& analysis, const job::CircuitId& circuit, const Families& families,
               const parts::Library& library)
    : m_analysis(&analysis), m_circuit(circuit), m_families(families), m_library(library)
{
    if (job::find(*analysis.job, circuit) == nullptr) {
        m_trouble = phrase("the job has no circuit \"{}\"", circuit.value);
        return;
    }
    if (!analysis.networkTrouble.empty()) {
        m_trouble = analysis.networkTrouble;
        return;
    }
    std::vector<Spot> spots = ownSpots(analysis, circuit, {Condition::BatteryOff, Condition::KeyOn});
    if (spots.empty()) {
        m_trouble = phrase("nothing can be read of it: it has no seat, or no part");
        return;
    }
    for (const Stands& s : standing(analysis, {}))
        if (!among(spots, s.spot))
            spots.push_back(s.spot);
    weigh();
    m_predicted.resize(m_suspects.size());
    know(spots);
}

void Finder::weigh()
{
    m_suspects = suspects(*m_analysis, m_circuit, m_families, m_library);
    if (m_clickChances.empty())
        m_clickChances = chancesOfClicks(*m_analysis, m_circuit, m_suspects);
    for (size_t s = 0; s < m_suspects.size(); ++s)
        m_suspects[s].weight *= m_clickChances[s];
}

bool Finder::goOnWith(const analysis::Analysis& analysis)
{
    const auto drawn = [](job::Job job) { // what is on record moves no reading
        job.proofs.clear();
        job.clicks.clear();
        job.wiggles.clear();
        job.handTurns.clear();
        job.decoded.clear();
        job.passed.clear();
        job.mends.clear();
        job.pinned.clear();
        job.logColumns.clear();
        job.logMarks.clear();
        job.logReviews.clear();
        job.photos.clear();
        job.log.clear();
        return job;
    };
    if (!m_trouble.empty() || !analysis.networkTrouble.empty() || drawn(*analysis.job) != drawn(*m_analysis->job))
        return false;
    if (analysis.job->clicks != m_analysis->job->clicks || analysis.job->mends != m_analysis->job->mends)
        m_clickChances.clear(); // other clicks stand
    m_analysis = &analysis;
    weigh();
    return true;
}

/// Works out what all suspects say of these spots too.
void Finder::know(const std::vector<Spot>& spots)
{
    if (spots.empty())
        return;
    m_pairs.clear(); // they would miss them
    const auto more = predictions(*m_analysis, m_circuit, m_suspects, spots);
    for (size_t s = 0; s < m_suspects.size(); ++s)
        m_predicted[s].insert(m_predicted[s].end(), more[s].begin(), more[s].end());
    m_spots.insert(m_spots.end(), spots.begin(), spots.end());
}

/// Where something was read while cranking or running, the other places can be read so too.
void Finder::knowOwn(const std::vector<Taken>& inHand)
{
    std::set<Condition> conditions;
    for (const Taken& t : inHand)
        if (t.circuit == m_circuit)
            conditions.insert(t.reading.condition());
    for (const job::Proof& p : m_analysis->job->proofs)
        if (p.circuit == m_circuit)
            conditions.insert(p.reading.condition());
    std::vector<Spot> unknown = ownSpots(*m_analysis, m_circuit, conditions);
    std::erase_if(unknown, [&](const Spot& s) { return among(m_spots, s); });
    know(unknown);
}

/// Pairs, where no single fault explains what was read of the circuit.
void Finder::addPairs(Looked& looked, const std::vector<Evidence>& evidence, const std::vector<double>& spans)
{
    constexpr size_t kShortList = 24;
    const std::vector<Pair> pairs = likelyPairs(m_suspects, m_predicted, evidence, spans, kShortList);
    std::vector<Pair> unknown;
    std::vector<Suspect> toSolve = {m_suspects.front()};
    for (const Pair& pair : pairs) {
        looked.suspects.push_back(both(m_suspects, pair, m_families));
        if (!m_pairs.contains(pair)) {
            unknown.push_back(pair);
            toSolve.push_back(looked.suspects.back());
        }
    }
    if (!unknown.empty()) {
        auto solved = predictions(*m_analysis, m_circuit, toSolve, m_spots);
        for (size_t i = 0; i < unknown.size(); ++i) {
            growAsAlone(solved[1 + i], m_predicted[unknown[i].first], m_predicted[unknown[i].second]);
            m_pairs[unknown[i]] = std::move(solved[1 + i]);
        }
    }
    for (const Pair& pair : pairs)
        looked.predicted.push_back(m_pairs.at(pair));
}

std::optional<Spot> Finder::secondLook(const Looked& looked, size_t suspect) const
{
    constexpr double kApart = 4; // sigma: no car at its edge
    std::optional<Spot> out;
    double least = 0;
    for (size_t i = 0; i < m_spots.size(); ++i) {
        if (!isOwn(i))
            continue;
        const Prediction &wrong = looked.predicted[suspect][i], &sound = looked.predicted.front()[i];
        const bool apart = wrong.kind != sound.kind ||
                           std::abs(wrong.value - sound.value) > kApart * std::hypot(wrong.sigma(), sound.sigma());
        const double seconds = secondsFor(*m_analysis->job, m_spots[i], m_spots[i].place.condition);
        if (apart && (!out || seconds < least)) {
            out = m_spots[i];
            least = seconds;
        }
    }
    return out;
}

Diagnosis Finder::diagnosis(const std::vector<Taken>& inHand, Condition now, size_t most)
{
    Diagnosis out;
    out.trouble = m_trouble;
    if (!m_trouble.empty())
        return out;
    knowOwn(inHand);
    std::vector<Spot> unknown;
    const auto read = standing(*m_analysis, inHand);
    for (const Stands& s : read)
        if (!among(m_spots, s.spot))
            unknown.push_back(s.spot);
    know(unknown);
    std::vector<Evidence> evidence;
    for (const Stands& s : read)
        for (size_t i = 0; i < m_spots.size(); ++i)
            if (same(m_spots[i], s.spot))
                evidence.push_back({i, s.reading, s.failing && s.spot.circuit != m_circuit});
    std::vector<double> spans;
    for (const Spot& s : m_spots)
        spans.push_back(spanOf(*m_analysis->job, s));
    Looked looked{m_suspects, m_predicted};
    std::vector<std::vector<Prediction>> expected;
    const auto believe = [&] {
        auto [shares, after] = belief(looked.suspects, looked.predicted, evidence, spans);
        out.belief = std::move(shares);
        expected = std::move(after);
        out.suspects = looked.suspects;
        out.groups = groups(looked.suspects, looked.predicted, out.belief);
        explain(out, read, m_circuit, m_spots, evidence, looked.predicted, spans);
    };
    believe();
    if (!out.slips.empty()) {
        addPairs(looked, evidence, spans);
        believe();
    }
    std::vector<size_t> spotOf;
    for (size_t i = 0; i < m_spots.size(); ++i) {
        const auto times = static_cast<size_t>(std::ranges::count(evidence, i, &Evidence::spot));
        if (!isOwn(i) || times >= kMostOfAPlace)
            continue;
        spotOf.push_back(i);
        out.probes.push_back({m_spots[i],
                              times > 0,
                              information(expected, out.belief, i),
                              secondsFor(*m_analysis->job, m_spots[i], now),
                              {}});
    }
    const bool sure = out.groups.front().share >= kSure;
    // Before what costs next to nothing and tells next to nothing.
    std::ranges::stable_sort(out.probes, std::greater{},
                             [&](const Probe& p) { return std::pair(isWorthIts(p, sure), p.bits / p.seconds); });
    out.enough = out.probes.empty() || !isWorthIts(out.probes.front(), sure);
    out.secondLook = secondLook(looked, out.groups.front().members.front());
    for (size_t k = 0; k < std::min(most, out.probes.size()); ++k)
        for (const size_t i : spotOf)
            if (same(m_spots[i], out.probes[k].spot))
                out.probes[k].outcomes = outcomesAt(out, expected, i, m_spots[i].place);
    return out;
}

} // namespace vicegrip::diagnosis
