#include "core/findings/lead_checks.h"
#include "core/harness/bus_wires.h"
#include "core/harness/lead_plan.h"
#include "core/job/check.h"
#include "core/materials/cut_list.h"
#include "core/materials/shopping_list.h"
#include "core/parts/conductor.h"
#include "core/seating/plan.h"
#include "core/wires/joins.h"
#include "core/wires/leads.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <numbers>

/// Pairs that are twisted, and leads with a shield.
namespace vicegrip::wires {
namespace {

using job::PointRef;
using testing::HasSubstr;

job::Job with(std::initializer_list<std::pair<const char*, const char*>> parts, const char* unit)
{
    job::Job job = test::jobOn(unit);
    for (const auto& [function, part] : parts)
        test::add(job, function, part);
    EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
    return job;
}

job::Job trigger()
{
    return with({{"crank", "vr-crank"}, {"clt", "ntc-2k2"}}, "large-free");
}

/// Along the helix itself, chord by chord.
TEST(Leads, ATwistedWireIsAsLongAsItsHelix)
{
    for (const double area : {0.35e-6, 0.5e-6, 0.75e-6, 2.5e-6}) {
        const double r = parts::outerDiameter(area) / 2;
        constexpr int kChords = 20000;
        double length = 0;
        for (int i = 0; i < kChords; ++i) {
            const auto at = [&](int n) { return 2 * std::numbers::pi * n / kChords; };
            length += std::hypot(r * (std::cos(at(i + 1)) - std::cos(at(i))),
                                 r * (std::sin(at(i + 1)) - std::sin(at(i))), kTwistPitch_m / kChords);
        }
        EXPECT_NEAR(twistFactor(area), length / kTwistPitch_m, 1e-6) << area;
        EXPECT_LT(twistFactor(area), 1.1);
    }
}

TEST(Leads, ATriggersCoilLiesInAShieldThatLandsAtTheEcu)
{
    const job::Job job = trigger();
    ASSERT_EQ(job.leads.size(), 1U);
    const job::Lead& lead = job.leads.front();
    EXPECT_TRUE(lead.shield);
    EXPECT_EQ(lead.cores.size(), 2U) << "signal and ground";
    ASSERT_EQ(lead.drain.size(), 1U);
    const electrics::Wiring wiring(job);
    EXPECT_TRUE(wiring
                    .way(lead.drain.front(),
                         [&](const PointRef& p) {
                             return wiring.ecuPin(p) != nullptr &&
                                    wiring.ecuPin(p)->role == parts::EcuPinRole::SensorGround;
                         })
                    .complete);
    EXPECT_THAT(test::of(job, "shield-open"), testing::IsEmpty());
    EXPECT_THAT(test::of(job, "shield-both-ends"), testing::IsEmpty());
}

TEST(Leads, ABussPairIsTwistedAndItsStubsAreNot)
{
    const job::Job job = with({{"wideband", "wideband-can"}, {"display", "can-display"}}, "large-free");
    ASSERT_EQ(job.leads.size(), 1U) << "up to the Y lead";
    for (const job::Lead& lead : job.leads) {
        ASSERT_EQ(lead.cores.size(), 2U);
        EXPECT_FALSE(lead.shield);
        const job::Wire* pair[2] = {nullptr, nullptr};
        for (const job::Wire& w : job.wires)
            for (const size_t i : {0U, 1U})
                if (w.id == lead.cores[i])
                    pair[i] = &w;
        EXPECT_EQ(pair[0]->from.owner.front(), pair[1]->from.owner.front());
        EXPECT_GT(pair[0]->length_m, harness::kLongestStub_m);
        EXPECT_THAT((std::set{pair[0]->colour, pair[1]->colour}), testing::ElementsAre("GN", "YE"));
    }
}

TEST(Leads, GoWithTheirWires)
{
    job::Job job = trigger();
    const parts::InputId seat = job::find(job, job::CircuitId{"crank"})->input;
    ASSERT_TRUE(harness::unseat(job, {"crank"}));
    EXPECT_TRUE(job::check(job));
    ASSERT_TRUE(harness::seat(job, {"crank"}, seat));
    ASSERT_EQ(job.leads.size(), 1U) << "its ground lay in it still, and the signal joins it again";
    EXPECT_EQ(job.leads.front().cores.size(), 2U);
    EXPECT_TRUE(job::check(job));
    job = trigger();
    removeWires(job, {job.leads.front().cores.front()});
    ASSERT_EQ(job.leads.size(), 1U) << "one core in a shield is a lead yet";
    EXPECT_TRUE(job::check(job));
    removeWires(job, {job.leads.front().cores.front()});
    EXPECT_THAT(job.leads, testing::IsEmpty());
    job = trigger();
    ASSERT_TRUE(harness::removeCircuit(job, {"crank"}));
    EXPECT_TRUE(job::check(job));
    job = trigger();
    ASSERT_TRUE(harness::setEcu(job, test::ecu("mid-fixed")));
    EXPECT_TRUE(job::check(job)) << job::check(job).error().text();
}

/// Two places are a wire between them: Ohm's law over its copper says what flows.
TEST(Leads, AShieldOnTwoGroundsCarriesCurrent)
{
    job::Job job = trigger();
    const auto places = harness::drainPlaces(job, job.ecu);
    EXPECT_EQ(places.atEcu, job.leads.front().drain.front());
    ASSERT_FALSE(places.atMetal.empty());
    job.leads.front().drain = {places.atEcu, places.atMetal};
    ASSERT_TRUE(job::check(job));
    const auto found = test::of(job, "shield-both-ends");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found.front().what, HasSubstr("Ω"));
    // A source between the two, all else taken away: what it sees is the drain.
    job::Job bare = job;
    const double ohms = parts::wireOhms(job::lengthOf(job, job.leads.front()), 0.35e-6, job.surroundings.ambient_k);
    bare.leads.clear();
    const auto offset = [&](const job::Job& j) {
        const auto car = electrics::build(j, {.condition = job::Condition::BatteryOff, .surroundings = j.surroundings});
        return car->ohmmeter(places.atEcu, places.atMetal)->value;
    };
    const double with = offset(job), without = offset(bare);
    EXPECT_NEAR(1 / with - 1 / without, 1 / (ohms + 2 * parts::kCrimpOhms), 0.01 / ohms);
    job.leads.front().drain.clear();
    EXPECT_EQ(test::of(job, "shield-open").size(), 1U);
}

TEST(Leads, StandInTheListsOfWhatIsCutAndBought)
{
    const job::Job shielded = trigger();
    const auto cuts = materials::cutList(shielded);
    const auto core = std::ranges::find(cuts, shielded.leads.front().cores.front(), &materials::Cut::wire);
    EXPECT_THAT(materials::noteOf(*core), HasSubstr("shielded lead with"));
    const auto bought = materials::shoppingList(shielded);
    const auto lead =
        std::ranges::find_if(bought, [](const materials::Item& i) { return i.what.starts_with("Shielded lead, 2 x"); });
    ASSERT_NE(lead, bought.end());
    EXPECT_GE(lead->needed, job::lengthOf(shielded, shielded.leads.front()));

    const job::Job bus = with({{"wideband", "wideband-can"}}, "large-free");
    job::Job loose = bus;
    loose.leads.clear();
    const auto one = materials::cutList(bus), other = materials::cutList(loose);
    for (const materials::Cut& c : one) {
        const auto same = std::ranges::find(other, c.wire, &materials::Cut::wire);
        const bool twisted = job::leadOf(bus, c.wire) != nullptr;
        EXPECT_EQ(materials::noteOf(c).find("twisted with") != std::string::npos, twisted);
        EXPECT_EQ(c.cut_m > same->cut_m, twisted) << c.wire.value;
    }
}

TEST(Leads, ASenselessOneIsRefusedWithItsPlace)
{
    const job::Job sound = trigger();
    const auto refused = [&](auto change, const char* pointer) {
        job::Job job = sound;
        change(job.leads.front());
        const auto read = job::read(job::write(job));
        ASSERT_FALSE(read) << pointer;
        EXPECT_THAT(read.error().text(), HasSubstr(pointer));
    };
    refused([](job::Lead& l) { l.cores = {{"w999"}}; }, "/leads/0/cores");
    refused([](job::Lead& l) { l.cores.push_back(l.cores.front()); }, "/leads/0/cores");
    refused([](job::Lead& l) { l.drain = {{"NOWHERE", {}}}; }, "/leads/0/drain");
    refused([](job::Lead& l) { l.drain = {l.drain[0], l.drain[0]}; }, "/leads/0/drain");
    refused([](job::Lead& l) { l.shield = false; }, "/leads/0/drain");
    refused(
        [](job::Lead& l) {
            l.shield = false;
            l.drain.clear();
            l.cores.pop_back();
        },
        "/leads/0/cores");
}

} // namespace
} // namespace vicegrip::wires
