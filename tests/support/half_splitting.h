#pragma once

#include "core/diagnosis/diagnosis.h"
#include "tests/support/faulty_car.h"

#include <cmath>
#include <utility>
#include <vector>

namespace vicegrip::test {

/// The plain way: a reading is good or bad, and the next one is where good and bad would halve what is left. Weights,
/// volts and work have no say. It ends when no reading parts what is left.
class Halving
{
  public:
    Halving(const analysis::Analysis& a, std::vector<diagnosis::Spot> spots,
            const std::vector<std::vector<diagnosis::Prediction>>& predicted)
        : m_analysis(a), m_spots(std::move(spots))
    {
        for (const auto& of : predicted) {
            std::vector<bool>& bad = m_bad.emplace_back();
            for (size_t i = 0; i < m_spots.size(); ++i)
                bad.push_back(isBad(m_spots[i], shown(m_spots[i], of[i])));
        }
    }

    /// Readings and seconds.
    [[nodiscard]] std::pair<int, double> find(FaultyCar& car) const
    {
        std::vector<bool> left(m_bad.size(), true), asked(m_spots.size(), false);
        const auto read = [&](size_t spot) {
            asked[spot] = true;
            const bool bad = isBad(m_spots[spot], car.at(m_spots[spot]));
            for (size_t s = 0; s < m_bad.size(); ++s)
                left[s] = left[s] && m_bad[s][spot] == bad;
        };
        const auto first = firstFailing(m_analysis, m_spots, car);
        for (size_t i = 0; first && i < m_spots.size(); ++i)
            if (m_spots[i].place.station.key == first->station &&
                m_spots[i].place.condition == first->reading.condition())
                read(i);
        job::Condition now = job::Condition::KeyOn;
        int readings = 0;
        double seconds = 0;
        while (true) {
            const auto count = std::ranges::count(left, true);
            size_t best = m_spots.size();
            double off = 0.5;
            for (size_t i = 0; i < m_spots.size(); ++i) {
                long bad = 0;
                for (size_t s = 0; s < m_bad.size(); ++s)
                    bad += left[s] && m_bad[s][i] ? 1 : 0;
                const double share = count == 0 ? 0 : static_cast<double>(bad) / static_cast<double>(count);
                if (!asked[i] && bad > 0 && bad < count && std::abs(share - 0.5) < off) {
                    off = std::abs(share - 0.5);
                    best = i;
                }
            }
            if (best == m_spots.size())
                return {readings, seconds};
            ++readings;
            seconds += diagnosis::secondsFor(*m_analysis.job, m_spots[best], now);
            now = m_spots[best].place.condition;
            read(best);
        }
    }

  private:
    static std::optional<job::Reading> shown(const diagnosis::Spot& spot, const diagnosis::Prediction& p)
    {
        using Kind = diagnosis::Prediction::Kind;
        if (p.kind == Kind::Nothing || p.kind == Kind::Anything)
            return std::nullopt;
        return p.kind == Kind::Open ? job::Reading::beyond(spot.place.dimension, spot.place.condition)
                                    : job::Reading::of(p.value, spot.place.dimension, spot.place.condition);
    }

    [[nodiscard]] bool isBad(const diagnosis::Spot& spot, const std::optional<job::Reading>& reading) const
    {
        for (const proof::Expectation& e : analysis::promises(m_analysis, spot.circuit, spot.place.condition))
            if (e.station == spot.place.station)
                return !reading || !e.allows(*reading);
        return false;
    }

    const analysis::Analysis& m_analysis;
    std::vector<diagnosis::Spot> m_spots;
    std::vector<std::vector<bool>> m_bad; ///< by suspect, then by spot
};

} // namespace vicegrip::test
