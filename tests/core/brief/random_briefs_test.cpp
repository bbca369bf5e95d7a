#include "core/brief/air_method.h"
#include "core/brief/harness_kind.h"
#include "core/brief/needs.h"
#include "core/brief/questions.h"
#include "core/brief/range.h"
#include "core/brief/siting.h"
#include "core/job/check.h"
#include "core/job/json.h"
#include "tests/support/library.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>
#include <random>
#include <set>

/// Engines of every kind: whatever the facts are, what follows from them makes sense.
namespace vicegrip::brief {
namespace {

class AnyEngine
{
  public:
    explicit AnyEngine(unsigned seed) : m_random(seed) {} // NOLINT(bugprone-random-generator-seed)

    job::Brief next()
    {
        job::Brief b;
        b.cylinders = 1 + static_cast<int>(m_random() % 12);
        b.displacement_m3 = b.cylinders * between(0.1e-3, 0.9e-3);
        b.aspiration = static_cast<job::Aspiration>(m_random() % 3);
        b.target_pa = b.boosted() ? between(20e3, 250e3) : 0;
        b.overshoot_pa = between(0, 40e3);
        b.altitude_m = between(-400, 4000);
        b.fuel = static_cast<job::Fuel>(m_random() % 3);
        b.airMethod = static_cast<job::AirMethod>(m_random() % 4);
        b.fuel_pa = between(200e3, 600e3);
        for (const char* watched : {"oil-pressure", "oil-temp", "fuel-pressure", "gearbox-temp", "egt"})
            if (m_random() % 3 == 0)
                b.watch.emplace_back(watched);
        return b;
    }

  private:
    double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(m_random); }

    std::mt19937 m_random;
};

TEST(AnyEngine, ItsNeedsAreKnownReasonedAndAskedOnce)
{
    AnyEngine engines(1);
    for (int n = 0; n < 300; ++n) {
        const job::Brief b = engines.next();
        EXPECT_TRUE(nonsense(b).empty()) << nonsense(b).front().sentence;
        std::set<std::string> asked;
        for (const Need& need : needs(b)) {
            EXPECT_NE(findFunction(need.function), nullptr) << need.function.value;
            EXPECT_TRUE(asked.insert(need.function.value).second) << need.function.value;
            EXPECT_FALSE(need.reason.empty());
            EXPECT_FALSE(need.askedBy.empty());
        }
        EXPECT_TRUE(asked.contains("crank")) << "every engine is timed";
        EXPECT_TRUE(asked.contains("clt"));
        for (const std::string& watched : b.watch)
            EXPECT_TRUE(asked.contains(watched)) << watched;
    }
}

TEST(AnyEngine, ApplyingTheBriefTwiceChangesNothing)
{
    AnyEngine engines(2);
    for (int n = 0; n < 25; ++n) {
        job::Job job = test::jobOn("large-free");
        for (int change = 0; change < 3; ++change) {
            const auto drawn = job.brief ? job.brief->drawn : std::vector<std::string>{};
            job.brief = engines.next();
            job.brief->drawn = drawn;
            EXPECT_TRUE(apply(job, test::library()));
            ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
            const job::Job once = job;
            EXPECT_TRUE(apply(job, test::library()));
            EXPECT_EQ(job, once);
            for (const Consequence& c : consequences(job, *job.brief))
                EXPECT_TRUE(c.standing == Standing::There || c.standing == Standing::Own) << c.name;
        }
        const auto again = job::read(job::write(job));
        ASSERT_TRUE(again) << again.error().text();
        EXPECT_EQ(job::write(*again), job::write(job)) << "as the file rounds it";
    }
}

TEST(AnyEngine, TheAdvisorsFirstReadsEverythingWhenAnyDoes)
{
    AnyEngine engines(3);
    int answered = 0;
    for (int n = 0; n < 200; ++n) {
        job::Job job = test::jobOn("large-free");
        job.brief = engines.next();
        setAltitude(job, job.brief->altitude_m);
        for (const char* function : {"map", "charge-pressure", "fuel-pressure", "oil-pressure"}) {
            const Advice a = adviseRange({function}, job, nullptr, test::library());
            EXPECT_TRUE(std::ranges::is_sorted(a.marks, {}, &PressureMark::pa)) << function;
            if (a.ranking.empty())
                continue;
            ++answered;
            const bool any = std::ranges::any_of(a.ranking, &Candidate::reads);
            EXPECT_EQ(a.ranking.front().reads, any) << function;
            for (const Candidate& c : a.ranking) {
                EXPECT_FALSE(c.verdict.empty()) << c.sensor.id.value;
                EXPECT_TRUE(std::isfinite(c.pa_per_count) && c.pa_per_count > 0) << c.sensor.id.value;
                if (c.reads) {
                    EXPECT_GE(c.headroom_pa, 0) << c.sensor.id.value;
                }
            }
        }
    }
    EXPECT_GT(answered, 500);
}

TEST(AnyEngine, MethodsHarnessesAndQuestionsAreWholeAndFinite)
{
    AnyEngine engines(4);
    for (int n = 0; n < 100; ++n) {
        job::Job job = test::jobOn("large-free");
        job.brief = engines.next();
        EXPECT_TRUE(apply(job, test::library()));
        const auto methods = airMethods(job, *job.brief);
        EXPECT_EQ(methods.size(), 4U);
        EXPECT_EQ(std::ranges::count(methods, true, &AirMethodView::chosen), 1);
        for (const AirMethodView& m : methods)
            EXPECT_FALSE(m.how.empty() || m.forIt.empty() || m.againstIt.empty() || m.here.empty()) << m.name;
        for (const FuellingError& e : fuellingErrors(job, *job.brief, test::library())) {
            EXPECT_TRUE(std::isfinite(e.share) && e.share >= 0) << e.sensor;
            EXPECT_FALSE(e.at.empty() || e.error.empty()) << e.sensor;
        }
        for (const HarnessOption& o : harnessOptions(job, *job.brief)) {
            EXPECT_TRUE(std::isfinite(o.money) && o.money >= 0) << o.name;
            EXPECT_GE(o.rework, 0) << o.name;
            EXPECT_LE(o.rework, 1) << o.name;
            EXPECT_FALSE(o.reworkSource.empty()) << "a chance has a source";
        }
        std::set<std::string> ids;
        for (const Question& q : questions(*job.brief, job)) {
            EXPECT_TRUE(ids.insert(q.id).second) << q.id;
            EXPECT_FALSE(q.text.empty() || q.why.empty()) << q.id;
        }
        EXPECT_EQ(openQuestions(job), static_cast<int>(ids.size()));
    }
}

} // namespace
} // namespace vicegrip::brief
