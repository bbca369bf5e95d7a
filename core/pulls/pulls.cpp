#include "core/pulls/pulls.h"

#include "core/base/median.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace vicegrip::pulls {
namespace {

using log_columns::Meaning;
using log_columns::Quantity;

constexpr double kWide = 0.9; // of the throttle's own most: what is above is wide open (common practice)
constexpr double kLeastThrottle = 0.7; // a log that never opens further has no pulls
constexpr double kLeast_s = 1.0, kLeastRise_rpm = 500;
constexpr double kFallsBack_rpm = 250; // a change of gear, or a wheel that spins and grips again
constexpr double kAlike_rpm = 700; // ends of pulls that are alike
constexpr std::size_t kWanted = 3;
constexpr double kWarm_k = 273.15 + 71, kWarmOil_k = 273.15 + 70; // closed loop from 71 °C; oil about 80 °C

/// A column's value in SI, held from row to row.
class Held
{
  public:
    Held(const log::Log& log, const std::vector<Meaning>& meanings, Quantity quantity)
    {
        if (const auto c = log_columns::columnOf(meanings, quantity)) {
            m_values = &log.columns[*c].values;
            m_meaning = meanings[*c];
        }
    }
    [[nodiscard]] bool isThere() const { return m_values != nullptr; }
    /// To be asked row after row.
    double at(std::size_t row)
    {
        if (m_values != nullptr && !std::isnan((*m_values)[row]))
            m_last = m_meaning.toSi((*m_values)[row]);
        return m_last;
    }
    /// Near a row, without what came before.
    [[nodiscard]] std::optional<double> near(std::size_t row, std::size_t last) const
    {
        for (std::size_t i = row; m_values != nullptr && i <= last; ++i)
            if (!std::isnan((*m_values)[i]))
                return m_meaning.toSi((*m_values)[i]);
        return std::nullopt;
    }
    [[nodiscard]] double most() const
    {
        double most = 0;
        for (const float v : m_values == nullptr ? std::vector<float>{} : *m_values)
            most = std::isnan(v) ? most : std::max(most, m_meaning.toSi(v));
        return most;
    }

