#pragma once

#include "core/diagnosis/diagnosis.h"
#include "core/electrics/readings.h"
#include "core/electrics/wiring.h"
#include "core/job/json.h"
#include "tests/support/library.h"
#include "tests/support/within_tolerance.h"

#include <algorithm>
#include <map>
#include <optional>
#include <random>

/// Cars that are wrong in one way, and hands that look for it.
namespace vicegrip::test {

inline const diagnosis::Families& families()
{
    static const auto kAll =
        diagnosis::readFamiliesFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/diagnosis/families.json");
    return *kAll;
}

/// Petrel or Curlew with nothing read yet.
inline job::Job unread(const std::string& file = "petrel.vicegrip")
{
    job::Job job = *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + file);
    job.proofs.clear();
    return job;
}

/// What can be read of one circuit, under every condition the finder proposes.
inline std::vector<diagnosis::Spot> spotsOf(const analysis::Analysis& a, const job::CircuitId& circuit)
{
    std::vector<diagnosis::Spot> out;
    for (const job::Condition condition : {job::Condition::BatteryOff, job::Condition::KeyOn})
        for (const auto& s : analysis::standings(a, circuit, condition))
            if (s.place.promises() && s.place.station.kind != proof::StationKind::Counts)
                out.push_back({circuit, s.place});
    return out;
}

/// How the car and who reads it are.
struct Hands
{
    const job::Job* built = nullptr; ///< within tolerance; none: the car is as drawn
    unsigned seed = 0; ///< of noise and slips; 0: neither
    double slips = 0; ///< share of readings
};

/// Solved as it is built: the belief's spreads, slips and groups have no part in it.
class FaultyCar
{
  public:
    FaultyCar(const analysis::Analysis& a, const diagnosis::Suspect& truth, const std::vector<diagnosis::Spot>& spots,
              const Hands& hands = {})
        : m_meter(a.job->meter), m_hands(hands), m_random(hands.seed)
    {
        const job::Job& built = hands.built == nullptr ? *a.job : *hands.built;
        const job::Job wired = faults::asWired(*a.job, truth.faults); // the ECU knows its nominal supply only
        for (const job::Condition condition : {job::Condition::BatteryOff, job::Condition::KeyOn}) {
            const auto car = electrics::build(
                built,
                {.condition = condition, .surroundings = built.surroundings, .faults = truth.faults, .bounded = false});
            if (!car)
                continue;
            electrics::Readings readings(*car, false);
            for (const diagnosis::Spot& s : spots) {
                if (s.place.condition != condition)
                    continue;
                const auto table = tableOf(a, s.circuit, truth);
                const auto paths = electrics::Wiring(*a.job).paths(*job::find(*a.job, s.circuit));
                const auto e = proof::expectations(wired, readings, *job::find(wired, s.circuit), paths,
                                                   table ? &*table : nullptr, {s.place})[0];
                if (e.promises() && !e.due.isOverload())
                    m_shown.emplace(std::pair(s.place.station.key, condition), e.due);
            }
        }
    }

    /// What is shown there; none where nothing is. Read again, it shows other last digits.
    [[nodiscard]] std::optional<job::Reading> at(const diagnosis::Spot& spot)
    {
        const auto shown = m_shown.find({spot.place.station.key, spot.place.condition});
        if (shown == m_shown.end())
            return std::nullopt;
        const job::Reading& due = shown->second;
        if (m_hands.seed != 0 && std::uniform_real_distribution<double>(0, 1)(m_random) < m_hands.slips)
            return slip(spot, due);
        return due.isOpen()
                   ? due
                   : job::Reading::of(due.si() + noise(spot, due.si()), spot.place.dimension, spot.place.condition);
    }

  private:
    /// What the ECU was given, or what it was left holding.
    static std::optional<scaling::Table> tableOf(const analysis::Analysis& a, const job::CircuitId& id,
                                                 const diagnosis::Suspect& truth)
    {
        const job::Circuit& circuit = *job::find(*a.job, id);
        std::optional<scaling::Table> out = analysis::find(a, id)->table;
        for (const faults::Fault& fault : truth.faults)
            if (const auto* held = std::get_if<faults::HeldTable>(&fault);
                held != nullptr && out && held->input == circuit.input) {
                out->formula.reset();
                out->points.clear();
                for (const auto& p : held->points)
                    out->points.push_back(
                        {p.volts, units::fromUnit(p.value, job::sensorOf(*a.job, circuit)->measures, out->unit)});
            }
        return out;
    }

