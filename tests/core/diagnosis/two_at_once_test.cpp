#include "tests/support/faulty_car.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <deque>
#include <optional>
#include <random>

/// Two faults at once on one circuit.
namespace vicegrip::diagnosis {
namespace {

using job::Condition;

/// The short list is made without solving a network of two faults: here all pairs of some fifty suspects are solved,
/// and what would be the likeliest of all must be on it, or one that reads just like it.
TEST(TwoAtOnce, TheShortListHasWhatAllPairsWouldSay)
{
    const auto a = test::analysed(test::unread());
    std::vector<Suspect> all = suspects(a, {"map"}, test::families(), test::library());
    std::vector<Suspect> few = {all.front()};
    for (size_t i = 1; i < all.size() && few.size() < 50; i += 3)
        if (all[i].solved) {
            few.push_back(all[i]);
            few.back().series.clear();
        }
    const auto spots = test::spotsOf(a, {"map"});
    std::vector<Suspect> every = few;
    std::vector<Pair> pairs;
    for (size_t x = 1; x < few.size(); ++x)
        for (size_t y = x + 1; y < few.size(); ++y)
            if (few[x].subjects != few[y].subjects || few[x].subjects.empty()) {
                pairs.emplace_back(x, y);
                every.push_back(both(few, {x, y}, test::families()));
            }
    const auto solved = predictions(a, {"map"}, every, spots);
    const std::vector<std::vector<Prediction>> alone(solved.begin(), solved.begin() + std::ssize(few));
    const std::vector<double> spans(spots.size(), 20);
    std::mt19937 random(3);
    int asked = 0, there = 0;
    while (asked < 60) {
        const size_t truth = few.size() + random() % pairs.size();
        std::vector<Evidence> evidence;
        for (size_t i = 0; i < spots.size(); ++i)
            if (solved[truth][i].kind == Prediction::Kind::Quantity)
                evidence.push_back(
                    {i, job::Reading::of(solved[truth][i].value, spots[i].place.dimension, spots[i].place.condition)});
        const Belief b = belief(every, solved, evidence, spans);
        const size_t best = static_cast<size_t>(std::ranges::max_element(b.shares) - b.shares.begin());
        if (best < few.size()) // one fault alone explains it all
            continue;
        ++asked;
        const auto list = likelyPairs(few, alone, evidence, spans, 24);
        there += std::ranges::any_of(list, [&](const Pair& p) {
            const auto k = std::ranges::find(pairs, p) - pairs.begin();
            return std::ranges::equal(solved[few.size() + static_cast<size_t>(k)], solved[best], looksAlike);
        });
    }
    EXPECT_GE(there, 54) << "of " << asked;
}

/// Hands follow the finder, mend what it says, and read on until all reads as drawn.
class Hands
{
  public:
    Hands(const char* circuit, const analysis::Analysis& of)
        : m_circuit(circuit),
          m_spots(test::spotsOf(of, {circuit})),
          m_finder(of, {circuit}, test::families(), test::library())
    {
        m_jobs.push_back(of);
    }

    int mends = 0, sound = 0;

    [[nodiscard]] std::vector<Suspect> suspects() { return m_finder.diagnosis({}, Condition::KeyOn, 0).suspects; }
    [[nodiscard]] bool shows(const Suspect& wrong) const { return failing(wrong).has_value(); }

    /// Whether all that shows was mended in so many mends.
    [[nodiscard]] bool mend(Suspect left, int most)
    {
        EXPECT_TRUE(m_finder.goOnWith(m_jobs.front()));
        job::Job job = *m_jobs.front().job;
        for (int i = 0; i < most; ++i) {
            const auto first = failing(left);
            if (!first)
                return true;
            test::FaultyCar car(m_jobs.front(), left, m_spots);
            const auto done = follow(m_finder, {*first}, Condition::KeyOn, [&](const Spot& s) { return car.at(s); });
            const Suspect& said = done.last.suspects[done.last.groups[0].members[0]];
            job.mends.push_back(mendOf(job, said, "2026-11-29T10:00:00Z"));
            ++mends;
            sound += std::erase_if(left.faults,
                                   [&](const faults::Fault& f) {
                                       return faults::isIn(faults::subjectsOf(f, job), job.mends.back());
                                   }) == 0
                         ? 1
                         : 0;
            m_jobs.push_back(test::analysed(job));
            EXPECT_TRUE(m_finder.goOnWith(m_jobs.back()));
        }
        return !shows(left);
    }

