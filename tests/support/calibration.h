#pragma once

#include "tests/support/faulty_car.h"

#include <array>
#include <cmath>

/// Whether what is said to be so and so likely is so as often: cars are built within tolerance with a fault drawn by
/// its weight and of any size between its neighbours, read at a few places by hands that slip, and held against what
/// the finder makes of those readings.
namespace vicegrip::test {

struct Calibration
{
    struct Bin
    {
        int cars = 0, right = 0;
        double said = 0;
    };
    std::array<Bin, 10> bins; ///< by what is said of the first group: 0 to 10 %, ...

    [[nodiscard]] int cars() const
    {
        int out = 0;
        for (const Bin& b : bins)
            out += b.cars;
        return out;
    }
};

/// The same fault, of a size a little beside it.
inline diagnosis::Suspect beside(diagnosis::Suspect s, double share)
{
    constexpr double kStep = 1.0 / 6; // of a decade
    const double factor = std::pow(10, kStep * share);
    for (faults::Fault& fault : s.faults)
        std::visit(
            [&](auto& f) {
                if constexpr (requires { f.ohm += 1.0; })
                    f.ohm *= s.series.empty() ? 1 : factor;
                else if constexpr (requires { f.ohm.emplace(1.0); })
                    f.ohm = f.ohm ? std::optional(*f.ohm * (s.series.empty() ? 1 : factor)) : std::nullopt;
                else if constexpr (requires { f.share += 1.0; })
                    f.share += 0.01 * share;
            },
            fault);
    return s;
}

inline Calibration calibration(const analysis::Analysis& a, const job::CircuitId& circuit, int cars, unsigned seed)
{
    diagnosis::Finder finder(a, circuit, families(), library());
    const auto before = finder.diagnosis({}, job::Condition::KeyOn, 0);
    const auto spots = spotsOf(a, circuit);
    std::vector<double> weights;
    for (const diagnosis::Suspect& s : before.suspects)
        weights.push_back(s.weight);
    std::mt19937 random(seed);
    std::discrete_distribution<size_t> draw(weights.begin(), weights.end());
    std::uniform_real_distribution<double> off(-0.5, 0.5);
    Calibration out;
    for (int i = 0; i < cars; ++i) {
        const size_t truth = draw(random);
        const unsigned own = seed + 1 + static_cast<unsigned>(i);
        const job::Job built = WithinTolerance(own).car(*a.job);
        FaultyCar car(a, beside(before.suspects[truth], off(random)), spots, {&built, own, diagnosis::kSlips});
        std::vector<diagnosis::Taken> taken;
        for (const int reads = 1 + static_cast<int>(random() % 4); std::ssize(taken) < reads;) {
            const diagnosis::Spot& s = spots[random() % spots.size()];
            taken.push_back({circuit, s.place.station.key,
                             car.at(s).value_or(job::Reading::beyond(s.place.dimension, s.place.condition))});
        }
        const auto d = finder.diagnosis(taken, job::Condition::KeyOn, 0);
        const diagnosis::Group& first = d.groups.front();
        Calibration::Bin& bin = out.bins[std::min<size_t>(9, static_cast<size_t>(10 * first.share))];
        ++bin.cars;
        bin.said += first.share;
        bin.right += std::ranges::count(first.members, truth) > 0 ? 1 : 0;
    }
    return out;
}

} // namespace vicegrip::test
