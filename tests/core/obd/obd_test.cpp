#include "tests/support/diagnostic_bus.h"

#include <gmock/gmock.h>
#include <random>

namespace vicegrip::obd {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;

using test::unitWith;
using Bus = test::DiagnosticBus;

/// Value bytes and their meaning, as the standard's tables have them (SAE J1979, from memory).
TEST(ObdValues, BytesMeanWhatTheStandardSays)
{
    struct Example
    {
        std::uint8_t number;
        Bytes data;
        double value;
    };
    for (const Example& e : std::initializer_list<Example>{{0x05, {0x7B}, 83},
                                                           {0x05, {0x00}, -40},
                                                           {0x05, {0xFF}, 215},
                                                           {0x06, {0x80}, 0},
                                                           {0x06, {0x00}, -100},
                                                           {0x07, {0xFF}, 99.21875},
                                                           {0x0A, {0x64}, 300},
                                                           {0x0B, {0x65}, 101},
                                                           {0x0C, {0x1A, 0xF8}, 1726},
                                                           {0x0D, {0x3C}, 60},
                                                           {0x10, {0x01, 0x90}, 4},
                                                           {0x11, {0xFF}, 100},
                                                           {0x33, {0x63}, 99},
                                                           {0x42, {0x36, 0xB0}, 14},
                                                           {0x44, {0x80, 0x00}, 1},
                                                           {0x52, {0xD9}, 85.0980392}}) {
        const Parameter& p = *findParameter(e.number);
        EXPECT_NEAR(valueOf(p, e.data).value(), e.value, 1e-6) << p.name;
        EXPECT_EQ(bytesOf(p, e.value), e.data) << p.name;
        EXPECT_FALSE(valueOf(p, std::span(e.data).first(e.data.size() - 1)));
        if (p.measures) {
            EXPECT_TRUE(units::measures(p.unit, *p.measures)) << p.name;
        }
    }
    EXPECT_EQ(findParameter(0x01), nullptr);
}

/// The mask BE 1F A8 13 of the standard's usual example: 01, 03 to 07, 0C to 11, 13, 15, 1C, 1F, 20.
TEST(ObdValues, AMaskSaysWhichThereAre)
{
    const Bytes mask = {0xBE, 0x1F, 0xA8, 0x13};
    const std::set<std::uint8_t> has = {0x01, 0x03, 0x04, 0x05, 0x06, 0x07, 0x0C, 0x0D, 0x0E,
                                        0x0F, 0x10, 0x11, 0x13, 0x15, 0x1C, 0x1F, 0x20};
    EXPECT_EQ(supported(0, mask), has);
    EXPECT_EQ(maskOf(0, has), mask);
    EXPECT_EQ(supported(0x20, Bytes{0, 0, 0, 1}), std::set<std::uint8_t>{0x40});
    EXPECT_THAT(supported(0, Bytes{0xFF, 0xFF, 0xFF}), IsEmpty());
    EXPECT_EQ(supported(0xE0, Bytes{0, 0, 0, 3}), std::set<std::uint8_t>{0xFF});
}

TEST(ObdCodes, AreWrittenAndReadAsPeopleDo)
{
    for (const auto& [raw, text] : {std::pair<int, const char*>{0x0118, "P0118"},
                                    {0x4123, "C0123"},
                                    {0x9234, "B1234"},
                                    {0xC100, "U0100"},
                                    {0x0300, "P0300"},
                                    {0x3FFF, "P3FFF"},
                                    {0x1ABC, "P1ABC"}}) {
        EXPECT_EQ(Code{static_cast<std::uint16_t>(raw)}.text(), text);
        EXPECT_EQ(codeFrom(text)->raw, raw);
    }
    EXPECT_EQ(codeFrom("p0118")->raw, 0x0118);
    for (const char* wrong : {"", "P", "X0118", "P4118", "P01180", "P011G"})
        EXPECT_FALSE(codeFrom(wrong)) << wrong;
    EXPECT_TRUE(codeFrom("P0118")->isGeneric());
    EXPECT_TRUE(codeFrom("P2135")->isGeneric());
    EXPECT_TRUE(codeFrom("P3400")->isGeneric());
    EXPECT_FALSE(codeFrom("P3000")->isGeneric());
    EXPECT_FALSE(codeFrom("P1118")->isGeneric());
    EXPECT_FALSE(codeFrom("C1118")->isGeneric());
}

TEST(ObdCodes, GenericOnesSayWhatTheyAreAbout)
{
    const auto says = [](const char* code) { return meaningOf(*codeFrom(code)); };
    EXPECT_EQ(says("P0118"), "Coolant temp: reads too high");
    EXPECT_EQ(says("P0117"), "Coolant temp: reads too low");
    EXPECT_EQ(says("P0113"), "Intake air temp: reads too high");
    EXPECT_EQ(says("P0179"), "Fuel composition: reads too high");
    EXPECT_EQ(says("P0502"), "Road speed: reads too low");
    EXPECT_EQ(says("P2123"), "Pedal: reads too high");
    EXPECT_EQ(says("P0201"), "Injector 1: its circuit does not work");
    EXPECT_EQ(says("P0212"), "Injector 12: its circuit does not work");
    EXPECT_EQ(says("P0304"), "Cylinder 4 misfires");
    EXPECT_EQ(says("P0300"), "Cylinders misfire, more than one");
    EXPECT_EQ(says("P0352"), "Coil 2: its first circuit does not work");
    for (const char* other : {"P1118", "P0213", "P020A", "P0999", "U0100"})
        EXPECT_EQ(says(other), "") << other;
    EXPECT_EQ(functionOf(*codeFrom("P0118")), "clt");
    EXPECT_EQ(functionOf(*codeFrom("P2135")), "tps");
    EXPECT_EQ(functionOf(*codeFrom("P0304")), "");
}

TEST(ObdCodes, AnAnswerMayLieAboutItsLength)
{
    EXPECT_THAT(codesOf(Bytes{2, 0x01, 0x18, 0xC1, 0x00}), ElementsAre(Code{0x0118}, Code{0xC100}));
    EXPECT_THAT(codesOf(Bytes{200, 0x01, 0x18, 0xC1}), ElementsAre(Code{0x0118}));
    EXPECT_THAT(codesOf(Bytes{1, 0, 0, 1, 2}), IsEmpty());
    EXPECT_THAT(codesOf(Bytes{}), IsEmpty());
}

/// A trace made by hand: a message of ten bytes, as ISO 15765-2 takes it apart.
TEST(ObdSegments, TenBytesByHand)
{
    const Bytes message = {0x43, 4, 0x01, 0x18, 0x01, 0x13, 0x02, 0x01, 0x03, 0x04};
    Segmenter segmenter(message);
    EXPECT_EQ(segmenter.first(), (Bytes{0x10, 0x0A, 0x43, 4, 0x01, 0x18, 0x01, 0x13}));
    EXPECT_FALSE(segmenter.isDone());
    EXPECT_THAT(segmenter.after(Bytes{0x31, 0, 0}), IsEmpty()) << "wait";
    EXPECT_THAT(segmenter.after(Bytes{0x30}), IsEmpty()) << "cut short";
    EXPECT_THAT(segmenter.after(goOn()), ElementsAre(Bytes{0x21, 0x02, 0x01, 0x03, 0x04, 0xCC, 0xCC, 0xCC}));
    EXPECT_TRUE(segmenter.isDone());
    Assembler assembler;
    EXPECT_TRUE(assembler.take(Bytes{0x10, 0x0A, 0x43, 4, 0x01, 0x18, 0x01, 0x13})->asksToGoOn);
    EXPECT_EQ(assembler.take(Bytes{0x21, 0x02, 0x01, 0x03, 0x04})->message, message) << "the last may be short";
    EXPECT_EQ(singleFrame(Bytes{1, 0}), (Bytes{2, 1, 0, 0xCC, 0xCC, 0xCC, 0xCC, 0xCC}));
}

TEST(ObdSegments, EveryLengthComesBackAsItWas)
{
    std::mt19937 chance(3);
    for (const size_t length : {1, 7, 8, 9, 13, 14, 100, 111, 112, 255, 256, 4094, 4095}) {
        Bytes message(length);
        for (auto& byte : message)
            byte = static_cast<std::uint8_t>(chance());
        for (const std::uint8_t block : Bytes{0, 1, 3, 15}) {
            Segmenter segmenter(message);
            Assembler assembler;
            auto taken = assembler.take(segmenter.first());
            ASSERT_TRUE(taken);
            while (!taken->message) {
                const auto frames = segmenter.after(Bytes{0x30, block, 0});
                ASSERT_FALSE(frames.empty());
                for (const Bytes& frame : frames)
                    ASSERT_TRUE(taken = assembler.take(frame));
            }
            EXPECT_EQ(*taken->message, message) << length;
        }
    }
}

TEST(ObdSegments, WhatLiesIsSaidAndGivenUp)
{
    const auto wrong = [](const std::vector<Bytes>& frames) {
        Assembler assembler;
        std::string said;
        for (const Bytes& f : frames)
            if (const auto taken = assembler.take(f); !taken)
                said = taken.error().sentence;
        EXPECT_FALSE(assembler.isOpen());
        return said;
    };
    const Bytes first = {0x10, 20, 1, 2, 3, 4, 5, 6};
    EXPECT_THAT(wrong({{}}), HasSubstr("without a byte"));
    EXPECT_THAT(wrong({{0x00, 1}}), HasSubstr("says that it has 0"));
    EXPECT_THAT(wrong({{0x07, 1, 2}}), HasSubstr("says that it has 7"));
    EXPECT_THAT(wrong({{0x0F, 1, 2, 3, 4, 5, 6, 7}}), HasSubstr("says that it has 15"));
    EXPECT_THAT(wrong({{0x10}}), HasSubstr("a first frame"));
    EXPECT_THAT(wrong({{0x10, 3, 1, 2, 3, 4, 5, 6}}), HasSubstr("begins a message of 3"));
    EXPECT_THAT(wrong({{0x10, 0, 0, 0, 0x10, 0, 1, 2}}), HasSubstr("begins a message of 0"));
    EXPECT_THAT(wrong({{0x21, 1}}), HasSubstr("nobody began"));
    EXPECT_THAT(wrong({first, {0x22, 1, 2, 3, 4, 5, 6, 7}}), HasSubstr("frame 2 came where 1 was due"));
    EXPECT_THAT(wrong({first, {0x21, 1, 2, 3}}), HasSubstr("too short"));
    EXPECT_THAT(wrong({{0xF0, 1}}), HasSubstr("a kind that there is not"));
    // Endless first frames: each takes the place of the one before, and no more is kept.
    Assembler assembler;
    for (int i = 0; i < 100000; ++i)
        EXPECT_TRUE(assembler.take(Bytes{0x1F, 0xFF, 1, 2, 3, 4, 5, 6})->asksToGoOn);
}

TEST(ObdSession, FindsUnitsReadsTheirValuesAndTheirCodes)
{
    for (const bool extended : {false, true}) {
        Bus bus;
        const std::uint32_t engine = extended ? 0x18DAF110 : 0x7E8, gearbox = extended ? 0x18DAF118 : 0x7E9;
        bus.units.emplace_back(
            Responder(engine, extended),
            unitWith({{0x05, 83}, {0x0B, 101}, {0x0C, 850}, {0x42, 14.1}, {0x52, 20}},
                     {*codeFrom("P0118"), *codeFrom("P0113"), *codeFrom("P1234"), *codeFrom("P0201")},
                     {*codeFrom("P0304")}));
        bus.units.emplace_back(Responder(gearbox, extended), unitWith({{0x0D, 60}, {0x05, 79}}));
        bus.run(0, 8);
        ASSERT_EQ(bus.session.units().size(), 2U);
        EXPECT_EQ(bus.session.extended(), extended);
        const UnitSaid& first = bus.session.units().at(engine);
        EXPECT_EQ(first.values.size(), 5U) << "behind the second and the third mask too";
        EXPECT_EQ(first.values.at(0x05).value, 83);
        EXPECT_EQ(first.values.at(0x0C).value, 850);
        EXPECT_NEAR(first.values.at(0x42).value, 14.1, 1e-9);
        EXPECT_NEAR(first.values.at(0x52).value, 20, 0.2);
        EXPECT_GT(first.values.at(0x05).time_s, 7) << "again and again";
        EXPECT_THAT(first.stored,
                    ElementsAre(*codeFrom("P0118"), *codeFrom("P0113"), *codeFrom("P1234"), *codeFrom("P0201")))
            << "ten bytes: over several frames";
        EXPECT_THAT(first.pending, ElementsAre(*codeFrom("P0304")));
        EXPECT_EQ(bus.session.units().at(gearbox).values.at(0x05).value, 79) << "each has its own";
        EXPECT_TRUE(bus.session.units().at(gearbox).codesRead);
        EXPECT_EQ(bus.session.trouble(), "");
        EXPECT_LE(bus.asked_s.size(), 85U) << "ten questions a second";
    }
}

TEST(ObdSession, ClearsWhenAskedAndSaysWhoRefused)
{
    Bus bus;
    bus.units.emplace_back(Responder(0x7E8, false), unitWith({{0x05, 83}}, {*codeFrom("P0118")}));
    bus.units.emplace_back(Responder(0x7E9, false), unitWith({{0x05, 80}}, {*codeFrom("P0500")}));
    bus.units.back().second.clears = false;
    bus.run(0, 3);
    EXPECT_EQ(bus.session.cleared(), 0) << "nobody asked for it";
    ASSERT_EQ(bus.units.front().second.stored.size(), 1U);
    bus.session.clearCodes();
    bus.run(3, 5);
    EXPECT_EQ(bus.session.cleared(), 1);
    EXPECT_EQ(bus.session.refused(), 1);
    EXPECT_THAT(bus.session.trouble(), HasSubstr("engine stopped"));
    EXPECT_THAT(bus.session.units().at(0x7E8).stored, IsEmpty()) << "and they are read again";
    EXPECT_THAT(bus.session.units().at(0x7E9).stored, ElementsAre(*codeFrom("P0500")));
}

TEST(ObdSession, NobodyThereIsLookedForEachSecondWithBothIdentifiers)
{
    Bus bus;
    bus.run(0, 10);
    EXPECT_FALSE(bus.session.isFound());
    EXPECT_GE(bus.asked_s.size(), 9U);
    EXPECT_LE(bus.asked_s.size(), 11U);
}

TEST(ObdSession, AnAnswerThatDoesNotEndIsGivenUpAndTheRestGoesOn)
{
    Session session;
    (void)session.poll(0);
    (void)session.take(0.01, {0x7E8, false, {6, 0x41, 0, 0x08, 0, 0, 0, 0xCC}}); // it has 05
    EXPECT_THAT(session.take(0.2, {0x7E8, false, {0x10, 20, 0x43, 9, 0, 1, 0, 2}}),
                ElementsAre(testing::Field(&CanFrame::id, 0x7E0U)))
        << "it is told to go on";
    EXPECT_THAT(session.poll(0.9), IsEmpty());
    EXPECT_FALSE(session.poll(1.3).empty());
    EXPECT_THAT(session.trouble(), HasSubstr("did not end it"));
    for (double t = 1.4; t < 3; t += 0.02)
        for (const CanFrame& f : session.poll(t))
            if (f.data[1] == kValue && f.data[2] == 0x05)
                (void)session.take(t, {0x7E8, false, {3, 0x41, 5, 0x7B, 0xCC, 0xCC, 0xCC, 0xCC}});
    EXPECT_EQ(session.units().at(0x7E8).values.at(0x05).value, 83);
}

/// Whatever comes, nothing breaks and nothing grows.
TEST(ObdSession, ARandomBusDoesNoHarm)
{
    std::mt19937 chance(11);
    Session session;
    for (int i = 0; i < 200000; ++i) {
        CanFrame f{0x7E0 + static_cast<std::uint32_t>(chance() % 18), chance() % 8 == 0, Bytes(chance() % 9)};
        for (auto& byte : f.data)
            byte = static_cast<std::uint8_t>(chance() % 4 == 0 ? chance() : chance() % 0x48);
        (void)session.take(i * 1e-3, f);
        (void)session.poll(i * 1e-3);
        if (i % 5000 == 0)
            session.readCodes();
    }
    EXPECT_LE(session.units().size(), 16U);
}

} // namespace
} // namespace vicegrip::obd
