#include "core/diagnosis/belief.h"

#include <algorithm>
#include <cmath>
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

/// Where the prediction is meant as it stands.
double sound(const Prediction& p, const job::Reading& reading)
{
    if (p.kind == Kind::Nothing)
        return reading.isOverload() ? 1 : 0;
    if (p.kind == Kind::Open)
        return reading.isOpen() ? 1 : 0;
    return reading.isOpen() || reading.isOverload() ? 0 : normal(reading.si() - p.value, p.sigma);
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
    constexpr double kReach = 5, kStep = 0.25; // sigmas
    std::vector<double> at;
    for (const Bell& b : bells)
        for (double z = -kReach; z <= kReach; z += kStep)
            at.push_back(b.value + z * b.sigma);
    std::ranges::sort(at);
    double sum = 0, before = 0;
    for (size_t i = 0; i < at.size(); ++i) {
        double all = 0, each = 0;
        for (const Bell& b : bells) {
            const double density = normal(at[i] - b.value, b.sigma);
            all += b.share * density;
            each += density > 0 ? b.share * density * std::log2(density) : 0;
        }
        const double now = all > 0 ? each - all * std::log2(all) : 0;
        if (i > 0)
            sum += 0.5 * (now + before) * (at[i] - at[i - 1]);
        before = now;
    }
    return std::max(sum, 0.0);
}

bool alike(const Prediction& a, const Prediction& b)
{
    constexpr double kApart = 2; // sigma
    if (a.kind != b.kind)
        return false;
    return a.kind != Kind::Quantity || std::abs(a.value - b.value) <= kApart * std::hypot(a.sigma, b.sigma);
}

} // namespace

double likelihood(const Prediction& predicted, const job::Reading& reading, double span)
{
    return (1 - kSlips) * sound(predicted, reading) + kSlips * slipDensity(reading, span);
}

double slipChance(const Prediction& predicted, const job::Reading& reading, double span)
{
    return kSlips * slipDensity(reading, span) / likelihood(predicted, reading, span);
}

std::vector<double> belief(const std::vector<Suspect>& suspects, const std::vector<std::vector<Prediction>>& predicted,
                           const std::vector<Evidence>& evidence, const std::vector<double>& spans)
{
    std::vector<double> logs;
    for (size_t s = 0; s < suspects.size(); ++s) {
        double log = std::log(suspects[s].weight);
        for (const Evidence& e : evidence)
            log += std::log(likelihood(predicted[s][e.spot], e.reading, spans[e.spot]));
        logs.push_back(log);
    }
    const double most = logs.empty() ? 0 : *std::ranges::max_element(logs);
    std::vector<double> out;
    for (const double log : logs)
        out.push_back(std::exp(log - most));
    const double sum = std::accumulate(out.begin(), out.end(), 0.0);
    for (double& b : out)
        b /= sum;
    return out;
}

std::vector<Group> groups(const std::vector<std::vector<Prediction>>& predicted, const std::vector<double>& belief)
{
    std::vector<size_t> order(belief.size());
    std::iota(order.begin(), order.end(), size_t{0});
    std::ranges::stable_sort(order, std::greater{}, [&](size_t s) { return belief[s]; });
    std::vector<Group> out;
    for (const size_t s : order) { // the likeliest leads; who looks like it follows
        const auto like = std::ranges::find_if(
            out, [&](const Group& g) { return std::ranges::equal(predicted[g.members.front()], predicted[s], alike); });
        Group& group = like == out.end() ? out.emplace_back() : *like;
        group.members.push_back(s);
        group.share += belief[s];
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
        (p.kind == Kind::Open ? open : p.kind == Kind::Nothing ? nothing : quantity) += belief[s];
        if (p.kind == Kind::Quantity && belief[s] > 1e-9)
            bells.push_back({belief[s], p.value, p.sigma});
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
