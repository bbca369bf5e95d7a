#include "core/trigger/strip.h"

#include "core/base/root.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <complex>
#include <limits>
#include <numbers>

namespace vicegrip::trigger {
namespace {

using std::numbers::pi;

constexpr double kRight_deg = 90, kHalf_deg = 180, kDegrees = pi / kHalf_deg;

double sinc(double x)
{
    constexpr double kSmall = 1e-9;
    return std::abs(x) < kSmall ? 1 : std::sin(x) / x;
}

/// Of a chord along the strip, so far from its middle line: from where to where a wheel is under it.
std::pair<double, double> overWheel(const Strip& s, double across_m, double sine, double cosine)
{
    double from = -s.long_m / 2, to = s.long_m / 2;
    if (s.thick_m <= 0)
        return {from, to};
    constexpr double kLevel = 1e-9; // lies across the teeth: over the wheel as a whole, or not
    const double least = s.beside_m - s.thick_m / 2, most = s.beside_m + s.thick_m / 2, here = -across_m * sine;
    if (std::abs(cosine) < kLevel)
        return here >= least && here <= most ? std::pair(from, to) : std::pair(0.0, 0.0);
    const double a = (least - here) / cosine, b = (most - here) / cosine;
    from = std::max(from, std::min(a, b));
    to = std::min(to, std::max(a, b));
    return to > from ? std::pair(from, to) : std::pair(0.0, 0.0);
}

/// The waves that the teeth's square is made of, each as its strip averages it: the first, third and so on.
class Waves
{
  public:
    explicit Waves(const Strip& strip) : m_wave(2 * pi / strip.tooth_m)
    {
        for (int n = 1, sign = 1; std::complex<double> & one : m_waves) {
            one = 4 / pi * sign / n * averaged(strip, n * m_wave);
            n += 2;
            sign = -sign;
        }
    }

    /// Its greatest over a pitch: half a pitch on it is the same the other way round.
    [[nodiscard]] double swing(double gap_m) const
    {
        constexpr int kPlaces = 90;
        std::array<std::complex<double>, kWaves> there = m_waves;
        for (int n = 1; std::complex<double> & one : there) {
            one *= std::exp(-n * m_wave * gap_m);
            n += 2;
        }
        double most = 0;
        for (int i = 0; i < kPlaces; ++i) {
            const auto on = std::polar(1.0, pi * i / kPlaces), twice = on * on;
            auto turned = on;
            double here = 0;
            for (const std::complex<double>& one : there) {
                here += (one * turned).real();
                turned *= twice;
            }
            most = std::max(most, std::abs(here));
        }
        return most;
    }

  private:
    static constexpr std::size_t kWaves = 11;

    static std::complex<double> averaged(const Strip& s, double wave)
    {
        constexpr int kChords = 64;
        const double sine = std::sin(s.lies_deg * kDegrees), cosine = std::cos(s.lies_deg * kDegrees),
                     wide = s.wide_m / kChords;
        std::complex<double> sensed = 0;
        for (int i = 0; i < kChords; ++i) {
            const double across = (i + 0.5) * wide - s.wide_m / 2;
            const auto [from, to] = overWheel(s, across, sine, cosine);
            const double along_rim = across * cosine + (from + to) / 2 * sine;
            sensed += (to - from) * sinc(wave * sine * (to - from) / 2) * std::polar(1.0, wave * along_rim);
        }
        return sensed / (kChords * s.long_m) * sinc(wave * cosine * wide / 2);
    }

    double m_wave;
    std::array<std::complex<double>, kWaves> m_waves{};
};

Strip atBest(Strip strip)
{
    strip.lies_deg = strip.beside_m = 0;
    return strip;
}

} // namespace

double toothPitch(const Wheel& wheel, double across_m)
{
    if (wheel.teeth.empty())
        return 0;
    double least_deg = std::ranges::min(stepsOf(wheel, false));
    for (std::size_t i = 0; i < wheel.teeth.size(); ++i) {
        const Tooth& tooth = wheel.teeth[i];
        const double next =
            i + 1 < wheel.teeth.size() ? wheel.teeth[i + 1].from_deg : wheel.teeth[0].from_deg + wheel.turn_deg;
        least_deg = std::min({least_deg, 2 * (tooth.to_deg - tooth.from_deg), 2 * (next - tooth.to_deg)});
    }
    return least_deg / wheel.turn_deg * pi * across_m;
}

double foldedLie(double lies_deg)
{
    return std::abs(std::remainder(lies_deg, kHalf_deg));
}

double sensedSwing(const Strip& strip, double gap_m)
{
    return Waves(strip).swing(gap_m);
}

double seemsFarther(const Strip& strip, double gap_m)
{
    constexpr double kNothing = 1e-6, kFarthest = 10; // pitches
    const double swing = sensedSwing(strip, gap_m);
    if (swing < kNothing)
        return std::numeric_limits<double>::infinity();
    const Waves best(atBest(strip));
    return rootBetween([&](double more) { return best.swing(gap_m + more) - swing; }, 0, kFarthest * strip.tooth_m);
}

int mayLie(const Strip& strip, double gap_m, double spare_m)
{
    if (!(spare_m >= 0))
        return -1;
    constexpr double kSlack = 1e-9;
    const double least = sensedSwing(atBest(strip), gap_m + spare_m);
    Strip turned = strip;
    int deg = 0;
    for (; deg <= static_cast<int>(kRight_deg); ++deg) {
        turned.lies_deg = deg;
        if (sensedSwing(turned, gap_m) < least * (1 - kSlack))
            break;
    }
    return deg - 1;
}

} // namespace vicegrip::trigger
