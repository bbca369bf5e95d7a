#include "core/seating/drivers.h"

#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

#include <random>

/// What is driven from which output.
namespace vicegrip::seating {
namespace {

using testing::HasSubstr;

const parts::Part& part(const char* id)
{
    const parts::Part* found = parts::find(test::library(), parts::PartId{id});
    EXPECT_NE(found, nullptr) << id;
    return *found;
}

parts::EcuOutput output(std::vector<parts::OutputKind> drives, double most_a, double most_hz = 0)
{
    parts::EcuOutput out;
    out.id = {"X"};
    out.drives = std::move(drives);
    out.most_a = most_a;
    out.most_hz = most_hz;
    return out;
}

Compatibility on(const char* id, const parts::EcuOutput& output, size_t cavities = 1)
{
    return compatibility({}, part(id), output, cavities);
}

/// Common practice, no source: which driver burns what.
TEST(Drivers, TakeWhatTheyAreMadeFor)
{
    using enum parts::OutputKind;
    const auto plain = output({LowSide}, 2, 250), logic = [] {
        parts::EcuOutput o = output({Logic}, 0.02, 400);
        o.high_v = 5;
        o.clamped = false;
        return o;
    }();
    EXPECT_TRUE(on("injector-14", plain).compatible());
    EXPECT_EQ(on("injector-2", plain).kind, Incompatibility::Driver);
    EXPECT_TRUE(on("injector-2", output({PeakAndHold}, 4, 250)).compatible());
    EXPECT_EQ(on("coil-single", plain).kind, Incompatibility::Driver);
    EXPECT_EQ(on("coil-single", logic).kind, Incompatibility::Driver);
    EXPECT_TRUE(on("coil-single", output({Ignition}, 8, 400)).compatible());
    EXPECT_EQ(on("coil-single", output({Ignition}, 5, 400)).kind, Incompatibility::Current);
    EXPECT_TRUE(on("coil-driver-4", logic).compatible());
    EXPECT_EQ(on("coil-driver-4", plain).kind, Incompatibility::Driver);
    EXPECT_EQ(on("pump-large", plain).kind, Incompatibility::Current);
    EXPECT_TRUE(on("relay-85", plain).compatible());
    EXPECT_EQ(on("relay-high", plain).kind, Incompatibility::Driver) << "it wants its feed switched";
    EXPECT_TRUE(on("relay-high", output({HighSide}, 2)).compatible());
    EXPECT_EQ(on("boost-28", output({LowSide}, 2)).kind, Incompatibility::Frequency);
    EXPECT_TRUE(on("throttle-motor", output({HalfBridge}, 5, 1000), 2).compatible());
    EXPECT_EQ(on("throttle-motor", output({HalfBridge}, 5, 1000), 1).kind, Incompatibility::Driver);
    EXPECT_TRUE(on("idle-stepper-53", output({Stepper}, 0.6), 4).compatible());
    EXPECT_EQ(on("ntc-2k2", plain).kind, Incompatibility::Driver);
}

TEST(Drivers, ACoilsKickNeedsSomebodyToTakeIt)
{
    auto bare = output({parts::OutputKind::LowSide}, 2);
    bare.clamped = false;
    EXPECT_EQ(on("relay-85", bare).kind, Incompatibility::Clamp);
    EXPECT_TRUE(on("relay-85-diode", bare).compatible());
    EXPECT_TRUE(on("lamp-warning", bare).compatible());
}

TEST(Drivers, ASignalMustReachItsThreshold)
{
    auto five = output({parts::OutputKind::Logic}, 0.02, 400);
    five.high_v = 5;
    EXPECT_TRUE(on("tachometer-5", five).compatible());
    EXPECT_EQ(on("tachometer-12", five).kind, Incompatibility::Volts);
    auto pulled = output({parts::OutputKind::LowSide}, 0.3, 400);
    EXPECT_EQ(on("tachometer-12", pulled).kind, Incompatibility::Volts);
    pulled.pull_up_ohm = 2200;
    EXPECT_TRUE(on("tachometer-12", pulled).compatible());
    auto either = output({parts::OutputKind::Logic, parts::OutputKind::LowSide}, 0.1, 400);
    either.high_v = 5;
    EXPECT_EQ(on("relay-85", either).kind, Incompatibility::Current) << "as a switch it carries what it carries";
}

job::Job engine(const char* unit, const std::vector<const char*>& parts)
{
    job::Job job = harness::startJob("Seated", *parts::find(test::library(), parts::EcuId{unit}));
    for (const char* id : parts)
        harness::addCircuit(job, {id}, id, job::Want::Required, part(id));
    return job;
}

/// A four with wasted spark on the entry unit: injectors in pairs are not in this model, so two are.
TEST(SeatingOutputs, AWholeEngineIsSeatedWithItsSensors)
{
    job::Job job = engine("mid-fixed", {"injector-14", "injector-14", "injector-14", "injector-14", "coil-wasted",
                                        "coil-wasted", "relay-85", "boost-28", "idle-stepper-53"});
    harness::addCircuit(job, {"clt"}, "Coolant", job::Want::Required, part("ntc-2k2"));
    harness::addCircuit(job, {"map"}, "Manifold", job::Want::Required, part("map-3bar"));
    const Plan plan = bestPlan(job);
    EXPECT_TRUE(plan.optimal);
    EXPECT_EQ(plan.required, 11);
    EXPECT_THAT(plan.unseated, testing::IsEmpty());
    ASSERT_TRUE(take(job, plan));
    EXPECT_TRUE(job::check(job));
    for (const job::Circuit& c : job.circuits)
        EXPECT_NE(c.input.empty(), c.output.empty()) << c.id.value;
    EXPECT_EQ(bestPlan(job).moved, 0) << "what is best stays";
    for (const auto& f : test::analysed(job).findings)
        EXPECT_FALSE(f.rule.starts_with("driver") || f.rule == "unseated") << f.what;
}

TEST(SeatingOutputs, ALockedOneStaysAndTheRestGoRoundIt)
{
    job::Job job = engine("small-4", {"injector-14", "injector-14"});
    ASSERT_TRUE(harness::seat(job, job.circuits[0].id, parts::OutputId{"INJ4"}));
    job.circuits[0].locked = true;
    ASSERT_TRUE(take(job, bestPlan(job)));
    EXPECT_EQ(job.circuits[0].output.value, "INJ4");
    EXPECT_EQ(job.circuits[1].output.value, "INJ1");
}

TEST(SeatingOutputs, WhatNothingDrivesIsSaidWithItsReason)
{
    job::Job job = engine("entry-28", {"coil-single", "injector-2"});
    EXPECT_THAT(bestPlan(job).unseated, testing::SizeIs(2));
    ASSERT_TRUE(harness::seat(job, job.circuits[0].id, parts::OutputId{"IGN1"}));
    ASSERT_TRUE(harness::seat(job, job.circuits[1].id, parts::OutputId{"INJ1"}));
    std::vector<std::string> rules;
    for (const auto& f : test::analysed(job).findings)
        rules.push_back(f.rule);
    EXPECT_THAT(rules, testing::IsSupersetOf({"coil-without-driver", "injector-low-resistance"}));
}

/// Against every assignment there is: as many as can be seated are, on small engines at random.
TEST(SeatingOutputs, NobodySeatsMore)
{
    std::vector<const char*> kinds = {"injector-14", "injector-2", "coil-single", "coil-driver-4", "relay-85",
                                      "boost-28",    "pump-small", "relay-high",  "tachometer-12", "throttle-motor"};
    const char* const units[] = {"small-4", "mid-fixed", "entry-28", "plug-in-60"};
    for (unsigned seed = 1; seed <= 40; ++seed) {
        std::mt19937 random(seed);
        std::vector<const char*> chosen;
        for (int i = 0; i < 6; ++i)
            chosen.push_back(kinds[random() % kinds.size()]);
        job::Job job = engine(units[seed % 4], chosen);
        for (parts::EcuOutput& o : job.ecu.outputs) // few fast or strong ones
            if (random() % 2 == 0)
                o.functions = {"nothing"};
        const auto outputs = job::outputs(job);
        // Kuhn's algorithm: augmenting paths give a greatest matching (Naval Research Logistics 2, 1955).
        std::vector<int> taken(outputs.size(), -1);
        int matched = 0;
        for (size_t c = 0; c < job.circuits.size(); ++c) {
            std::vector<bool> tried(outputs.size(), false);
            const std::function<bool(size_t)> augment = [&](size_t circuit) {
                for (size_t o = 0; o < outputs.size(); ++o) {
                    if (tried[o] || !compatibility(job.circuits[circuit], *job::partOf(job, job.circuits[circuit]),
                                                   *outputs[o], job::cavitiesOf(job, outputs[o]->id).size())
                                         .compatible())
                        continue;
                    tried[o] = true;
                    if (taken[o] < 0 || augment(static_cast<size_t>(taken[o]))) {
                        taken[o] = static_cast<int>(circuit);
                        return true;
                    }
                }
                return false;
            };
            matched += augment(c) ? 1 : 0;
        }
        const Plan plan = bestPlan(job);
        EXPECT_EQ(static_cast<int>(plan.seats.size()), matched) << "seed " << seed;
        EXPECT_TRUE(plan.optimal);
    }
}

TEST(DriveFindings, ExchangedInjectorsAreSaid)
{
    job::Job job = engine("small-4", {"injector-14", "injector-14"});
    ASSERT_TRUE(take(job, bestPlan(job)));
    for (job::Wire& w : job.wires)
        for (job::PointRef* end : {&w.from, &w.to})
            if (end->text() == "A.12" || end->text() == "A.13")
                end->cavity = end->cavity == "12" ? "13" : "12";
    int said = 0;
    for (const auto& f : test::analysed(job).findings)
        if (f.rule == "signal-undriven") {
            ++said;
            EXPECT_THAT(f.what, HasSubstr("and it sits on INJ"));
            EXPECT_THAT(f.why, HasSubstr("this one works instead"));
        }
    EXPECT_EQ(said, 2);
}

} // namespace
} // namespace vicegrip::seating
