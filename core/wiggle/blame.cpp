#include "core/wiggle/blame.h"

#include "core/base/phrase.h"
#include "core/electrics/electrics.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace vicegrip::wiggle {
namespace {

struct Rate
{
    double a, b;
};
/// Drop-outs a second, as shape and seconds. With hands on what is loose about one comes each second; while they are
/// elsewhere one comes in forty; what comes by heat or from a consumer comes about every five (common practice, no
/// source).
constexpr Rate kMoved{2, 2}, kElse{0.5, 20}, kByItself{1, 5};
constexpr double kByItselfPrior = 0.1;
/// Wires break at their ends (common practice, no source).
constexpr double kAlong = 0.3;
constexpr double kSlip = 0.02; ///< drop-outs that are of something else
constexpr double kFull = 0.6; ///< drop-outs that go all the way: the others were shorter than a sample
constexpr double kLevelShare = 0.02; ///< of the span: how well it is known what an open wire reads
constexpr double kSure = 0.95, kStays = 0.8, kAlike = 0.1;
constexpr int kNeeded = 3;
constexpr int kPatience = 5; ///< times as long at the likeliest place before the others have their turn

double logDensity(Rate r, int count, double seconds)
{
    return logMarginal(count, seconds, r.a, r.b);
}

/// The places of these values, the largest first.
std::vector<size_t> falling(const std::vector<double>& values)
{
    std::vector<size_t> out(values.size());
    std::iota(out.begin(), out.end(), size_t{0});
    std::ranges::stable_sort(out, std::greater(), [&](size_t i) { return values[i]; });
    return out;
}

class Judging
{
  public:
    Judging(const job::Job& job, const job::Circuit& circuit, const std::vector<Hold>& holds, const Watch& watch,
            std::optional<size_t> named)
        : m_job(job), m_holds(holds), m_watch(watch), m_named(named), m_grain(grainOf(job, circuit))
    {
        const parts::Part* sensor = job::sensorOf(job, circuit);
        const parts::EcuInput* input = job::findInput(job, circuit.input);
        m_inHertz = sensor != nullptr && parts::countsValue(*sensor);
        m_span = m_inHertz || input == nullptr ? 1 : electrics::fullScaleVolts(job, *input);
        if (m_inHertz)
            m_span = std::max(1.0, watch.most().value_or(1));
    }

    Verdict judge()
    {
        Verdict out;
        for (const Hold& hold : m_holds)
            out.holds.push_back({.share = 0,
                                 .seconds = m_watch.seconds(index(hold)),
                                 .dropOuts = began(index(hold)),
                                 .may = std::vector<double>(hold.may.size())});
        weigh(out);
        const auto best = std::ranges::max_element(out.holds, {}, &Weighed::share);
        const auto place = static_cast<size_t>(best - out.holds.begin());
        if (best != out.holds.end() && best->share >= (m_named == place ? kStays : kSure) &&
            best->dropOuts >= kNeeded) {
            out.hold = place;
            for (const size_t i : falling(best->may))
                if (best->may[i] >= kAlike * best->share)
                    out.what.push_back(m_holds[*out.hold].may[i].what);
        }
        out.next = next(out);
        out.rest = !out.hold && all() >= kNeeded && out.byItself > 1 - kSure && out.byItself < kSure &&
                   (best == out.holds.end() || m_watch.seconds() - best->seconds < kLongEnough_s);
        say(out);
        return out;
    }

  private:
    [[nodiscard]] size_t index(const Hold& hold) const { return static_cast<size_t>(&hold - m_holds.data()); }
    [[nodiscard]] int began(std::optional<size_t> hold) const
    {
        return static_cast<int>(std::ranges::count(m_watch.dropOuts(), hold, &DropOut::hold));
    }
    [[nodiscard]] int all() const { return static_cast<int>(m_watch.dropOuts().size()); }