  private:
    [[nodiscard]] std::optional<Taken> failing(const Suspect& wrong) const
    {
        test::FaultyCar car(m_jobs.front(), wrong, m_spots);
        return test::firstFailing(m_jobs.front(), m_spots, car);
    }

    std::string m_circuit;
    std::vector<Spot> m_spots;
    Finder m_finder;
    std::deque<analysis::Analysis> m_jobs; ///< as drawn, then after each mend
};

TEST(TwoAtOnce, AreMendedOneAfterTheOther)
{
    const auto a = test::analysed(test::unread());
    int shown = 0, mended = 0, mends = 0, sound = 0;
    std::mt19937 random(11);
    for (const char* circuit : {"clt", "map", "fp"}) {
        Hands hands(circuit, a);
        const auto all = hands.suspects();
        std::vector<double> weights;
        for (const Suspect& s : all)
            weights.push_back((s.series.empty() || isDecade(s.size)) && !s.subjects.empty() ? s.weight : 0);
        std::discrete_distribution<size_t> draw(weights.begin(), weights.end());
        for (int i = 0; i < 12; ++i) {
            const size_t x = draw(random), y = draw(random);
            const Suspect wrong = both(all, {std::min(x, y), std::max(x, y)}, test::families());
            if (all[x].subjects == all[y].subjects || !hands.shows(wrong))
                continue;
            ++shown;
            mended += hands.mend(wrong, 5) ? 1 : 0;
        }
        mends += hands.mends;
        sound += hands.sound;
    }
    ASSERT_GT(shown, 20);
    EXPECT_GE(mended, shown * 9 / 10) << "of " << shown;
    EXPECT_LE(sound, mends / 3) << "mends of what was sound, of " << mends;
}

/// What fits no single fault is not all put down to slips: an input that is set otherwise, and an open wire.
TEST(TwoAtOnce, IsBelievedWhereNoSingleFaultWouldDo)
{
    const auto a = test::analysed(test::unread());
    Finder finder(a, {"clt"}, test::families(), test::library());
    const auto single = finder.diagnosis({}, Condition::KeyOn, 0);
    Suspect truth;
    truth.faults = {faults::WrongMode{{"AN3"}, parts::InputMode::Switch}, faults::OpenWire{{"w5"}}};
    const auto spots = test::spotsOf(a, {"clt"});
    test::FaultyCar car(a, truth, spots);
    const auto done = follow(finder, {*test::firstFailing(a, spots, car)}, Condition::KeyOn,
                             [&](const Spot& s) { return car.at(s); });
    EXPECT_GE(done.last.suspects.size(), single.suspects.size());
    double either = 0;
    for (size_t s = 0; s < done.last.suspects.size(); ++s)
        for (const faults::Fault& f : truth.faults)
            if (std::ranges::includes(done.last.suspects[s].subjects, faults::subjectsOf(f, *a.job))) {
                either += done.last.belief[s];
                break;
            }
    EXPECT_GT(either, 0.8);
    double sum = 0;
    for (const double b : done.last.belief)
        sum += b;
    EXPECT_NEAR(sum, 1, 1e-9);
}

/// The weight of all pairs together is their family's.
TEST(TwoAtOnce, AllPairsTogetherWeighAsTheirFamily)
{
    const auto a = test::analysed(test::unread());
    const auto all = suspects(a, {"clt"}, test::families(), test::library());
    double sum = 0;
    for (size_t x = 1; x < all.size(); ++x)
        for (size_t y = x + 1; y < all.size(); ++y)
            sum += both(all, {x, y}, test::families()).weight;
    EXPECT_NEAR(sum, test::families().at(kTwoAtOnce).weight, 1e-6);
}

} // namespace
} // namespace vicegrip::diagnosis
