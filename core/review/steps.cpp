#include "core/review/steps.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include <Eigen/Dense>

namespace vicegrip::review {

namespace {

/// What the best of these shapes, by least squares, leave of the samples: the squares, and the last shape's share.
struct Fit
{
    double squares = INFINITY, last = 0;
};
template <int Shapes>
Fit fitted(const Eigen::Matrix<double, Eigen::Dynamic, Shapes>& of, const Eigen::VectorXd& samples)
{
    const Eigen::Matrix<double, Shapes, 1> shares = (of.transpose() * of).ldlt().solve(of.transpose() * samples);
    return {(samples - of * shares).squaredNorm(), shares[Shapes - 1]};
}

/// The height of a step beside a trend, where that fits better, within half a width of the place, than a line that
/// bends there into a curve, or a curve that does into another; none where it does not.
std::optional<double> heightOf(std::span<const float> values, std::size_t at, std::size_t width, double noise)
{
    constexpr double kMoreFree = 6; // times the noise squared, for the one shape more that the curve has
    const std::size_t first = at > width * 3 / 2 ? at - width * 3 / 2 : 0;
    const std::size_t last = std::min(values.size(), at + width * 3 / 2);
    const auto count = static_cast<Eigen::Index>(last - first);
    Eigen::VectorXd samples(count);
    Eigen::Matrix<double, Eigen::Dynamic, 3> step(count, 3);
    Eigen::Matrix<double, Eigen::Dynamic, 4> bent(count, 4), curved(count, 4);
    for (Eigen::Index i = 0; i < count; ++i) {
        const double place = (static_cast<double>(i) - static_cast<double>(count) / 2) / static_cast<double>(width);
        samples[i] = static_cast<double>(values[first + static_cast<std::size_t>(i)]) - values[at];
        step(i, 0) = bent(i, 0) = curved(i, 0) = 1;
        step(i, 1) = bent(i, 1) = curved(i, 1) = place;
        curved(i, 2) = place * place;
    }
    const std::size_t begin = std::max(first + 2, at - width / 2), end = std::min(at + width / 2 + 1, last - 2);
    Fit bestStep;
    for (std::size_t from = begin; from < end; ++from) {
        const auto there = static_cast<Eigen::Index>(from - first);
        for (Eigen::Index i = 0; i < count; ++i)
            step(i, 2) = i >= there ? 1 : 0;
        const Fit s = fitted<3>(step, samples);
        bestStep = s.squares < bestStep.squares ? s : bestStep;
    }
    const auto bentAt = [&](std::size_t from) {
        const auto there = static_cast<Eigen::Index>(from - first);
        for (Eigen::Index i = 0; i < count; ++i) {
            const double beyond = std::max(0.0, bent(i, 1) - bent(there, 1));
            bent(i, 2) = curved(i, 3) = beyond;
            bent(i, 3) = beyond * beyond;
        }
        return std::min(fitted<4>(bent, samples).squares, fitted<4>(curved, samples).squares);
    };
    // Where a line bends is a broad question: it is asked at a few places, and then beside the best of them.
    const std::size_t stride = std::max<std::size_t>(1, width / 8);
    double bestBent = INFINITY;
    std::size_t best = begin;
    for (std::size_t from = begin; from < end; from += stride)
        if (const double squares = bentAt(from); squares < bestBent) {
            bestBent = squares;
            best = from;
        }
    for (std::size_t from = std::max(begin, best - std::min(best, stride) + 1); from < std::min(end, best + stride);
         ++from)
        bestBent = from == best ? bestBent : std::min(bestBent, bentAt(from));
    return bestStep.squares < bestBent + kMoreFree * noise * noise ? std::optional(bestStep.last) : std::nullopt;
}

} // namespace

std::vector<Step> stepsIn(std::span<const float> values, std::size_t width, double noise, double least)
{
    std::vector<Step> out;
    if (values.size() < 4 * width || !(noise > 0) || width == 0)
        return out;
    const auto w = static_cast<double>(width);
    const double deviation = noise * std::sqrt(5 / w);
    double a = 0, b = 0, c = 0, d = 0; // sums of the four windows
    for (std::size_t i = 0; i < width; ++i) {
        a += values[i];
        b += values[i + width];
        c += values[i + 2 * width];
        d += values[i + 3 * width];
    }
    for (std::size_t at = 2 * width;; ++at) {
        const double height = ((c - b) - ((b - a) + (d - c)) / 2) / w;
        const double times = std::abs(height) / deviation;
        if (times >= least) {
            if (!out.empty() && at - out.back().at < 2 * width) {
                if (times > out.back().times)
                    out.back() = {at, 0, times};
            } else {
                out.push_back({at, 0, times});
            }
        }
        if (at + 2 * width >= values.size())
            break;
        a += static_cast<double>(values[at - width]) - values[at - 2 * width];
        b += static_cast<double>(values[at]) - values[at - width];
        c += static_cast<double>(values[at + width]) - values[at];
        d += static_cast<double>(values[at + 2 * width]) - values[at + width];
    }
    std::erase_if(out, [&](Step& s) {
        const auto height = heightOf(values, s.at, width, noise);
        s.height = height.value_or(0);
        return !height;
    });
    return out;
}

} // namespace vicegrip::review
