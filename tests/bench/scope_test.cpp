#include "bench/control.h"
#include "bench/scpi.h"
#include "core/decoded/decoded.h"
#include "core/electrics/readings.h"
#include "core/trigger/cam.h"
#include "tests/support/petrel.h"

#include <QtEndian>

#include <algorithm>
#include <cmath>
#include <gmock/gmock.h>

/// The bench's scope: what it sees of a wheel while the engine turns, with and without faults.
namespace vicegrip::bench {
namespace {

QByteArray asked(Car& car, const QByteArray& request)
{
    Drives drives;
    return control(car, drives, request);
}

using testing::AnyOf;
using testing::HasSubstr;

const job::CircuitId kCrank{"crank"}, kCam{"cam"};
constexpr double kStep_s = 2e-5;

job::Circuit& circuit(job::Job& job, const job::CircuitId& id)
{
    return *job::find(job, id);
}

/// Petrel with its crank sensor turned in.
job::Job petrel()
{
    job::Job job = test::petrel();
    circuit(job, kCrank).trigger->gap_m = 1.2e-3;
    return job;
}

/// Petrel with a coil at its crank, on the ECU's own input for coils where there is one.
job::Job withCoil()
{
    job::Job job = petrel();
    const job::Device& device = *job::find(job, circuit(job, kCrank).device);
    const auto part = std::ranges::find(job.parts, device.part, &parts::Part::id);
    part->model = parts::VariableReluctance{.coil_ohm = 850, .coil_h = 0.4, .peak_v = 60};
    part->pins = {{"2", parts::PinRole::Signal}, {"3", parts::PinRole::Ground}};
    if (parts::EcuInput* input = job::findInput(job, circuit(job, kCrank).input)) {
        input->variableReluctance = true;
        input->pull_up_ohm.reset();
    }
    return job;
}

struct Seen
{
    std::vector<float> crank, cam;
};

Seen see(Car& car, job::Condition condition, double seconds = 2)
{
    const job::Job& job = car.job();
    EXPECT_TRUE(car.setCondition(condition));
    std::vector<electrics::Leads> leads;
    for (const job::CircuitId& id : {kCrank, kCam})
        leads.push_back(*electrics::leadsAtInput(job, *job::find(job, id)));
    EXPECT_TRUE(car.putTips(leads));
    auto seen = car.scope(kStep_s, static_cast<size_t>(seconds / kStep_s));
    EXPECT_TRUE(seen) << seen.error().text();
    return seen ? Seen{(*seen)[0], (*seen)[1]} : Seen{};
}

Result<trigger::Look> look(const std::vector<float>& volts, bool coil = false)
{
    trigger::Known known;
    known.wheel = *trigger::readWheel("36-1");
    known.rising = false;
    return trigger::lookAt(volts, kStep_s, known, coil);
}

std::string wrongWith(const faults::FaultList& faults, bool coil = false)
{
    Car car(coil ? withCoil() : petrel(), faults);
    const Seen seen = see(car, job::Condition::Cranking);
    const auto looked = look(seen.crank, coil);
    if (!looked)
        return looked.error().sentence;
    trigger::Wanted wanted;
    wanted.wheel = "36-1";
    wanted.rising = false;
    std::string out;
    for (const trigger::Verdict& v : trigger::verdicts(*looked, wanted, trigger::Scale::Volts))
        if (v.grade == trigger::Grade::Bad)
            out += v.what + ": " + v.is + "; ";
    return out;
}

TEST(Scope, SeesAWheelThatDecodesWithMargin)
{
    EXPECT_EQ(wrongWith({}), "");
    EXPECT_EQ(wrongWith({}, true), "") << "a coil";
    Car car(petrel(), {});
    const Seen seen = see(car, job::Condition::Running);
    const auto looked = look(seen.crank);
    ASSERT_TRUE(looked) << looked.error().text();
    const double turns = car.engine().plant().rpm();
    EXPECT_NEAR(looked->report.rpm, turns, 5);
    EXPECT_NEAR(car.countedRpm(), turns, 5);
    EXPECT_NEAR(turns, 850, 150);
    const auto levels = trigger::levelsOf(seen.cam);
    ASSERT_TRUE(levels);
    const auto beside =
        trigger::camBeside(looked->report, trigger::timesOf(trigger::edgesIn(seen.cam, *levels, kStep_s), false));
    ASSERT_TRUE(beside) << beside.error().text();
    EXPECT_TRUE(beside->tellsTurn) << "both channels are of one moment";
}

/// The levels are the network's own: those that a meter must read by hand, and another solver agrees on
/// (hand_test_test.cpp).
TEST(Scope, ShowsTheLevelsOfTheNetwork)
{
    const job::Job job = petrel();
    Car car(job, {});
    const Seen seen = see(car, job::Condition::Cranking);
    const auto [least, most] = std::ranges::minmax(seen.crank);
    EXPECT_LT(least, 0.25) << "a tooth: common practice, no source";
    EXPECT_NEAR(most, 5, 0.2) << "a gap: its pull-up's supply";
    Car still(job, {});
    const Seen none = see(still, job::Condition::KeyOn);
    EXPECT_LT(std::ranges::max(none.crank) - std::ranges::min(none.crank), 0.1) << "it stands";
    EXPECT_EQ(still.countedRpm(), 0);
    ASSERT_TRUE(still.turn(2.5)); // by hand, a tooth before it
    EXPECT_LT(std::ranges::max(see(still, job::Condition::KeyOn, 0.01).crank), 0.25) << "as a meter reads it";
}

TEST(Scope, EveryFaultOfAWheelIsSeen)
{
    using namespace faults;
    EXPECT_THAT(wrongWith({WheelOff{kCrank, 4e-3, 0, {}}}), HasSubstr("Levels")) << "too far";
    EXPECT_THAT(wrongWith({WheelOff{kCrank, 1.2e-3, 0.6e-3, {}}}), HasSubstr("un-out"));
    EXPECT_NE(wrongWith({WheelOff{kCrank, 1.2e-3, 0, {17}}}), "") << "a chipped tooth";
    EXPECT_NE(wrongWith({SwappedCavities{"CRANK", {"1", "3"}}}), "") << "supply and ground exchanged";
    EXPECT_NE(wrongWith({SwappedCavities{"CRANK", {"2", "3"}}}, true), "") << "a coil's wires exchanged";
    EXPECT_NE(wrongWith({WheelOff{kCrank, 1.2e-3, 0.4e-3, {}}}, true), "") << "a coil's wheel runs out";
    EXPECT_NE(wrongWith({NoisySignal{kCrank, 0.9, 0, 0}}), "");
    EXPECT_NE(wrongWith({NoisySignal{kCrank, 0, -4.8, 0}}), "");
    EXPECT_NE(wrongWith({NoisySignal{kCrank, 0, 0, 4}}), "") << "its wire lets go";
}

TEST(Scope, ABeltThatSwingsScattersTheCam)
{
    const auto scatter = [](const faults::FaultList& faults) {
        Car car(petrel(), faults);
        const Seen seen = see(car, job::Condition::Running, 6);
        const auto beside = trigger::camBeside(
            look(seen.crank)->report,
            trigger::timesOf(trigger::edgesIn(seen.cam, *trigger::levelsOf(seen.cam), kStep_s), false));
        EXPECT_TRUE(beside);
        return beside ? std::pair(beside->edges.front().angle_deg, beside->edges.front().scatter_deg)
                      : std::pair(0.0, 0.0);
    };
    const auto good = scatter({}), slack = scatter({faults::SlackBelt{kCam, 4, 2}});
    EXPECT_LT(good.second, 0.2);
    EXPECT_GT(slack.second, 0.4);
    EXPECT_NEAR(std::remainder(slack.first - good.first, 360), 4, 1);
}

/// A coil between its ohms and its input's: by voltage division, where no other path leads.
TEST(Scope, ACoilDividesIntoItsInput)
{
    job::Job job = withCoil();
    Car car(job, {});
    const Seen seen = see(car, job::Condition::Cranking);
    const double loaded = std::ranges::max(seen.crank);
    const auto part = std::ranges::find_if(
        job.parts, [](const parts::Part& p) { return std::holds_alternative<parts::VariableReluctance>(p.model); });
    std::get<parts::VariableReluctance>(part->model).coil_ohm = 8500;
    Car weak(job, {});
    EXPECT_LT(std::ranges::max(see(weak, job::Condition::Cranking).crank), loaded);
}

/// An ECU that counts the wrong edge of a coil, or sees no tooth, tells no speed.
TEST(Scope, TheEcuCountsWhatItsEdgeDecodes)
{
    const auto counted = [](job::Job job, const faults::FaultList& faults) {
        Car car(std::move(job), faults);
        EXPECT_TRUE(car.setCondition(job::Condition::Cranking));
        return car.countedRpm();
    };
    EXPECT_NEAR(counted(petrel(), {}), 200, 10);
    EXPECT_EQ(counted(petrel(), {faults::WheelOff{kCrank, 4e-3, 0, {}}}), 0);
    EXPECT_EQ(counted(petrel(), {faults::NoisySignal{kCrank, 0, 0, 40}}), 0);
    EXPECT_NEAR(counted(withCoil(), {}), 200, 10);
    EXPECT_EQ(counted(withCoil(), {faults::WrongEdge{kCrank}}), 0);
}

// IEEE 488.2, 8.7.9: #, how many digits, how many bytes. SCPI-99: FORMat REAL,32, the first byte first.
TEST(Scope, AnswersInBlocks)
{
    Car car(petrel(), {});
    EXPECT_EQ(asked(car, R"({"tips": [["CRANK.2", "BAT-"]]})").contains("error"), false);
    EXPECT_THAT(asked(car, R"({"tips": [["A.99", "BAT-"]]})").toStdString(), HasSubstr("A.99"));
    EXPECT_THAT(asked(car, R"({"tips": [[],[],[],[],[],[],[],[],[]]})").toStdString(),
                AnyOf(HasSubstr("eight"), HasSubstr("no place")));
    Scope scope(car);
    EXPECT_TRUE(scope.execute("FORMAT REAL,32;FORM:BORD NORM;sense:sweep:tinterval 1E-4;SWE:POIN 500;INIT").isEmpty());
    EXPECT_EQ(scope.execute("SYST:ERR?").value(0).bytes, "0,\"No error\"");
    EXPECT_NEAR(scope.execute("SENS:SWE:TINT?").value(0).bytes.toDouble(), 1e-4, 1e-12);
    const auto fetched = scope.execute("FETCh:ARRay:VOLTage? (@1)");
    ASSERT_EQ(fetched.size(), 1);
    EXPECT_TRUE(fetched[0].isBlock);
    ASSERT_EQ(fetched[0].bytes.size(), 2000);
    for (int i = 0; i < 500; ++i)
        EXPECT_LT(std::abs(qFromBigEndian<float>(fetched[0].bytes.constData() + 4 * i)), 20);
    for (const char* wrong :
         {"SWE:POIN 1e9", "SWE:TINT 0", "FETC:ARR:VOLT? (@2)", "FETC:ARR:VOLT? (@x)", "SWE:DANCE"}) {
        EXPECT_TRUE(scope.execute(wrong).isEmpty());
        EXPECT_TRUE(scope.execute("SYST:ERR?").value(0).bytes.startsWith('-')) << wrong;
    }
    Car bare(petrel(), {});
    Scope idle(bare);
    EXPECT_TRUE(idle.execute("INIT").isEmpty());
    EXPECT_EQ(idle.execute("SYST:ERR?").value(0).bytes, "-221,\"Settings conflict\"");
}

} // namespace
} // namespace vicegrip::bench
