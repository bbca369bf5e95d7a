#pragma once

#include "core/diagnosis/diagnosis.h"
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
    FaultyCar(const analysis::Analysis& a, diagnosis::Suspect truth, const std::vector<diagnosis::Spot>& spots,
              const Hands& hands = {})
        : m_meter(a.job->meter), m_hands(hands), m_random(hands.seed)
    {
        analysis::Analysis built = a; // its tables stay those of the drawing
        if (hands.built != nullptr)
            built.job = std::make_shared<const job::Job>(*hands.built);
        truth.solved = true; // this car is, whatever its size
        const auto all = diagnosis::predictions(built, spots.front().circuit, {truth}, spots)[0];
        for (size_t i = 0; i < spots.size(); ++i)
            m_shown[{spots[i].place.station.key, spots[i].place.condition}] = all[i];
    }

    /// What is shown there; none where nothing is. A place that is read again shows the same.
    [[nodiscard]] std::optional<job::Reading> at(const diagnosis::Spot& spot)
    {
        using Kind = diagnosis::Prediction::Kind;
        const auto key = std::pair(spot.place.station.key, spot.place.condition);
        const diagnosis::Prediction& shown = m_shown.at(key);
        if (shown.kind == Kind::Nothing)
            return std::nullopt;
        if (const auto known = m_read.find(key); known != m_read.end())
            return known->second;
        auto reading = shown.kind == Kind::Open
                           ? job::Reading::beyond(spot.place.dimension, spot.place.condition)
                           : job::Reading::of(shown.value + noise(spot, shown.value), spot.place.dimension,
                                              spot.place.condition);
        if (m_hands.seed != 0 && std::uniform_real_distribution<double>(0, 1)(m_random) < m_hands.slips)
            reading = slip(spot);
        return m_read.emplace(key, reading).first->second;
    }

    [[nodiscard]] double sigma(const diagnosis::Spot& spot) const
    {
        return m_shown.at({spot.place.station.key, spot.place.condition}).sigma();
    }

  private:
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
    job::Reading slip(const diagnosis::Spot& spot)
    {
        const bool ohms = spot.place.dimension == units::Dimension::Resistance;
        if (ohms && m_random() % 2 == 0)
            return job::Reading::beyond(spot.place.dimension, spot.place.condition);
        const double share = std::uniform_real_distribution<double>(0, 1)(m_random);
        const double span = spot.place.station.kind == proof::StationKind::Value
                                ? 2 * std::abs(m_shown.at({spot.place.station.key, spot.place.condition}).value)
                            : ohms ? 10e3
                                   : 14.0;
        return job::Reading::of(share * span, spot.place.dimension, spot.place.condition);
    }

    job::Meter m_meter;
    Hands m_hands;
    std::mt19937 m_random;
    std::map<std::pair<std::string, job::Condition>, diagnosis::Prediction> m_shown;
    std::map<std::pair<std::string, job::Condition>, job::Reading> m_read;
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
            for (const proof::Expectation& e : analysis::promises(a, s.circuit, condition))
                if (shown && e.station == s.place.station && !e.allows(*shown))
                    return diagnosis::Taken{s.circuit, s.place.station.key, *shown};
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
    auto done = diagnosis::follow(finder, {*first}, job::Condition::KeyOn,
                                        [&](const diagnosis::Spot& s) { return car.at(s); });
    Ended out{true, 0, done.probes, done.seconds, done.last.groups.size(), std::move(done)};
    const auto& groups = out.work.last.groups;
    while (out.place < groups.size() && std::ranges::count(groups[out.place].members, truth) == 0)
        ++out.place;
    return out;
}

} // namespace vicegrip::test
