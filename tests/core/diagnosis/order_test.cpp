#include "core/diagnosis/diagnosis.h"

#include <gtest/gtest.h>
#include <limits>
#include <map>
#include <random>

/// The order of readings: most bits for a second first, against the best order there is.
namespace vicegrip::diagnosis {
namespace {

/// A few faults, a few places that show volts of theirs, and what each place costs.
struct Places
{
    std::vector<std::vector<Prediction>> shows; ///< by fault, then by place
    std::vector<double> weight, cost;

    static Places random(std::mt19937& draw, size_t faults, size_t places)
    {
        Places out;
        std::uniform_real_distribution<double> share(0.1, 1);
        for (size_t f = 0; f < faults; ++f) {
            out.weight.push_back(share(draw));
            auto& of = out.shows.emplace_back();
            for (size_t p = 0; p < places; ++p)
                of.push_back(
                    {.kind = Prediction::Kind::Quantity, .value = 2.5 * static_cast<double>(draw() % 3), .own = 0.02});
        }
        for (size_t p = 0; p < places; ++p)
            out.cost.push_back(std::vector{3.0, 20.0, 60.0, 300.0}[draw() % 4]);
        return out;
    }

    /// What is left of `left` (a bit for each fault) by what the place shows.
    [[nodiscard]] std::map<double, unsigned> parted(unsigned left, size_t place) const
    {
        std::map<double, unsigned> out;
        for (size_t f = 0; f < shows.size(); ++f)
            if ((left >> f & 1U) != 0)
                out[shows[f][place].value] |= 1U << f;
        return out;
    }

    [[nodiscard]] double weightOf(unsigned left) const
    {
        double out = 0;
        for (size_t f = 0; f < weight.size(); ++f)
            out += (left >> f & 1U) != 0 ? weight[f] : 0;
        return out;
    }

    /// Seconds times weight to the end with the best order; every subset once (dynamic programming).
    double best(unsigned left, std::map<unsigned, double>& known) const
    {
        if (const auto it = known.find(left); it != known.end())
            return it->second;
        double out = std::numeric_limits<double>::infinity();
        for (size_t p = 0; p < cost.size(); ++p) {
            const auto parts = parted(left, p);
            if (parts.size() < 2)
                continue;
            double sum = cost[p] * weightOf(left);
            for (const auto& [volts, part] : parts)
                sum += best(part, known);
            out = std::min(out, sum);
        }
        return known[left] = std::isinf(out) ? 0 : out; // nothing parts them
    }

    /// The same where each reading is the one that tells most for its work.
    [[nodiscard]] double greedy(unsigned left) const
    {
        std::vector<double> belief;
        for (size_t f = 0; f < weight.size(); ++f)
            belief.push_back((left >> f & 1U) != 0 ? weight[f] / weightOf(left) : 0);
        size_t next = cost.size();
        double most = 1e-9;
        for (size_t p = 0; p < cost.size(); ++p)
            if (const double bits = information(shows, belief, p) / cost[p];
                bits > most && parted(left, p).size() > 1) {
                most = bits;
                next = p;
            }
        if (next == cost.size())
            return 0;
        double out = cost[next] * weightOf(left);
        for (const auto& [volts, part] : parted(left, next))
            out += greedy(part);
        return out;
    }
};

/// Information for its cost is near the best order on problems of this size, and the best order takes exhaustive search
/// (Pattipati and Alexandridis, Application of heuristic search and information theory to sequential fault diagnosis,
/// IEEE Transactions on Systems, Man and Cybernetics 20, 1990; from memory).
TEST(OrderOfReadings, IsNearTheBestThereIs)
{
    std::mt19937 draw(5);
    double greedy = 0, best = 0, worst = 1;
    for (int trial = 0; trial < 150; ++trial) {
        const Places places = Places::random(draw, 4 + draw() % 6, 3 + draw() % 5);
        const unsigned all = (1U << places.weight.size()) - 1;
        std::map<unsigned, double> known;
        const double least = places.best(all, known), taken = places.greedy(all);
        ASSERT_GE(taken, least - 1e-6) << "nothing is better than the best";
        if (least == 0)
            continue;
        greedy += taken / least;
        best += 1;
        worst = std::max(worst, taken / least);
    }
    EXPECT_GT(best, 100);
    EXPECT_LT(greedy / best, 1.05);
    EXPECT_LT(worst, 1.6);
}

} // namespace
} // namespace vicegrip::diagnosis