    /// How likely a drop-out is so deep where this is what lets go; a density over the span.
    [[nodiscard]] double depth(const DropOut& d, const MayLetGo& may) const
    {
        const double slip = kSlip / m_span;
        if (!d.deepest) // that nothing came is a chance, and no density
            return may.reads ? kSlip : 1;
        if (!may.reads)
            return slip;
        const double whole = *may.reads - d.steady, fell = *d.deepest - d.steady;
        if (std::abs(whole) < m_grain) // nothing shows at the input
            return slip;
        const double sigma = kLevelShare * m_span + m_grain;
        const double off = (fell - whole) / sigma;
        const double full = std::exp(-off * off / 2) / (sigma * std::sqrt(2 * std::numbers::pi));
        // Up to a little beyond: two wires that read alike are not told apart by the last millivolts.
        const double most = std::abs(whole) + 2 * sigma;
        const double part = fell / whole > 0 && std::abs(fell) < most ? 1 / most : 0;
        return slip + (1 - kSlip) * (kFull * full + (1 - kFull) * part);
    }

    [[nodiscard]] double logDepths(const MayLetGo& may) const
    {
        return std::accumulate(m_watch.dropOuts().begin(), m_watch.dropOuts().end(), 0.0,
                               [&](double sum, const DropOut& d) { return sum + std::log(depth(d, may)); });
    }

    void weigh(Verdict& out) const
    {
        double priors = 0;
        for (const Hold& hold : m_holds)
            priors += hold.between ? kAlong : 1;
        if (priors == 0)
            return;
        std::vector<std::vector<double>> logs; // by hold and wire
        double most = -HUGE_VAL;
        const double total = m_watch.seconds();
        std::vector<double> every;
        for (size_t h = 0; h < m_holds.size(); ++h) {
            const Weighed& w = out.holds[h];
            const double counts =
                logDensity(kMoved, w.dropOuts, w.seconds) + logDensity(kElse, all() - w.dropOuts, total - w.seconds);
            const auto& may = m_holds[h].may;
            auto& own = logs.emplace_back();
            for (const MayLetGo& m : may) {
                const double prior =
                    (1 - kByItselfPrior) * (m_holds[h].between ? kAlong : 1) / priors / static_cast<double>(may.size());
                every.push_back(logDepths(m));
                own.push_back(std::log(prior) + counts + every.back());
                most = std::max(most, own.back());
            }
        }
        if (every.empty())
            return;
        // What comes by itself may be of any wire.
        const double deepest = *std::ranges::max_element(every);
        double mean = 0;
        for (const double e : every)
            mean += std::exp(e - deepest) / static_cast<double>(every.size());
        const double itself = std::log(kByItselfPrior) + logDensity(kByItself, all(), total) + deepest + std::log(mean);
        most = std::max(most, itself);
        double sum = std::exp(itself - most);
        for (const auto& own : logs)
            for (const double l : own)
                sum += std::exp(l - most);
        for (size_t h = 0; h < logs.size(); ++h)
            for (size_t i = 0; i < logs[h].size(); ++i)
                out.holds[h].share += out.holds[h].may[i] = std::exp(logs[h][i] - most) / sum;
        out.byItself = std::exp(itself - most) / sum;
    }

    /// The likeliest again, where one is likelier than all others; the first where hands have not been for long; the
    /// likeliest, until one is named.
    [[nodiscard]] std::optional<size_t> next(const Verdict& v) const
    {
        if (v.hold || v.byItself >= kSure)
            return std::nullopt;
        const auto likeliest = std::ranges::max_element(v.holds, {}, &Weighed::share);
        if (all() > 0 && likeliest != v.holds.end() && likeliest->share > 0.5 &&
            likeliest->seconds < kPatience * kLongEnough_s)
            return static_cast<size_t>(likeliest - v.holds.begin());
        const auto rest = std::ranges::find_if(v.holds, [](const Weighed& w) { return w.seconds < kLongEnough_s; });
        if (rest != v.holds.end())
            return static_cast<size_t>(rest - v.holds.begin());
        if (all() == 0 || v.holds.empty())
            return std::nullopt;
        return static_cast<size_t>(likeliest - v.holds.begin());
    }

    [[nodiscard]] std::string quantity(double value) const
    {
        return m_inHertz ? units::formatNumber(value, 1) + " Hz" : units::formatNumber(value, 2) + " V";
    }
    [[nodiscard]] static std::string seconds(double s) { return units::formatNumber(s, 0) + " s"; }

