#include "core/brief/air_method.h"
#include "core/brief/harness_kind.h"
#include "core/brief/needs.h"
#include "core/brief/questions.h"
#include "core/brief/siting.h"
#include "core/job/check.h"
#include "core/job/json.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <set>

namespace vicegrip::brief {
namespace {

using testing::AllOf;
using testing::HasSubstr;
using testing::Not;

const Need* need(const std::vector<Need>& all, const char* function)
{
    const auto it = std::ranges::find(all, job::FunctionId{function}, &Need::function);
    return it == all.end() ? nullptr : &*it;
}

const Consequence& consequence(const std::vector<Consequence>& all, const char* function)
{
    static const Consequence kNone;
    for (const Consequence& c : all)
        if (c.function.value == function)
            return c;
    ADD_FAILURE() << "no " << function;
    return kNone;
}

job::Brief turbo()
{
    job::Brief b;
    b.aspiration = job::Aspiration::Turbo;
    b.target_pa = 120e3;
    return b;
}

void applied(job::Job& job, const job::Brief& facts)
{
    const auto drawn = job.brief ? job.brief->drawn : std::vector<std::string>{};
    job.brief = facts;
    job.brief->drawn = drawn;
    EXPECT_TRUE(apply(job, test::library()));
}

TEST(Needs, SpeedDensityNeedsPressureAndTemperatureWithReasons)
{
    const auto all = needs(job::Brief{});
    for (const char* f : {"crank", "map", "iat", "tps", "clt"}) {
        ASSERT_NE(need(all, f), nullptr) << f;
        EXPECT_EQ(need(all, f)->want, job::Want::Required) << f;
        EXPECT_FALSE(need(all, f)->reason.empty());
        EXPECT_FALSE(need(all, f)->askedBy.empty());
    }
    EXPECT_EQ(need(all, "maf"), nullptr);
    EXPECT_EQ(need(all, "flex"), nullptr);
    EXPECT_TRUE(std::ranges::is_sorted(all, {}, &Need::want)) << "required first";
}

TEST(Needs, EveryFunctionIsAskedForOnce)
{
    job::Brief b = turbo();
    b.airMethod = job::AirMethod::Hybrid;
    b.throttle = job::ThrottleKind::ByWire;
    b.fuel = job::Fuel::Flex;
    b.gearbox = job::Gearbox::Automatic;
    b.chargeCooling = job::ChargeCooling::Water;
    b.altitude_m = 2000;
    b.watch = {"oil-temp", "egt", "oil-pressure"};
    const auto all = needs(b);
    std::set<std::string> seen;
    for (const Need& n : all) {
        EXPECT_TRUE(seen.insert(n.function.value).second) << n.function.value;
        EXPECT_NE(findFunction(n.function), nullptr) << n.function.value;
    }
    for (const char* f : {"maf", "map", "pedal1", "pedal2", "tps2", "brake", "flex", "charge-pressure", "baro",
                          "gearbox-temp", "charge-coolant", "egt"})
        EXPECT_TRUE(seen.contains(f)) << f;
}

TEST(Needs, TheStrongerReasonStands)
{
    job::Brief b;
    b.airMethod = job::AirMethod::MassAir;
    EXPECT_EQ(need(needs(b), "iat")->want, job::Want::Wanted);
    b.aspiration = job::Aspiration::Turbo;
    EXPECT_EQ(need(needs(b), "iat")->want, job::Want::Required);
    EXPECT_EQ(need(needs(b), "iat")->askedBy, "aspiration");
}

TEST(Brief, ApplyingItDrawsWhatIsMissingAndNothingTwice)
{
    job::Job job = test::jobOn("large-free");
    applied(job, turbo());
    EXPECT_EQ(job.circuits.size(), needs(turbo()).size());
    EXPECT_TRUE(job::check(job)) << job::check(job).error().text();
    const job::Job once = job;
    applied(job, turbo());
    EXPECT_EQ(job, once);
    for (const job::Connector& c : job.connectors)
        EXPECT_TRUE(c.layout) << c.id << ": a face is proposed for every plug";
    EXPECT_NEAR(job::find(job, job::CircuitId{"clt"})->scaling.high, 403.15, 1e-9)
        << "where coolant must be read finely";
    // The pressure sensor is the advisor's: 101 kPa + 120 kPa + 20 kPa of overshoot leave 2.5 bar too little headroom.
    EXPECT_EQ(job::sensorOf(job, *job::find(job, job::CircuitId{"map"}))->high, 300e3);
}

TEST(Brief, AChangeIsShownBeforeItIsMade)
{
    job::Job job = test::jobOn("large-free");
    applied(job, turbo());
    job::Brief changed = *job.brief;
    changed.airMethod = job::AirMethod::MassAir;
    changed.aspiration = job::Aspiration::Natural;
    changed.target_pa = 0;
    const job::Job before = job;
    const auto preview = consequences(job, changed);
    EXPECT_EQ(job, before);
    EXPECT_EQ(consequence(preview, "maf").standing, Standing::Added);
    EXPECT_EQ(consequence(preview, "oil-pressure").standing, Standing::Leaving);
    EXPECT_EQ(consequence(preview, "clt").standing, Standing::There);
    changed.kept = {"oil-pressure"};
    EXPECT_EQ(consequence(consequences(job, changed), "oil-pressure").standing, Standing::Kept);
    applied(job, changed);
    EXPECT_NE(job::find(job, job::CircuitId{"oil-pressure"}), nullptr) << "kept";
    EXPECT_NE(job::find(job, job::CircuitId{"maf"}), nullptr);
    EXPECT_EQ(job::find(job, job::CircuitId{"map"}), nullptr) << "nothing asks for it any more";
}

TEST(Brief, WhatTheUserTookOutDoesNotComeBack)
{
    job::Job job = test::jobOn("large-free");
    applied(job, turbo());
    EXPECT_TRUE(decline(job, job::CircuitId{"oil-pressure"}));
    EXPECT_EQ(job::find(job, job::CircuitId{"oil-pressure"}), nullptr);
    job::Brief again = *job.brief;
    again.altitude_m = 500;
    EXPECT_EQ(consequence(consequences(job, again), "oil-pressure").standing, Standing::Declined);
    applied(job, again);
    EXPECT_EQ(job::find(job, job::CircuitId{"oil-pressure"}), nullptr);
}

TEST(Brief, AltitudeSetsTheBarometer)
{
    job::Job job = test::jobOn("large-free");
    setAltitude(job, 500);
    EXPECT_EQ(job.brief->altitude_m, 500);
    EXPECT_NEAR(job.surroundings.barometer_pa, 95461, 10) << "ISO 2533 at 500 m, from memory";
}

TEST(Brief, AUsersOwnCircuitIsLeftAlone)
{
    job::Job job = test::jobOn("large-free");
    test::add(job, "egt", "egt-0-5v", job::Want::Wanted);
    applied(job, turbo());
    EXPECT_NE(job::find(job, job::CircuitId{"egt"}), nullptr);
    EXPECT_EQ(consequence(consequences(job, turbo()), "egt").standing, Standing::Own);
}

TEST(Brief, SurvivesItsFile)
{
    job::Job job = test::jobOn("plug-in-60");
    job::Brief b = turbo();
    b.displacement_m3 = 2.198e-3;
    b.fuel = job::Fuel::Flex;
    b.watch = {"oil-temp"};
    b.tuner = "by mail";
    b.answers = {{"who", "logs"}};
    b.prices.hour = 72.5;
    b.extra["later"] = 1;
    applied(job, b);
    EXPECT_TRUE(decline(job, job::CircuitId{"cam"}));
    EXPECT_TRUE(harness::seat(job, job::CircuitId{"map"}, parts::InputId{"MAP"}));
    const auto back = job::read(job::write(job));
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(job::write(*back), job::write(job)) << "to the digits of the file";
    EXPECT_EQ(back->brief, job.brief);
}

TEST(Brief, NonsenseIsSaidAtItsField)
{
    struct Case
    {
        const char* field;
        void (*spoil)(job::Brief&);
        const char* says;
    };
    for (const Case& c : {
             Case{"cylinders", [](job::Brief& b) { b.cylinders = 0; }, "1 to 16"},
             Case{"displacement_l", [](job::Brief& b) { b.displacement_m3 = 0.1; }, "a cylinder"},
             Case{"target_kpa", [](job::Brief& b) { b.target_pa = -200e3; }, "vacuum"},
             Case{"target_kpa", [](job::Brief& b) { b.aspiration = job::Aspiration::Turbo; }, "above 0"},
             Case{"altitude_m", [](job::Brief& b) { b.altitude_m = 21900; }, "6000 m"},
             Case{"altitude_m", [](job::Brief& b) { b.altitude_m = std::nan(""); }, "6000 m"},
             Case{"fuel_kpa", [](job::Brief& b) { b.fuel_pa = 0; }, "50 to 2000"},
             Case{"watch", [](job::Brief& b) { b.watch = {"moon"}; }, "moon"},
         }) {
        job::Brief b;
        c.spoil(b);
        const auto found = nonsense(b);
        ASSERT_EQ(found.size(), 1U) << c.field << " " << c.says;
        EXPECT_EQ(found[0].field, c.field);
        EXPECT_THAT(found[0].sentence, HasSubstr(c.says));
    }
    EXPECT_TRUE(nonsense(turbo()).empty());
}

TEST(AirMethods, EachNamesItsCircuitsAndWhatIsMissing)
{
    job::Job job = test::jobOn("large-free");
    applied(job, job::Brief{});
    const auto all = airMethods(job, *job.brief);
    ASSERT_EQ(all.size(), 4U);
    EXPECT_TRUE(all[0].chosen);
    EXPECT_THAT(all[0].needs, testing::UnorderedElementsAre(job::FunctionId{"map"}, job::FunctionId{"iat"}));
    EXPECT_TRUE(all[0].missing.empty());
    EXPECT_THAT(all[1].missing, testing::ElementsAre(job::FunctionId{"maf"}));
    EXPECT_THAT(airMethods(job, turbo())[3].here, HasSubstr("Not with boost"));
}

// m = VE p V / (R T), so dm/m = dp/p and -dT/T: 1 % of a 3 bar span is 3 kPa, at 35 kPa that is 8.6 % (by hand).
TEST(AirMethods, ASensorsErrorCostsWhatTheIdealGasSays)
{
    job::Job job = test::jobOn("large-free");
    applied(job, turbo());
    const auto errors = fuellingErrors(job, turbo(), test::library());
    ASSERT_EQ(errors.size(), 3U);
    EXPECT_NEAR(errors[0].share, 3.0 / 35, 1e-9);
    EXPECT_NEAR(errors[1].share, 3e3 / (101325 + 120e3), 1e-9);
    // 2 % of the resistance at 40 °C with beta 3500 K: dT = 0.02 T^2 / B = 0.56 K, 0.18 % (by hand).
    EXPECT_NEAR(errors[2].share, 0.02 * 313.15 / 3500, 1e-4);
}

// By hand: 0.95 * 101325 Pa * 2 l / (287.05 * 313.15 K) * 6500 / 120 = 0.1160 kg/s.
TEST(AirMethods, FullLoadAirIsTheIdealGas)
{
    EXPECT_NEAR(fullLoadAir(job::Brief{}), 0.1160, 2e-4);
}

TEST(HarnessOptions, AboutHalfOfEightHandTapsAreRevisited)
{
    job::Job job = test::jobOn("mid-fixed");
    for (int i = 0; i < 8; ++i)
        test::add(job, "clt", "ntc-2k2");
    const auto options = harnessOptions(job, job::Brief{});
    EXPECT_NEAR(options[1].rework, 0.5, 1e-9); // common practice, no source
    EXPECT_EQ(options[1].joints, 8);
    EXPECT_LT(options[0].rework, options[1].rework);
    EXPECT_GT(options[2].hours, options[1].hours);
    EXPECT_TRUE(options[2].chosen);
}

TEST(HarnessOptions, PricesAreTheUsers)
{
    job::Job job = test::jobOn("mid-fixed");
    test::add(job, "clt", "ntc-2k2");
    job::Brief b;
    b.prices = {};
    b.prices.hour = 0;
    b.prices.tap = 7;
    b.prices.metre = 2;
    EXPECT_NEAR(harnessOptions(job, b)[1].money, 7 + 2 * harness::kPlannedLength_m, 1e-9);
}

TEST(HarnessOptions, APlugInUnitIsNotAdapted)
{
    const auto options = harnessOptions(test::jobOn("plug-in-60"), job::Brief{});
    EXPECT_FALSE(options[0].possible);
    EXPECT_FALSE(options[2].possible);
    EXPECT_TRUE(options[1].possible);
}

TEST(Siting, EveryFunctionHasAPlaceAndFuelHasItsCaution)
{
    for (const Function& f : functions()) {
        const SitingCard card = sitingOf({std::string(f.id)});
        EXPECT_FALSE(card.places.empty()) << f.id;
        EXPECT_EQ(card.schools.empty(), card.question.empty()) << f.id;
    }
    for (const char* fuel : {"flex", "fuel-pressure", "fuel-level"})
        EXPECT_THAT(sitingOf({fuel}).caution, HasSubstr("licensed")) << fuel;
    for (const char* fed : {"inj1", "fuel-pump"})
        EXPECT_THAT(sitingOf({fed}).caution, HasSubstr("licensed")) << fed;
    EXPECT_THAT(sitingOf({"ign1"}).caution, HasSubstr("kilovolts"));
    EXPECT_GE(sitingOf({"flex"}).schools.size(), 4U) << "both schools, each with its reason";
}

TEST(Questions, FollowFromTheChoicesAndAreClosedByAnswers)
{
    job::Job job = test::jobOn("large-free");
    job.brief = job::Brief{};
    const int plain = openQuestions(job);
    job.brief = turbo();
    job.brief->fuel = job::Fuel::Flex;
    const int open = openQuestions(job);
    EXPECT_EQ(open, plain + 3) << "boost, fuel, baseline";
    for (const Question& q : questions(*job.brief, job))
        job.brief->answers[q.id] = "yes";
    EXPECT_EQ(openQuestions(job), 0);
}

/// Which edge of a wheel counts, and what its input must do, follows from the sensor (common practice, no source).
TEST(Questions, OfTheWheelSayWhatTheSensorSettles)
{
    const auto why = [](const job::Job& job) {
        for (const Question& q : questions(job.brief.value_or(job::Brief{}), job))
            if (q.id == "wheel")
                return q.why;
        return std::string();
    };
    EXPECT_THAT(why(test::jobOn("large-free")), Not(HasSubstr("edge"))) << "no sensor yet";
    EXPECT_THAT(why(test::petrel()), AllOf(HasSubstr("falling"), HasSubstr("pull-up")));
    job::Job coil = test::petrel();
    for (auto& part : coil.parts)
        if (part.kind == parts::PartUse::CrankTrigger) {
            const parts::PartId id = part.id; // that the device is of
            part = *parts::find(test::library(), parts::PartId{"vr-crank"});
            part.id = id;
        }
    EXPECT_THAT(why(coil), AllOf(HasSubstr("falling"), HasSubstr("conditioner"), HasSubstr("positive")));
}

} // namespace
} // namespace vicegrip::brief