    /// A good meter's last digits; what the ECU reports flickers by a count.
    double noise(const diagnosis::Spot& spot, double value)
    {
        if (m_hands.seed == 0)
            return 0;
        const bool volts = spot.place.dimension == units::Dimension::Voltage;
        const double sigma = volts ? m_meter.voltsShare * std::abs(value) / 3 + m_meter.volts_v / 3
                             : spot.place.dimension == units::Dimension::Resistance
                                 ? m_meter.ohmsShare * std::abs(value) / 3 + m_meter.ohms_ohm / 3
                                 : 0.0005 * std::abs(value);
        return std::normal_distribution<double>(0, sigma)(m_random);
    }

    /// The tip stood in another cavity, or nowhere.
    job::Reading slip(const diagnosis::Spot& spot, const job::Reading& due)
    {
        const bool ohms = spot.place.dimension == units::Dimension::Resistance;
        if (ohms && m_random() % 2 == 0)
            return job::Reading::beyond(spot.place.dimension, spot.place.condition);
        const double share = std::uniform_real_distribution<double>(0, 1)(m_random);
        const double span = spot.place.station.kind == proof::StationKind::Value ? 2 * std::abs(due.si())
                            : ohms                                               ? 10e3
                                                                                 : 14.0;
        return job::Reading::of(share * span, spot.place.dimension, spot.place.condition);
    }

    job::Meter m_meter;
    Hands m_hands;
    std::mt19937 m_random;
    std::map<std::pair<std::string, job::Condition>, job::Reading> m_shown;
};

/// The first reading that shows that something is wrong: of what the ECU reports, or of a place that proves the
/// circuit.
inline std::optional<diagnosis::Taken> firstFailing(const analysis::Analysis& a,
                                                    const std::vector<diagnosis::Spot>& spots, FaultyCar& car)
{
    for (const job::Condition condition : {job::Condition::KeyOn, job::Condition::BatteryOff})
        for (const diagnosis::Spot& s : spots) {
            if (s.place.condition != condition ||
                !(s.place.needed || s.place.station.kind != proof::StationKind::Probe))
                continue;
            const auto shown = car.at(s);
            const bool silent = !shown && s.place.station.kind != proof::StationKind::Probe; // the ECU says nothing
            for (const proof::Expectation& e : analysis::promises(a, s.circuit, condition))
                if (e.station == s.place.station && e.promises() && (silent || (shown && !e.allows(*shown))))
                    return diagnosis::Taken{s.circuit, s.place.station.key,
                                            shown.value_or(job::Reading::beyond(e.dimension, condition))};
        }
    return std::nullopt;
}

/// How the finder's advice ended.
struct Ended
{
    bool shows = false; ///< whether whoever proves the circuit would notice
    size_t place = 0; ///< of the truth's group, 0: the first
    int probes = 0; ///< after the reading that showed it
    double seconds = 0;
    size_t groups = 0; ///< that could be told apart
    diagnosis::Followed work;
};

/// Begins with the reading that shows it, and follows the finder until it has enough.
inline Ended foundBy(diagnosis::Finder& finder, const analysis::Analysis& a, const std::vector<diagnosis::Spot>& spots,
                     FaultyCar& car, size_t truth)
{
    const auto first = firstFailing(a, spots, car);
    if (!first)
        return {};
    auto done =
        diagnosis::follow(finder, {*first}, job::Condition::KeyOn, [&](const diagnosis::Spot& s) { return car.at(s); });
    Ended out{true, 0, done.probes, done.seconds, done.last.groups.size(), std::move(done)};
    const auto& groups = out.work.last.groups;
    while (out.place < groups.size() && std::ranges::count(groups[out.place].members, truth) == 0)
        ++out.place;
    return out;
}

} // namespace vicegrip::test
