#include "core/stream/stream.h"

#include "tests/support/petrel.h"

#include <cmath>
#include <gmock/gmock.h>
#include <random>

namespace vicegrip::stream {
namespace {

using job::Tells;
using testing::ElementsAre;
using testing::IsEmpty;

std::shared_ptr<const dbc::Database> databaseOf(const std::string& file)
{
    auto read = dbc::readFile(std::string(VICEGRIP_SOURCE_DIR) + file);
    EXPECT_TRUE(read) << read.error().text();
    EXPECT_THAT(read->remarks, IsEmpty());
    return std::make_shared<const dbc::Database>(read->database);
}

std::shared_ptr<const dbc::Database> databaseFrom(const std::string& text)
{
    auto read = dbc::read(text);
    EXPECT_TRUE(read) << read.error().text();
    return std::make_shared<const dbc::Database>(read->database);
}

const auto kOther = "/tests/data/links/other_unit.dbc";

std::vector<Matched> match(const job::Job& job, const std::shared_ptr<const dbc::Database>& database)
{
    return Matcher(database).match(job);
}

std::vector<Candidate> candidates(const job::Job& job, const job::Circuit& circuit,
                                  const std::shared_ptr<const dbc::Database>& database)
{
    return Matcher(database).candidates(job, circuit);
}

/// What a job is told by whom, as "clt value ECT".
std::set<std::string> said(const std::vector<Matched>& matched)
{
    std::set<std::string> out;
    for (const Matched& m : matched)
        out.insert(m.circuit.value + " " + std::string(fields::enumName(m.told.tells)) + " " + m.told.signal);
    return out;
}

job::Job matchedPetrel(const std::shared_ptr<const dbc::Database>& database)
{
    job::Job job = test::petrel();
    for (const Matched& m : match(job, database))
        job::find(job, m.circuit)->told.push_back(m.told);
    return job;
}

TEST(Match, AnotherUnitsNamesAreUnderstood)
{
    EXPECT_THAT(said(match(test::petrel(), databaseOf(kOther))),
                ElementsAre("clt value ECT", "clt volts ECT_mV", "fp value FuelPress", "fp volts FuelPressV",
                            "iat value InletAirTmp", "iat volts InletAirTmpV", "map value MAP_kPa",
                            "map volts MapSensVoltage", "oil-pressure counts AN9_Raw", "oil-pressure value EngOilPrs",
                            "ot value OilTemp", "ot volts OilTempV", "tps value TPS_Main", "tps volts TpsMainVolts",
                            "wb value Lambda", "wb volts AN8_Volts"))
        << "the gearbox' has a name of its own";
}

TEST(Match, TwoThatAreAsLikeAreLeftToTheHand)
{
    const auto database = databaseFrom("BO_ 1 A: 8 X\n SG_ CLT : 0|8@1+ (1,0) [0|0] \"C\" Y\n"
                                       "BO_ 2 B: 8 X\n SG_ CoolantTemp : 0|8@1+ (1,0) [0|0] \"C\" Y\n");
    EXPECT_THAT(match(test::petrel(), database), IsEmpty());
    const job::Job job = test::petrel();
    const auto all = candidates(job, *job::find(job, job::CircuitId{"clt"}), database);
    ASSERT_EQ(all.size(), 2U);
    EXPECT_DOUBLE_EQ(all[0].likeness, 1);
    EXPECT_DOUBLE_EQ(all[1].likeness, 1);
}

TEST(Match, TheFirstOfAKindMayHaveNoNumberAndTheSecondHasOne)
{
    const auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip").value();
    const auto database =
        databaseFrom("BO_ 1 A: 8 X\n SG_ TPS2 : 0|8@1+ (1,0) [0|0] \"%\" Y\n"
                     " SG_ TPS : 8|8@1+ (1,0) [0|0] \"%\" Y\n SG_ TPS3 : 16|8@1+ (1,0) [0|0] \"%\" Y\n"
                     " SG_ AccelPedal1 : 24|8@1+ (1,0) [0|0] \"%\" Y\n"
                     " SG_ EGT1 : 32|8@1+ (1,0) [0|0] \"C\" Y\n");
    EXPECT_THAT(said(match(job, database)),
                ElementsAre("pedal1 value AccelPedal1", "tps value TPS", "tps2 value TPS2"));
}

/// A database of a whole car: what it makes of a job is what it makes of the signals one by one.
TEST(Match, TensOfThousandsOfSignals)
{
    std::string text;
    constexpr int kMessages = 1250, kEach = 16;
    for (int m = 0; m < kMessages; ++m) {
        text += "BO_ " + std::to_string(m + 1) + " M" + std::to_string(m) + ": 64 X\n";
        for (int s = 0; s < kEach; ++s)
            text += " SG_ Door" + std::string(1, static_cast<char>('A' + s)) + "Lamp" + std::to_string(m) + " : " +
                    std::to_string(s * 8) + "|8@1+ (1,0) [0|0] \"" + (s % 2 == 0 ? "degC" : "V") + "\" Y\n";
    }
    text += "BO_ 2000 Engine: 8 X\n SG_ CoolantTemp : 0|8@1+ (1,-40) [0|0] \"degC\" Y\n"
            " SG_ CoolantTempVolts : 8|8@1+ (0.02,0) [0|0] \"V\" Y\n";
    const Matcher matcher(databaseFrom(text));
    EXPECT_THAT(said(matcher.match(test::petrel())),
                ElementsAre("clt value CoolantTemp", "clt volts CoolantTempVolts"));
    const job::Job job = test::petrel();
    const auto all = matcher.candidates(job, *job::find(job, job::CircuitId{"clt"}));
    ASSERT_EQ(all.size(), static_cast<size_t>(kMessages * kEach + 2));
    EXPECT_EQ(all.front().signal->name, "CoolantTemp");
}

TEST(Match, AUnitOfSomethingElseIsNoCandidate)
{
    const auto database = databaseFrom("BO_ 1 A: 8 X\n SG_ CLT : 0|8@1+ (1,0) [0|0] \"kPa\" Y\n");
    EXPECT_THAT(match(test::petrel(), database), IsEmpty());
    const job::Job job = test::petrel();
    EXPECT_THAT(candidates(job, *job::find(job, job::CircuitId{"clt"}), database), IsEmpty());
    EXPECT_THAT(candidates(job, *job::find(job, job::CircuitId{"inj1"}), database), IsEmpty()) << "it is driven";
}

/// Encodes values by their signals and hears them again: every unit, both byte orders, pages of one message.
TEST(Listener, HearsInSiWhatWasSentInTheDatabasesUnits)
{
    const auto database = databaseOf(kOther);
    const job::Job job = matchedPetrel(database);
    const Listener listener(database, earsOf(job));
    EXPECT_THAT(listener.missing(), IsEmpty());
    const auto hears = [&](const char* message, const std::vector<std::pair<const char*, double>>& sent) {
        const auto m = std::ranges::find(database->messages(), message, &dbc::Message::name);
        std::vector<std::uint8_t> data(static_cast<size_t>(m->bytes));
        for (const auto& [name, value] : sent) {
            const auto s = std::ranges::find(m->carries, name, &dbc::Signal::name);
            dbc::put(*s, dbc::rawFor(*s, value), data);
        }
        std::vector<dbc::Value> values;
        std::vector<Heard> out;
        const Frame frame = listener.hear(7, m->id, m->extended, data, values, out);
        EXPECT_TRUE(frame.known);
        EXPECT_EQ(frame.outside, "");
        std::map<std::string, double> told;
        for (const Heard& h : out) {
            EXPECT_EQ(h.time_s, 7);
            told[job::inputs(job)[static_cast<size_t>(h.input)]->id.value + " " +
                 std::string(fields::enumName(h.tells))] = h.value;
        }
        return told;
    };
    using Told = std::map<std::string, double>;
    const auto near = [](const Told& is, const Told& must) {
        EXPECT_EQ(is.size(), must.size());
        for (const auto& [what, value] : must)
            EXPECT_NEAR(is.contains(what) ? is.at(what) : NAN, value, std::abs(value) * 1e-9 + 1e-9) << what;
    };
    near(hears("EngineFast",
               {{"MAP_kPa", 99.9}, {"TPS_Main", -2.5}, {"TpsMainVolts", 0.512}, {"MapSensVoltage", 4.096}}),
         {{"AN1 value", 99900}, {"AN2 value", -0.025}, {"AN2 volts", 0.512}, {"AN1 volts", 4.096}});
    near(hears("SlowPages", {{"Page", 0}, {"ECT", 85}, {"ECT_mV", 1204}, {"InletAirTmp", -12}, {"InletAirTmpV", 3.1}}),
         {{"AN3 value", 358.15}, {"AN3 volts", 1.204}, {"AN4 value", 261.15}, {"AN4 volts", 3.1}});
    near(hears("SlowPages", {{"Page", 1}, {"OilTemp", 101.5}, {"OilTempV", 0.7}}),
         {{"AN6 value", 374.65}, {"AN6 volts", 0.7}});
    near(hears("SlowPages", {{"Page", 2}, {"FuelPress", 300}, {"FuelPressV", 1.83}, {"EngOilPrs", 4.5}}),
         {{"AN5 value", 300000}, {"AN5 volts", 1.83}, {"AN9 value", 450000}});
    near(hears("SlowPages", {{"Page", 3}, {"Lambda", 0.985}, {"AN8_Volts", 2.2}, {"AN9_Raw", 1234}}),
         {{"AN8 value", 0.985}, {"AN8 volts", 2.2}, {"AN9 counts", 1234}});
    near(hears("EngineState", {{"RPM", 900}}), {});
    near(hears("SlowPages", {{"Page", 9}}), {});
}

TEST(Listener, WhatIsOutsideItsRangeTooShortOrForeignTellsNothing)
{
    const auto database = databaseOf(kOther);
    const Listener listener(database, earsOf(matchedPetrel(database)));
    std::vector<dbc::Value> values;
    std::vector<Heard> out;
    const std::vector<std::uint8_t> mad(8, 0xff), few(3, 0);
    const Frame outside = listener.hear(0, 1600, false, mad, values, out);
    EXPECT_TRUE(outside.known);
    EXPECT_EQ(outside.outside, "TpsMainVolts") << "the last of those that are listened for";
    EXPECT_THAT(out, ElementsAre(testing::Field(&Heard::value, testing::DoubleNear(-0.001, 1e-9))))
        << "a throttle of -0.1 % is within its own";
    out.clear();
    EXPECT_EQ(listener.hear(0, 1600, false, few, values, out).tooShort, "EngineFast");
    EXPECT_FALSE(listener.hear(0, 1600, true, mad, values, out).known) << "29 bits are another message";
    EXPECT_FALSE(listener.hear(0, 1, false, mad, values, out).known);
    EXPECT_THAT(out, IsEmpty());
    EXPECT_FALSE(Listener().hear(0, 1600, false, mad, values, out).known);
}

TEST(Listener, AMovedSeatALostSignalAndAWrongUnitAreNotListenedFor)
{
    const auto database = databaseOf(kOther);
    job::Job job = matchedPetrel(database);
    const size_t before = earsOf(job).size();
    job::Circuit& clt = *job::find(job, job::CircuitId{"clt"});
    ASSERT_EQ(clt.told.size(), 2U);
    clt.input = parts::InputId{"AN10"};
    EXPECT_EQ(earsOf(job).size(), before - 2) << "it was told on another input";
    clt.input = parts::InputId{"AN3"};
    clt.told[0].signal = "Gone";
    clt.told[1].unit = "kPa";
    EXPECT_EQ(Listener(database, earsOf(job)).missing().size(), 2U);
}

TEST(Listener, AUnitThatIsSaidByHandGoesBeforeTheDatabases)
{
    const auto database = databaseFrom("BO_ 1 A: 8 X\n SG_ CLT : 0|8@1+ (1,0) [0|0] \"\" Y\n");
    job::Job job = matchedPetrel(database);
    const auto heard = [&] {
        std::vector<dbc::Value> values;
        std::vector<Heard> out;
        const std::vector<std::uint8_t> data = {212, 0, 0, 0, 0, 0, 0, 0};
        (void)Listener(database, earsOf(job)).hear(0, 1, false, data, values, out);
        return out.empty() ? NAN : out.front().value;
    };
    EXPECT_NEAR(heard(), 485.15, 1e-9) << "of no unit: as the ECU's own table has it, °C";
    job::find(job, job::CircuitId{"clt"})->told.front().unit = "°F";
    EXPECT_NEAR(heard(), 373.15, 1e-9);
}

TEST(Listener, TheBenchIsHeardByTheDatabaseThatShips)
{
    const auto database = databaseOf("/data/links/bench.dbc");
    const job::Job job = test::petrel();
    const Listener listener(database, benchEars(job));
    EXPECT_THAT(listener.missing(), IsEmpty());
    // counts 2048, 2.5 V, and no value: not a number (IEEE 754 binary32, quiet)
    const std::vector<std::uint8_t> data = {0x08, 0x00, 0x27, 0x10, 0x7f, 0xc0, 0x00, 0x00};
    std::vector<dbc::Value> values;
    std::vector<Heard> out;
    EXPECT_TRUE(listener.hear(0, 0x502, false, data, values, out).known);
    ASSERT_EQ(out.size(), 3U);
    for (const Heard& h : out) {
        EXPECT_EQ(h.input, 2);
        if (h.tells == Tells::Counts) {
            EXPECT_EQ(h.value, 2048);
        } else if (h.tells == Tells::Volts) {
            EXPECT_NEAR(h.value, 2.5, 1e-12);
        } else {
            EXPECT_TRUE(std::isnan(h.value));
        }
    }
}

TEST(Told, IsKeptInTheJobsFile)
{
    job::Job job = matchedPetrel(databaseOf(kOther));
    job.stream = "The other unit";
    job.instrument = "Bench meter";
    job::find(job, job::CircuitId{"clt"})->told.front().unit = "°F";
    const auto again = job::read(job::write(job));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, job);
}

} // namespace
} // namespace vicegrip::stream
