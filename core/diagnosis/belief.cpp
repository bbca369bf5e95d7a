#include "core/diagnosis/belief.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <numeric>

namespace vicegrip::diagnosis {
namespace {

using Kind = Prediction::Kind;

/// Of a slip that shows "open", and of one that shows ohms (typical).
constexpr double kSlipIsOpen = 0.3, kDecades = 8;

double normal(double off, double sigma)
{
    const double z = off / sigma;
    return std::exp(-0.5 * z * z) / (sigma * std::sqrt(2 * std::numbers::pi));
}

/// Anything the instrument can show: volts and values evenly, ohms by the decade.
double slipDensity(const job::Reading& reading, double span)
{
    if (reading.isOverload())
        return 1;
    if (reading.dimension() != units::Dimension::Resistance)
        return 1 / span;
    if (reading.isOpen())
        return kSlipIsOpen;
    return (1 - kSlipIsOpen) / (std::max(reading.si(), 0.1) * kDecades * std::numbers::ln10);
}

/// How often what reads wrong on another circuit is by a fault of its own, and how much likelier than evenly that would
/// be just there: such faults end at nothing or at the supply as often as not (typical).
constexpr double kOwnFaults = 0.3, kAtTheEnds = 20;

/// The share of readings that say nothing of this circuit.
double strayShare(const Evidence& evidence)
{
    return evidence.elsewhere ? kOwnFaults : kSlips;
}

double strayDensity(const Evidence& evidence, double span)
{
    const double even = slipDensity(evidence.reading, span);
    return evidence.elsewhere && !evidence.reading.isOverload() && !evidence.reading.isOpen() ? kAtTheEnds * even
                                                                                              : even;
}

/// One bell of a mixture.
struct Bell
{
    double share = 0, value = 0, sigma = 0;
};

/// Those that stand together become one: what is told apart no better is not worth its own bell.
std::vector<Bell> merged(std::vector<Bell> bells)
{
    constexpr double kTogether = 0.25; // sigma
    std::ranges::sort(bells, {}, &Bell::value);
    std::vector<Bell> out;
    for (const Bell& b : bells) {
        if (!out.empty() && b.value - out.back().value < kTogether * std::min(b.sigma, out.back().sigma) &&
            b.sigma < 2 * out.back().sigma && out.back().sigma < 2 * b.sigma)
            out.back().share += b.share;
        else
            out.push_back(b);
    }
    return out;
}

double entropyOf(double share)
{
    return share > 0 ? -share * std::log2(share) : 0;
}

/// Entropy of the mixture less that of its bells, bits: what a value tells of which bell it came from. The shares add
/// up to 1. By the trapezium rule, with points where the bells are.
double told(const std::vector<Bell>& bells)
{
    constexpr double kReach = 5, kStep = 0.5; // sigmas
    std::vector<double> at;
    for (const Bell& b : bells)
        for (double z = -kReach; z <= kReach; z += kStep)
            at.push_back(b.value + z * b.sigma);
    std::ranges::sort(at);
    std::vector<double> all(at.size()), each(at.size());
    for (const Bell& b : bells) { // only where it is: bells are many, and most are narrow
        const double top = b.share / (b.sigma * std::sqrt(2 * std::numbers::pi));
        const double atTop = -std::log2(b.sigma * std::sqrt(2 * std::numbers::pi));
        for (auto i = std::ranges::lower_bound(at, b.value - kReach * b.sigma) - at.begin();
             i < std::ssize(at) && at[i] <= b.value + kReach * b.sigma; ++i) {
            const double z = (at[i] - b.value) / b.sigma, density = top * std::exp(-0.5 * z * z);
            all[i] += density;
            each[i] += density * (atTop - 0.5 * z * z * std::numbers::log2e);
        }
    }
    double sum = 0, before = 0;
    for (size_t i = 0; i < at.size(); ++i) {
        const double now = all[i] > 0 ? each[i] - all[i] * std::log2(all[i]) : 0;
        if (i > 0)
            sum += 0.5 * (now + before) * (at[i] - at[i - 1]);
        before = now;
    }
    return std::max(sum, 0.0);
}

} // namespace

bool looksAlike(const Prediction& a, const Prediction& b)
{
    constexpr double kApart = 2; // sigma
    if (a.kind != b.kind)
        return false;
    return a.kind != Kind::Quantity ||
           (a.value - b.value) * (a.value - b.value) <=
               kApart * kApart * (a.car * a.car + a.own * a.own + b.car * b.car + b.own * b.own);
}

Track::Track(const std::vector<Prediction>& predicted, const std::vector<double>& spans)
    : m_predicted(predicted), m_spans(spans)
{
}

Track::State Track::loads(size_t spot) const
{
    const Prediction& p = m_predicted[spot];
    State out = State::Zero();
    out[0] = p.grown;
    if (p.cause >= 0)
        out[1 + p.cause] = p.car;
    return out;
}

Prediction Track::expected(size_t spot) const
{
    Prediction out = m_predicted[spot];
    if (out.kind != Kind::Quantity)
        return out;
    const State h = loads(spot);
    out.value += h.dot(m_mean);
    out.own = std::sqrt(h.dot(m_spread * h) + out.own * out.own + (out.cause < 0 ? out.car * out.car : 0));
    out.car = out.grown = 0;
    return out;
}

/// Where the reading is meant as it stands.
double Track::sound(const Evidence& evidence) const
{
    const job::Reading& reading = evidence.reading;
    const Prediction& p = m_predicted[evidence.spot];
    if (p.kind == Kind::Nothing)
        return reading.isOverload() ? 1 : 0;
    if (p.kind == Kind::Anything) {
        constexpr double kNothing = 0.5; // typical
        return reading.isOverload() ? kNothing : (1 - kNothing) / m_spans[evidence.spot];
    }
    if (p.kind == Kind::Open)
        return reading.isOpen() ? 1 : 0;
    if (reading.isOpen() || reading.isOverload())
        return 0;
    const Prediction now = expected(evidence.spot);
    return normal(reading.si() - now.value, now.own);
}

double Track::slipChance(const Evidence& evidence) const
{
    const double share = strayShare(evidence), slip = share * strayDensity(evidence, m_spans[evidence.spot]);
    return slip / (slip + (1 - share) * sound(evidence));
}

double Track::take(const Evidence& evidence)
{
    const double slip = slipChance(evidence);
    const Prediction now = expected(evidence.spot);
    if (slip < 0.5 && now.kind == Kind::Quantity) {
        const State gain = m_spread * loads(evidence.spot) / (now.own * now.own);
        m_mean += gain * (evidence.reading.si() - now.value);
        m_spread -= gain * gain.transpose() * (now.own * now.own);
    }
    return strayShare(evidence) * strayDensity(evidence, m_spans[evidence.spot]) / slip;
}

Belief belief(const std::vector<Suspect>& suspects, const std::vector<std::vector<Prediction>>& predicted,
              const std::vector<Evidence>& evidence, const std::vector<double>& spans)
{
    Belief out;
    for (size_t s = 0; s < suspects.size(); ++s) {
        Track track(predicted[s], spans);
        double log = std::log(suspects[s].weight);
        for (const Evidence& e : evidence)
            log += std::log(track.take(e));
        out.shares.push_back(log);
        std::vector<Prediction>& now = out.expected.emplace_back();
        for (size_t spot = 0; spot < predicted[s].size(); ++spot)
            now.push_back(track.expected(spot));
    }
    const double most = out.shares.empty() ? 0 : *std::ranges::max_element(out.shares);
    for (double& b : out.shares)
        b = std::exp(b - most);
    const double sum = std::accumulate(out.shares.begin(), out.shares.end(), 0.0);
    for (double& b : out.shares)
        b /= sum;
    return out;
}

std::vector<Group> groups(const std::vector<Suspect>& suspects, const std::vector<std::vector<Prediction>>& predicted,
                          const std::vector<double>& belief)
{
    std::vector<size_t> order(belief.size());
    std::iota(order.begin(), order.end(), size_t{0});
    std::ranges::stable_sort(order, std::greater{}, [&](size_t s) { return belief[s]; });
    std::vector<Group> out;
    std::map<std::string_view, size_t> groupOf; // by series
    for (const size_t s : order) { // the likeliest leads; who looks like it follows
        const std::string& series = suspects[s].series;
        const auto known = series.empty() ? groupOf.end() : groupOf.find(series);
        size_t g = known == groupOf.end() ? 0 : known->second;
        while (known == groupOf.end() && g < out.size() &&
               !std::ranges::equal(predicted[out[g].members.front()], predicted[s], looksAlike))
            ++g;
        const bool led = g < out.size();
        if (!led)
            out.emplace_back();
        // A size that looks like one without, as the smallest look like none at all, does not take the others along.
        if (!series.empty() && (!led || !suspects[out[g].members.front()].series.empty()))
            groupOf.emplace(series, g);
        out[g].members.push_back(s);
        out[g].share += belief[s];
    }
    std::ranges::stable_sort(out, std::greater{}, &Group::share);
    return out;
}

double information(const std::vector<std::vector<Prediction>>& predicted, const std::vector<double>& belief,
                   size_t spot)
{
    double open = 0, nothing = 0, quantity = 0;
    std::vector<Bell> bells;
    for (size_t s = 0; s < belief.size(); ++s) {
        const Prediction& p = predicted[s][spot];
        (p.kind == Kind::Open ? open : p.kind == Kind::Quantity ? quantity : nothing) += belief[s];
        if (p.kind == Kind::Quantity && belief[s] > 1e-9)
            bells.push_back({belief[s], p.value, p.sigma()});
    }
    double bits = entropyOf(open) + entropyOf(nothing) + entropyOf(quantity);
    if (quantity > 0 && !bells.empty()) {
        bells = merged(std::move(bells));
        for (Bell& b : bells)
            b.share /= quantity;
        bits += quantity * told(bells);
    }
    return (1 - kSlips) * bits;
}

} // namespace vicegrip::diagnosis
