#include "core/base/base.h"
#include "core/stream/stream.h"
#include "tests/support/diagnostic_bus.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// What units say over OBD, told to the circuits of a job as any other stream.
namespace vicegrip::obd {
namespace {

using test::DiagnosticBus;
using test::unitWith;
using testing::Contains;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::IsSupersetOf;

std::shared_ptr<const dbc::Database> database()
{
    return std::make_shared<const dbc::Database>(described());
}

/// Each value decoded from its message is what the standard's formula makes of its bytes.
TEST(ObdDescribed, SaysWhatTheFormulasSay)
{
    const auto all = described();
    for (const Parameter& p : parameters())
        for (const Bytes& data : {Bytes{0, 0}, Bytes{0x7B, 0x01}, Bytes{0xFF, 0xFF}, Bytes{0x1A, 0xF8}}) {
            const auto bytes = std::span(data).first(static_cast<size_t>(p.bytes));
            std::vector<dbc::Value> values;
            dbc::decode(*all.find(kDescribedId, false), asDescribed(p.number, bytes), values);
            ASSERT_EQ(values.size(), 2U) << p.name << ": its number, and itself";
            EXPECT_NEAR(values[1].value, *valueOf(p, bytes), 1e-9) << p.name;
            EXPECT_EQ(values[1].signal->unit, p.unit);
        }
}

TEST(ObdDescribed, CircuitsAreMatchedByTheirWords)
{
    std::set<std::string> said;
    for (const char* file : {"petrel", "curlew"}) {
        const auto job = job::readFile(VICEGRIP_SOURCE_DIR "/data/jobs/" + std::string(file) + ".vicegrip").value();
        for (const stream::Matched& m : stream::Matcher(database()).match(job))
            said.insert(m.circuit.value + " " + std::string(fields::enumName(m.told.tells)) + " " + m.told.signal);
    }
    EXPECT_THAT(said, IsSupersetOf({"clt value CoolantTemp", "iat value IntakeAirTemp", "map value ManifoldPressure",
                                    "tps value Throttle", "ot value OilTemp", "maf value AirMass"}));
}

/// A throttle as a share of its supply reads 10 to 20 % when it is shut (common practice): it is no circuit's value
/// unless a hand says so.
TEST(ObdDescribed, SharesOfASupplyAreNoValues)
{
    const auto job = job::readFile(VICEGRIP_SOURCE_DIR "/data/jobs/curlew.vicegrip").value();
    for (const stream::Matched& m : stream::Matcher(database()).match(job))
        EXPECT_EQ(m.told.signal.find("Share"), std::string::npos) << m.circuit.value << " by " << m.told.signal;
}

TEST(ObdTold, ComesToTheCircuitInSi)
{
    job::Job job = test::petrel();
    const auto described = database();
    for (const stream::Matched& m : stream::Matcher(described).match(job))
        job::find(job, m.circuit)->told.push_back(m.told);
    const stream::Listener listener(described, stream::earsOf(job));
    EXPECT_THAT(listener.missing(), IsEmpty());
    DiagnosticBus bus;
    bus.units.emplace_back(Responder(0x7E8, false),
                           unitWith({{0x05, 83}, {0x0B, 101}, {0x0C, 850}, {0x11, 60}, {0x45, 50}}));
    bus.run(0, 3);
    std::vector<dbc::Value> room;
    std::vector<stream::Heard> heard;
    for (const Bytes& told : bus.told)
        (void)listener.hear(1, kDescribedId, false, told, room, heard);
    const auto of = [&](const char* circuit, double value) {
        const int input = *job::inputIndex(job, job::find(job, job::CircuitId{circuit})->input);
        return Contains(testing::AllOf(testing::Field(&stream::Heard::input, input),
                                       testing::Field(&stream::Heard::value, testing::DoubleNear(value, 1e-9))));
    };
    EXPECT_THAT(heard, of("clt", 83 + 273.15));
    EXPECT_THAT(heard, of("map", 101e3));
    EXPECT_THAT(heard, of("tps", 128 / 255.0)) << "as near to a half as a byte comes";
}

/// With all the values that there are, each is asked for again within a second: a view that shows it is not stale.
TEST(ObdTold, NothingIsOlderThanASecond)
{
    std::map<std::uint8_t, double> all;
    for (const Parameter& p : parameters())
        all[p.number] = 10;
    DiagnosticBus bus;
    bus.units.emplace_back(Responder(0x18DAF110, true), unitWith(all));
    bus.run(0, 6);
    ASSERT_EQ(bus.session.units().begin()->second.values.size(), all.size());
    for (const auto& [number, value] : bus.session.units().begin()->second.values)
        EXPECT_GT(value.time_s, 5.2) << int(number);
    EXPECT_LE(bus.asked_s.size(), 65U) << "ten questions a second";
}

/// A unit that answers the first value of a question only, or no question for several.
TEST(ObdTold, WhoAnswersOneAtATimeIsAskedSo)
{
    for (const bool mute : {false, true}) {
        Responder responder(0x7E8, false);
        auto unit = unitWith({{0x05, 83}, {0x0B, 101}, {0x0F, 20}});
        Session session;
        int several = 0;
        for (double t = 0; t < 8; t += 0.02)
            for (CanFrame f : session.poll(t)) {
                if (f.data[0] > 2 && f.data[1] == kValue) {
                    several += t > 4 ? 1 : 0;
                    if (mute)
                        continue;
                    f.data = singleFrame(std::span(f.data).subspan(1, 2));
                }
                for (const CanFrame& answer : responder.take(f, unit))
                    (void)session.take(t, answer);
            }
        EXPECT_EQ(several, 0) << mute;
        for (const std::uint8_t number : Bytes{0x05, 0x0B, 0x0F}) {
            ASSERT_TRUE(session.units().at(0x7E8).values.contains(number)) << mute;
            EXPECT_GT(session.units().at(0x7E8).values.at(number).time_s, 7) << mute;
        }
    }
}

/// Of what two units say the engine's counts: it has the lower identifier (ISO 15765-4; common practice).
TEST(ObdTold, TheFirstUnitsValueIsTheCircuits)
{
    DiagnosticBus bus;
    bus.units.emplace_back(Responder(0x7E9, false), unitWith({{0x05, 40}, {0x0D, 60}}));
    bus.units.emplace_back(Responder(0x7E8, false), unitWith({{0x05, 83}}));
    bus.run(0, 1);
    bus.told.clear();
    bus.run(1, 4);
    int coolant = 0, speed = 0;
    for (const Bytes& told : bus.told) {
        if (told[0] == 0x05) {
            EXPECT_EQ(told[1], 83 + 40);
            ++coolant;
        }
        speed += told[0] == 0x0D ? 1 : 0;
    }
    EXPECT_GT(coolant, 5);
    EXPECT_GT(speed, 5) << "what only the other one has is his";
}

/// Of a recording: what was answered to questions that are not in it.
TEST(ObdTold, WhoDoesNotAskListens)
{
    for (const std::uint32_t from : {0x7E8U, 0x18DAF110U}) {
        Session session;
        (void)session.take(0, {from, from > 0x7FF, {3, 0x41, 0x05, 0x7B, 0, 0, 0, 0}});
        EXPECT_THAT(session.takeTold(), testing::ElementsAre(Bytes{0x05, 0x7B, 0}));
        EXPECT_THAT(session.takeTold(), IsEmpty()) << "once";
        (void)session.take(0, {from, from > 0x7FF, {0x10, 8, 0x41, 0x05, 0x7B, 0x0C, 0x1A, 0xF8}});
        (void)session.take(0, {from, from > 0x7FF, {0x21, 0x0B, 0x65, 0, 0, 0, 0, 0}});
        EXPECT_EQ(session.takeTold().size(), 3U);
        EXPECT_THAT(session.poll(10), testing::SizeIs(1)) << "from now on it asks, from the beginning";
        EXPECT_FALSE(session.isFound());
    }
}

TEST(ObdTold, LengthsThatLieTellNothing)
{
    Session session;
    for (const Bytes& message :
         {Bytes{0x41}, Bytes{0x41, 0x0C, 0x1A}, Bytes{0x41, 0x01, 1, 2, 3, 4}, Bytes{0x41, 0, 1, 2}, Bytes{0x41, 0x05}})
        (void)session.take(0, {0x7E8, false, singleFrame(message)});
    EXPECT_THAT(session.takeTold(), IsEmpty());
    (void)session.take(0, {0x7E8, false, singleFrame(Bytes{0x41, 0x05, 0x7B, 0x77, 1, 0x0B})});
    EXPECT_EQ(session.takeTold().size(), 1U) << "what stands before something unknown is good";
}

TEST(ObdTold, TroubleNamesTheUnitAndPasses)
{
    Session session;
    (void)session.poll(0);
    (void)session.take(0.1, {0x7E8, false, {0x21, 1}});
    EXPECT_THAT(session.trouble(), HasSubstr("Unit 7E8: "));
    (void)session.poll(12);
    EXPECT_EQ(session.trouble(), "");
    EXPECT_EQ(unitName(0x18DAF110), "10");
    EXPECT_EQ(unitName(0x18DAF100), "0");
}

} // namespace
} // namespace vicegrip::obd