  private:
    const std::vector<float>* m_values = nullptr;
    Meaning m_meaning;
    double m_last = NAN;
};

/// Stretches with the throttle wide open in which the engine turns up without falling back.
std::vector<Pull> candidates(const log::Log& log, Held throttle, Held speed)
{
    std::vector<Pull> out;
    const double most = throttle.most();
    if (most < kLeastThrottle)
        return out;
    struct
    {
        std::size_t first = 0, top = 0;
        double from = 0, to = 0;
        bool open = false;
    } now;
    const auto close = [&] {
        const double seconds = log.time_s[now.top] - log.time_s[now.first];
        if (now.open && seconds >= kLeast_s && now.to - now.from >= kLeastRise_rpm)
            out.push_back({now.first, now.top, seconds, now.from, now.to, {}, 0, {}, {}, false, {}});
        now.open = false;
    };
    auto begins = log.begins.begin();
    for (std::size_t i = 0; i < log.rows(); ++i) {
        const double open = throttle.at(i), rpm = speed.at(i) * 60;
        if (begins != log.begins.end() && *begins == i) {
            close();
            ++begins;
        }
        if (!(open >= kWide * most) || !(rpm > 0)) {
            close();
            continue;
        }
        if (now.open && rpm < now.to - kFallsBack_rpm)
            close();
        if (!now.open)
            now = {i, i, rpm, rpm, true};
        if (rpm < now.from && i - now.first < 3) // the engine catches its breath as the throttle opens
            now.first = i, now.from = rpm;
        if (rpm > now.to) {
            now.to = rpm;
            now.top = i;
        }
    }
    close();
    return out;
}

/// Engine turns for a metre, the middle of the pull.
double ratioOf(const Pull& p, Held speed, Held road)
{
    constexpr double kMoves = 3; // m/s
    std::vector<double> ratios;
    for (std::size_t i = p.first; i <= p.last; ++i)
        if (const double v = road.at(i), n = speed.at(i); v > kMoves && n > 0)
            ratios.push_back(n / v);
    return ratios.empty() ? 0 : median(std::move(ratios));
}

/// Gears by their ratios: those within 6 % of each other are one; the shortest found is called 1 only by order.
void nameGears(std::vector<Pull>& all)
{
    constexpr double kSame = 0.06;
    std::vector<double> ratios;
    for (const Pull& p : all)
        if (p.ratio > 0 && std::ranges::none_of(ratios, [&](double r) { return std::abs(r / p.ratio - 1) < kSame; }))
            ratios.push_back(p.ratio);
    std::ranges::sort(ratios, std::greater());
    for (Pull& p : all)
        for (std::size_t g = 0; p.ratio > 0 && !p.gear && g < ratios.size(); ++g)
            if (std::abs(ratios[g] / p.ratio - 1) < kSame)
                p.gear = static_cast<int>(g + 1);
}

bool isWarm(const Pull& p)
{
    return (!p.oil_k || *p.oil_k >= kWarmOil_k) && (!p.coolant_k || *p.coolant_k >= kWarm_k);
}

bool areAlike(const Pull& a, const Pull& b)
{
    return a.gear == b.gear && std::abs(a.from_rpm - b.from_rpm) < kAlike_rpm &&
           std::abs(a.to_rpm - b.to_rpm) < kAlike_rpm;
}

/// The pull that most others are like, of these the longest; with it those that are most like it.
void choose(std::vector<Pull>& all)
{
    const auto likes = [&](const Pull& p) {
        return std::ranges::count_if(all, [&](const Pull& o) { return isWarm(o) && areAlike(p, o); });
    };
    Pull* best = nullptr;
    for (Pull& p : all)
        if (isWarm(p) &&
            (best == nullptr || std::pair(std::min<long>(likes(p), kWanted), p.to_rpm - p.from_rpm) >
                                    std::pair(std::min<long>(likes(*best), kWanted), best->to_rpm - best->from_rpm)))
            best = &p;
    std::vector<Pull*> alike;
    for (Pull& p : all) {
        if (!isWarm(p))
            p.why = phrase("the engine is not warm: oil from about 80 °C counts");
        else if (best != nullptr && areAlike(p, *best))
            alike.push_back(&p);
        else
            p.why = phrase("another gear, or another range of speed");
    }
    std::ranges::stable_sort(alike, std::greater(), [](const Pull* p) { return p->to_rpm - p->from_rpm; });
    for (std::size_t i = 0; i < alike.size(); ++i) {
        alike[i]->chosen = i < kWanted;
        alike[i]->why =
            i < kWanted ? phrase("warm, one gear, wide open") : phrase("like those that are chosen, and shorter");
    }
}

} // namespace

Result<Pulls> pullsOf(const log::Log& log, const std::vector<Meaning>& meanings)
{
    const Held throttle(log, meanings, Quantity::Throttle), speed(log, meanings, Quantity::EngineSpeed);
    if (!throttle.isThere())
        return fail(ErrorCode::Range, phrase("no column tells the throttle: a pull is known by it"));
    if (!speed.isThere())
        return fail(ErrorCode::Range, phrase("no column tells the engine's speed: a pull is known by it"));
    Pulls out;
    out.all = candidates(log, throttle, speed);
    const Held road(log, meanings, Quantity::RoadSpeed), gear(log, meanings, Quantity::Gear);
    const Held oil(log, meanings, Quantity::OilTemp), coolant(log, meanings, Quantity::Coolant);
    for (Pull& p : out.all) {
        p.ratio = road.isThere() ? ratioOf(p, speed, road) : 0;
        if (const auto told = gear.near((p.first + p.last) / 2, p.last); told && *told >= 1 && *told < 20)
            p.gear = static_cast<int>(std::lround(*told));
        p.oil_k = oil.near(p.first, p.last);
        p.coolant_k = coolant.near(p.first, p.last);
    }
    nameGears(out.all);
    choose(out.all);
    const auto chosen = std::ranges::count_if(out.all, &Pull::chosen);
    if (out.all.empty())
        out.verdict = phrase("There is no pull in it: wide open in one gear from about 2,500 rpm to the top is one.");
    else if (chosen < 2)
        out.verdict = phrase("No two pulls are alike: two or three in one gear, warm, from about 2,500 rpm to the top, "
                             "are what a tuner compares.");
    else
        out.verdict = phrase("{} of {} pulls are alike and warm: these are the ones to send.", std::to_string(chosen),
                             std::to_string(out.all.size()));
    return out;
}

} // namespace vicegrip::pulls
