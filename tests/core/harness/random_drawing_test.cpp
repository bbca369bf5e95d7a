#include "core/harness/resistors.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/pinning/pinning.h"
#include "core/seating/plan.h"
#include "core/seating/ways_out.h"
#include "core/work/work_steps.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gtest/gtest.h>
#include <random>
#include <set>

/// Whatever is done to a drawing, in whatever order, it holds together: it is accepted, analysed, written and read.
namespace vicegrip::harness {
namespace {

class Hands
{
  public:
    explicit Hands(unsigned seed) : m_random(seed) // NOLINT(bugprone-random-generator-seed)
    {
        job = test::jobOn("large-free");
    }

    job::Job job;

    /// One change of any kind; says what it was.
    std::string act()
    {
        switch (pick(13)) {
        case 0:
        case 1:
        case 2:
            return "add " + addCircuit(job, {"map"}, "C", static_cast<job::Want>(pick(3)), sensor()).value;
        case 3:
        case 4:
            if (!job.circuits.empty())
                ofSensor(circuit(), [&](const auto& id) { return seating::seat(job, id, input()).has_value(); });
            return "seat";
        case 5:
            if (!job.circuits.empty()) {
                EXPECT_TRUE(unseat(job, circuit()));
            }
            return "unseat";
        case 6:
            if (!job.circuits.empty())
                ofSensor(circuit(), [&](const auto& id) { return setSensor(job, id, sensor()).has_value(); });
            return "another sensor";
        case 7:
            if (!job.circuits.empty())
                attempt([&] { return addPullUp(job, circuit(), 1000 + pick(5000), 0.01); });
            return "fit a pull-up";
        case 8:
            if (!job.circuits.empty())
                attempt([&] { return addDivider(job, circuit(), 1000 + pick(5000), 2200, 0.01); });
            return "fit a divider";
        case 9:
            if (!job.circuits.empty()) {
                EXPECT_TRUE(removeCircuit(job, circuit()));
            }
            return "remove";
        case 10:
            pin();
            return "pin";
        case 11:
            EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
            return "seat all";
        default:
            return rarely();
        }
    }

  private:
    /// What works for every sensor, and not for the bus port of a unit.
    template <class Act> void ofSensor(const job::CircuitId& id, Act act)
    {
        if (job::sensorOf(job, *job::find(job, id)) != nullptr) {
            EXPECT_TRUE(act(id));
            return;
        }
        attempt([&] { return act(id); });
    }

    /// What is refused leaves the job as it was.
    template <class Act> void attempt(Act act)
    {
        const job::Job before = job;
        if (!act()) {
            EXPECT_EQ(job, before);
        }
    }

    int pick(int n) { return static_cast<int>(m_random() % static_cast<unsigned>(n)); }
    const parts::Part& sensor()
    {
        const auto& all = test::sensors();
        return all[static_cast<size_t>(pick(static_cast<int>(all.size())))];
    }
    job::CircuitId circuit()
    {
        return job.circuits[static_cast<size_t>(pick(static_cast<int>(job.circuits.size())))].id;
    }
    parts::InputId input()
    {
        const auto all = job::inputs(job);
        return all[static_cast<size_t>(pick(static_cast<int>(all.size())))]->id;
    }
    void pin()
    {
        const job::Connector& c = job.connectors[static_cast<size_t>(pick(static_cast<int>(job.connectors.size())))];
        const job::PointRef at{c.id, c.cavities[static_cast<size_t>(pick(static_cast<int>(c.cavities.size())))]};
        for (int ticks = pick(10); ticks > 0; --ticks)
            attempt([&] { return pinning::tick(job, at, "t"); });
        if (pick(2) == 0) {
            EXPECT_TRUE(pinning::count(job, at, pick(3) == 0 ? "1" : at.cavity, "t"));
        }
    }
    std::string rarely()
    {
        switch (pick(8)) {
        case 0:
            if (job.expanders.size() < 2)
                addExpander(job, test::ecu("expander-8"));
            return "an expander";
        case 1:
            EXPECT_TRUE(setEcu(job, test::ecu(pick(2) == 0 ? "small-4" : "large-free")));
            return "another ECU";
        case 2:
            if (!job.circuits.empty())
                for (const auto& way : seating::waysOut(job, *job::find(job, circuit()), test::library())) {
                    EXPECT_TRUE(seating::apply(job, way));
                    break;
                }
            return "a way out";
        default:
            return "nothing";
        }
    }

    std::mt19937 m_random;
};

TEST(RandomDrawing, HoldsTogetherWhateverIsDoneToIt)
{
    for (unsigned seed = 1; seed <= 12; ++seed) {
        Hands hands(seed);
        std::string story;
        for (int step = 0; step < 60; ++step) {
            story += hands.act() + "; ";
            const auto sound = job::check(hands.job);
            ASSERT_TRUE(sound) << "seed " << seed << ", after " << story << ": " << sound.error().text();
        }
        const auto again = job::read(job::write(hands.job));
        ASSERT_TRUE(again) << "seed " << seed << ": " << again.error().text();
        EXPECT_EQ(job::write(*again), job::write(hands.job)) << seed;
        const auto analysis = test::analysed(hands.job);
        EXPECT_EQ(analysis.circuits.size(), hands.job.circuits.size());
        EXPECT_TRUE(analysis.networkTrouble.empty()) << seed << ": " << analysis.networkTrouble;
        EXPECT_TRUE(work::order(work::steps(hands.job))) << seed;
    }
}

TEST(RandomDrawing, NobodySharesASeatAndNoWireHangsOnARemovedPlug)
{
    for (unsigned seed = 20; seed < 28; ++seed) {
        Hands hands(seed);
        for (int step = 0; step < 80; ++step) {
            hands.act();
            std::set<std::string> taken;
            for (const job::Circuit& c : hands.job.circuits) {
                if (!c.input.empty()) {
                    EXPECT_TRUE(taken.insert(c.input.value).second) << c.input.value << " seed " << seed;
                }
            }
            for (const job::Device& d : hands.job.devices)
                EXPECT_NE(job::findConnector(hands.job, d.connector), nullptr) << d.id.value << " seed " << seed;
        }
        while (!hands.job.circuits.empty())
            EXPECT_TRUE(removeCircuit(hands.job, job::CircuitId(hands.job.circuits.front().id)));
        EXPECT_TRUE(hands.job.devices.empty()) << seed;
        EXPECT_TRUE(hands.job.parts.empty()) << seed;
        for (const job::Pinned& p : hands.job.pinned)
            EXPECT_EQ(job::findConnector(hands.job, p.at.owner)->kind, job::ConnectorKind::Ecu) << p.at.text();
    }
}

} // namespace
} // namespace vicegrip::harness
