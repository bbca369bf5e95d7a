#include "core/trigger/tooth_errors.h"

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace vicegrip::trigger {
namespace {

constexpr std::size_t kBeside = 4; // neighbours at each side whose speed is taken
constexpr double kDegree = 180 / std::numbers::pi;

/// Edges that were followed without a break: their times, numbers, and angles that go on from turn to turn.
struct Run
{
    std::vector<double> times_s, angles_deg;
    std::vector<std::size_t> tooth;
};

std::vector<Run> runsOf(std::span<const double> times_s, const Followed& followed, const Wheel& wheel, bool trailing)
{
    const std::vector<double> edges = edgesOf(wheel, trailing);
    std::vector<Run> out;
    int before = -1;
    double turns_deg = 0;
    for (std::size_t i = 0; i < times_s.size(); ++i) {
        const int tooth = followed.tooth[i];
        if (tooth >= 0) {
            if (before < 0 || tooth != (before + 1) % static_cast<int>(edges.size())) {
                out.emplace_back();
                turns_deg = 0;
            } else if (tooth <= before) {
                turns_deg += wheel.turn_deg;
            }
            out.back().times_s.push_back(times_s[i]);
            out.back().angles_deg.push_back(edges[static_cast<std::size_t>(tooth)] + turns_deg);
            out.back().tooth.push_back(static_cast<std::size_t>(tooth));
        }
        before = tooth;
    }
    return out;
}

/// What the neighbours of an edge make of its angle, as shares of theirs: by a polynomial through them in time, which
/// follows what compressions do to the speed within eight teeth.
using Shares = Eigen::Matrix<double, 2 * kBeside, 1>;
Shares sharesAt(const Run& run, std::size_t at)
{
    constexpr int kTerms = 6;
    const double scale_s = run.times_s[at + kBeside] - run.times_s[at - kBeside];
    Eigen::Matrix<double, 2 * kBeside, kTerms> a;
    Eigen::Index row = 0;
    for (std::size_t i = at - kBeside; i <= at + kBeside; ++i) {
        if (i == at)
            continue;
        const double t = 2 * (run.times_s[i] - run.times_s[at]) / scale_s;
        double power = 1;
        for (int term = 0; term < kTerms; ++term, power *= t)
            a(row, term) = power;
        ++row;
    }
    // The constant term of the fit is a linear form of the angles: the first row of the pseudo-inverse.
    Shares out = a.completeOrthogonalDecomposition().pseudoInverse().row(0).transpose();
    return out;
}

/// What is late, where each edge is late by itself and moves what its neighbours are taken for: (1 - W) late = seen. A
/// shape that neighbours follow cannot be told from speed: of all that the edges allow the one is taken whose sum of
/// errors is least, since most teeth of a wheel are right (least absolute values, by weighted squares: Lawson 1961).
Eigen::VectorXd solved(const Eigen::MatrixXd& shares, const Eigen::VectorXd& seen)
{
    constexpr double kTold = 0.02; // of the greatest singular value
    constexpr double kSmall_deg = 1e-3;
    constexpr int kRounds = 30;
    const Eigen::BDCSVD<Eigen::MatrixXd> svd(Eigen::MatrixXd::Identity(seen.size(), seen.size()) - shares,
                                             Eigen::ComputeFullU | Eigen::ComputeFullV);
    const Eigen::VectorXd& values = svd.singularValues();
    const auto told = std::count_if(values.begin(), values.end(), [&](double v) { return v > kTold * values(0); });
    Eigen::VectorXd late = svd.matrixV().leftCols(told) * values.head(told).cwiseInverse().asDiagonal() *
                           (svd.matrixU().leftCols(told).transpose() * seen);
    const Eigen::MatrixXd free = svd.matrixV().rightCols(seen.size() - told);
    const Eigen::VectorXd least = late;
    for (int round = 0; round < kRounds && free.cols() > 0; ++round) {
        const Eigen::VectorXd weights = (late.array().abs() + kSmall_deg).inverse();
        const Eigen::MatrixXd normal = free.transpose() * weights.asDiagonal() * free;
        late = least - free * normal.ldlt().solve(free.transpose() * weights.asDiagonal() * least);
    }
    return late;
}

} // namespace

double ToothErrors::worst_deg() const
{
    double out = 0;
    for (const double off : off_deg)
        out = std::max(out, std::abs(off));
    return out;
}

std::optional<ToothErrors> toothErrors(std::span<const double> times_s, const Followed& followed, const Wheel& wheel,
                                       bool trailing)
{
    constexpr std::size_t kMostJudged = 400, kEnough = 20000;
    const std::size_t teeth = wheel.teeth.size();
    if (teeth == 0 || teeth > kMostJudged || followed.tooth.size() != times_s.size())
        return std::nullopt;
    const std::vector<Run> runs = runsOf(times_s.first(std::min(times_s.size(), kEnough)), followed, wheel, trailing);
    const auto size = static_cast<Eigen::Index>(teeth);
    Eigen::MatrixXd shares = Eigen::MatrixXd::Zero(size, size);
    Eigen::VectorXd seen = Eigen::VectorXd::Zero(size), square = seen, count = seen;
    for (const Run& run : runs)
        for (std::size_t at = kBeside; at + kBeside < run.times_s.size(); ++at) {
            const Shares of = sharesAt(run, at);
            const auto tooth = static_cast<Eigen::Index>(run.tooth[at]);
            double there_deg = -run.angles_deg[at];
            for (std::size_t i = at - kBeside, k = 0; i <= at + kBeside; ++i)
                if (i != at) {
                    const double share = of(static_cast<Eigen::Index>(k++));
                    shares(tooth, static_cast<Eigen::Index>(run.tooth[i])) += share;
                    there_deg += share * run.angles_deg[i];
                }
            seen(tooth) += there_deg;
            square(tooth) += there_deg * there_deg;
            count(tooth) += 1;
        }
    if (count.minCoeff() < 2)
        return std::nullopt;
    ToothErrors out;
    out.turns = static_cast<std::size_t>(count.minCoeff());
    seen = seen.cwiseQuotient(count);
    shares = count.cwiseInverse().asDiagonal() * shares;
    const Eigen::VectorXd late = solved(shares, seen);
    const double mean = late.mean(); // that the whole wheel is late is not seen
    for (Eigen::Index t = 0; t < size; ++t) {
        out.off_deg.push_back(late(t) - mean);
        out.scatter_deg.push_back(std::sqrt(std::max(0.0, square(t) / count(t) - seen(t) * seen(t))));
    }
    return out;
}

std::optional<OnceATurn> onceATurn(std::span<const double> angles_deg, std::span<const double> values, double turn_deg)
{
    if (angles_deg.size() != values.size() || values.size() < 3)
        return std::nullopt;
    const auto n = static_cast<Eigen::Index>(values.size());
    Eigen::MatrixX3d a(n, 3);
    Eigen::VectorXd b(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const double phase = angles_deg[static_cast<std::size_t>(i)] / turn_deg * 2 * std::numbers::pi;
        a.row(i) << 1, std::cos(phase), std::sin(phase);
        b(i) = values[static_cast<std::size_t>(i)];
    }
    const auto qr = a.colPivHouseholderQr();
    if (qr.rank() < 3)
        return std::nullopt;
    const Eigen::Vector3d x = qr.solve(b);
    double at = std::atan2(x(2), x(1)) * kDegree * turn_deg / kCrankTurn_deg;
    if (at < 0)
        at += turn_deg;
    return OnceATurn{x(0), std::hypot(x(1), x(2)), at};
}

std::optional<double> runOutOf(std::span<const double> angles_deg, std::span<const double> peaks_v, double decay_m,
                               double turn_deg)
{
    std::vector<double> logs;
    for (const double peak : peaks_v) {
        if (!(peak > 0))
            return std::nullopt;
        logs.push_back(-decay_m * std::log(peak)); // how far it stands, but for a constant
    }
    const auto sine = onceATurn(angles_deg, logs, turn_deg);
    return sine ? std::optional(2 * sine->amplitude) : std::nullopt;
}

} // namespace vicegrip::trigger
