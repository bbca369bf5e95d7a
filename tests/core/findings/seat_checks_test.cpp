#include "core/brief/needs.h"
#include "core/harness/resistors.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

/// The rules of the Inputs stage, one job for each.
namespace vicegrip::findings {
namespace {

using job::CircuitId;
using parts::InputId;
using testing::HasSubstr;

using test::of;

/// The large ECU with one circuit on one input, whatever the input makes of it.
job::Job seated(const char* function, const char* part, const char* input)
{
    job::Job job = test::jobOn("large-free");
    EXPECT_TRUE(harness::seat(job, test::add(job, function, part), InputId{input}));
    return job;
}

TEST(SeatFindings, ARequiredSensorWithoutASeatStopsTheJob)
{
    job::Job job = test::jobOn("large-free");
    test::add(job, "map", "map-3bar");
    test::add(job, "egt", "egt-0-5v", job::Want::Preferred);
    const auto found = of(job, "unseated");
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(found[0].severity, Severity::Stop);
    EXPECT_EQ(found[0].circuit, CircuitId{"map"});
    EXPECT_EQ(found[1].severity, Severity::Note);
    EXPECT_TRUE(of(job, "open-conductor").empty()) << "nothing is drawn yet, and that is no fault";
}

TEST(SeatFindings, AnInputThatCannotTakeTheSignalIsNamed)
{
    EXPECT_THAT(of(seated("map", "map-3bar", "DG1"), "input-mode")[0].what, HasSubstr("DG1"));
    EXPECT_THAT(of(seated("crank", "vr-crank", "DG5"), "input-coil")[0].what, HasSubstr("coil"));
    job::Job slow = seated("turbo-speed", "hall-turbo", "DG3");
    job::findInput(slow, InputId{"DG3"})->most_hz = 1000;
    EXPECT_THAT(of(slow, "over-frequency")[0].what, HasSubstr("4.0 kHz"));
    job::Job fixed = seated("map", "map-3bar", "AN2");
    job::findInput(fixed, InputId{"AN2"})->functions = {"tps"};
    EXPECT_EQ(of(fixed, "input-function").size(), 1U);
}

TEST(SeatFindings, TwelveVoltsOnAFiveVoltInput)
{
    EXPECT_THAT(of(seated("fuel-pressure", "press-10bar-0-10v", "AN1"), "over-volts")[0].what, HasSubstr("10 V"));
    job::Job weak = seated("brake", "switch-battery", "AN1");
    job::findInput(weak, InputId{"AN1"})->withstands_v = 6;
    EXPECT_THAT(of(weak, "over-volts")[0].why, HasSubstr("damaged"));
    EXPECT_TRUE(harness::addDivider(weak, CircuitId{"brake"}, 22e3, 10e3, 0.01));
    EXPECT_TRUE(of(weak, "over-volts").empty()) << "the divider takes it down to 4.5 V";
}

TEST(SeatFindings, PullUpsMissingAndDoubled)
{
    job::Job job = seated("flex", "flex-50-150", "DG3");
    EXPECT_TRUE(of(job, "pull-up-missing").empty()) << "it is switched on with the seat";
    job::findInput(job, InputId{"DG3"})->pull_up_ohm.reset();
    EXPECT_THAT(of(job, "pull-up-missing")[0].what, HasSubstr("open collector"));
    EXPECT_TRUE(harness::addPullUp(job, CircuitId{"flex"}, 2200, 0.05));
    EXPECT_TRUE(of(job, "pull-up-missing").empty());
    EXPECT_TRUE(of(job, "pull-up-doubled").empty());
    job::findInput(job, InputId{"DG3"})->pull_up_ohm = 2200;
    EXPECT_EQ(of(job, "pull-up-doubled").size(), 1U);
}

TEST(SeatFindings, AnInputThatIsSetToSomethingElseIsSaid)
{
    job::Job job = seated("map", "map-3bar", "AN1");
    EXPECT_EQ(job::findInput(job, InputId{"AN1"})->setTo, parts::InputMode::Analog) << "said with the seat";
    EXPECT_TRUE(of(job, "mode-set-otherwise").empty());
    job::findInput(job, InputId{"AN1"})->setTo = parts::InputMode::Switch;
    EXPECT_THAT(of(job, "mode-set-otherwise")[0].what, HasSubstr("set to switch, and the sensor needs analog"));
    job::findInput(job, InputId{"AN1"})->setTo.reset();
    EXPECT_TRUE(of(job, "mode-set-otherwise").empty()) << "nothing is known of it";
    job::Job brake = seated("brake", "switch-ground", "AN1");
    EXPECT_EQ(job::findInput(brake, InputId{"AN1"})->setTo, parts::InputMode::Switch);
    job::findInput(brake, InputId{"AN1"})->setTo = parts::InputMode::Analog;
    EXPECT_TRUE(of(brake, "mode-set-otherwise").empty()) << "two voltages tell on from off as well";
}

TEST(SeatFindings, TheSupplyBudgetIsTheNetworks)
{
    job::Job job = seated("map", "map-3bar", "AN1");
    EXPECT_TRUE(of(job, "supply-budget").empty());
    job.ecu.supply.limit_a = 0.005; // 5 V over 900 Ohm is 5.6 mA
    EXPECT_THAT(of(job, "supply-budget")[0].what, HasSubstr("6 mA of 5 mA"));
}

TEST(SeatFindings, ARangeThatIsTooShortIsSaidBeforeItIsBought)
{
    job::Job job = seated("map", "map-2b5", "AN1");
    job.brief.emplace();
    job.brief->aspiration = job::Aspiration::Turbo;
    job.brief->target_pa = 100e3;
    EXPECT_TRUE(of(job, "range-short").empty());
    job.brief->target_pa = 160e3;
    EXPECT_THAT(of(job, "range-short")[0].what, HasSubstr("overshoot"));
}

TEST(SeatFindings, AWidebandGroundedElsewhereIsSaid)
{
    EXPECT_THAT(of(test::petrel(), "wideband-ground")[0].what,
                testing::AllOf(HasSubstr("chassis"), HasSubstr("block")));
    job::Job same = test::petrel();
    for (job::Joint& j : same.joints)
        if (j.id == "G2")
            j.body = "block";
    EXPECT_TRUE(of(same, "wideband-ground").empty());
}

TEST(SeatFindings, CurlewAndPetrelHaveASeatForAllTheyRequire)
{
    for (const char* name : {"petrel", "curlew"}) {
        const auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + name + ".vicegrip");
        ASSERT_TRUE(job) << job.error().text();
        for (const char* rule :
             {"unseated", "input-mode", "input-function", "over-volts", "over-frequency", "pull-up-missing",
              "pull-up-doubled", "range-short", "supply-budget", "open-conductor"})
            EXPECT_TRUE(of(*job, rule).empty()) << name << " " << rule;
        for (const brief::Consequence& c : brief::consequences(*job, *job->brief))
            EXPECT_THAT(c.standing, testing::AnyOf(brief::Standing::There, brief::Standing::Own))
                << name << " " << c.name;
    }
}

} // namespace
} // namespace vicegrip::findings