    [[nodiscard]] std::string counted() const
    {
        return phrase(all() == 1 ? key("{} drop-out in {}") : key("{} drop-outs in {}"), std::to_string(all()),
                      seconds(m_watch.seconds()));
    }

    void say(Verdict& v) const
    {
        if (!m_watch.steady()) {
            v.says = phrase("Hands off: it hears first what the input reads while nobody moves anything.");
        } else if (v.hold) {
            sayNamed(v);
        } else if (v.byItself >= kSure) {
            v.says = phrase("{}, wherever hands are: it comes by heat, by vibration, or from a consumer.", counted());
            v.todo = phrase("Switch consumers one by one, or warm one place after another, and see when it comes.");
        } else if (all() > 0) {
            sayOpen(v);
        } else if (v.next) {
            v.says = phrase("Steady at {} for {}.", quantity(*m_watch.steady()), seconds(m_watch.seconds()));
        } else {
            v.says = phrase("Nothing lets go: steady at {} for {}, with hands at all {} places.",
                            quantity(*m_watch.steady()), seconds(m_watch.seconds()), std::to_string(m_holds.size()));
        }
    }

    void sayNamed(Verdict& v) const
    {
        const Hold& hold = m_holds[*v.hold];
        const Weighed& w = v.holds[*v.hold];
        v.says = phrase("{} of {} drop-outs came with hands there, in {} of {}.", std::to_string(w.dropOuts),
                        std::to_string(all()), seconds(w.seconds), seconds(m_watch.seconds()));
        const auto may = std::ranges::find(hold.may, v.what.front(), &MayLetGo::what);
        const std::string ends = endsText(m_job, v.what);
        v.says += ' ' + (may->reads ? phrase("It reads {} then, as with {} open.", quantity(*may->reads), ends)
                                    : phrase("The ECU says nothing then, as with {} open.", ends));
        const job::PointRef& at = v.what.front().at;
        v.todo = at.empty()          ? phrase("Feel along it for a kink or a soft spot, and mend it there.")
                 : at.cavity.empty() ? phrase("Crimp it anew, and pull at it.")
                                     : phrase("Look for a spread terminal, one that is not home, or a crimp on few "
                                              "strands; pull at it.");
    }

    /// Drop-outs, and no place that is as good as sure: the two likeliest.
    void sayOpen(Verdict& v) const
    {
        std::vector<double> shares;
        for (const Weighed& w : v.holds)
            shares.push_back(w.share);
        const std::vector<size_t> order = falling(shares);
        constexpr size_t kSaid = 2;
        constexpr double kWorthSaying = 0.01;
        const auto percent = [](double share) { return units::formatNumber(100 * share, 0); };
        std::string likely;
        for (size_t i = 0; i < std::min(kSaid, order.size()); ++i)
            if (const double share = v.holds[order[i]].share; i == 0 || share >= kWorthSaying)
                likely += (i == 0 ? "" : ", ") + phrase("{} {} %", m_holds[order[i]].name, percent(share));
        if (v.byItself >= kWorthSaying)
            likely += phrase(", by itself {} %", percent(v.byItself));
        v.says = phrase("{}. Likeliest: {}.", counted(), likely);
    }

    const job::Job& m_job;
    const std::vector<Hold>& m_holds;
    const Watch& m_watch;
    std::optional<size_t> m_named;
    double m_grain, m_span = 1;
    bool m_inHertz = false;
};

} // namespace

std::string endsText(const job::Job& job, const std::vector<faults::Loose>& what)
{
    std::vector<job::WireId> wires;
    for (const faults::Loose& l : what)
        wires.push_back(l.wire);
    return job::spokenEnds(job, wires, what.empty() ? std::string() : what.front().at.owner);
}

double logMarginal(int count, double seconds, double a, double b)
{
    return std::lgamma(a + count) - std::lgamma(a) + a * std::log(b) - (a + count) * std::log(b + seconds);
}

Verdict judge(const job::Job& job, const job::Circuit& circuit, const std::vector<Hold>& holds, const Watch& watch,
              std::optional<size_t> named)
{
    return Judging(job, circuit, holds, watch, named).judge();
}

} // namespace vicegrip::wiggle
