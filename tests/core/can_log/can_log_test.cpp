#include "core/can_log/can_log.h"

#include <gmock/gmock.h>
#include <random>

/// Recorded CAN frames as text.
namespace vicegrip::can_log {
namespace {

using testing::HasSubstr;

/// Lines as the manual page of the recorder has them (from memory).
TEST(CanLog, LinesAreRead)
{
    EXPECT_EQ(*readLine("(1436509052.249713) vcan0 044#2A366C2BBA"),
              (Frame{1436509052.249713, "vcan0", 0x44, false, false, false, false, 0, {0x2A, 0x36, 0x6C, 0x2B, 0xBA}}));
    EXPECT_EQ(*readLine("(0.5) can1 18FEF100# R"), (Frame{0.5, "can1", 0x18FEF100, true, false, false, false, 0, {}}));
    EXPECT_EQ(*readLine("(0.5) can1 123#R8"), (Frame{0.5, "can1", 0x123, false, true, false, false, 0, {}}));
    EXPECT_EQ(*readLine("(0.5) can1 123##1AA.bb"),
              (Frame{0.5, "can1", 0x123, false, false, false, true, 1, {0xAA, 0xBB}}));
    EXPECT_EQ(*readLine("(0.5) can1 20000080#0000000000000000\r"),
              (Frame{0.5, "can1", 0x80, false, false, true, false, 0, std::vector<std::uint8_t>(8, 0)}));
}

TEST(CanLog, WhatCannotBeIsRefusedAtItsPlace)
{
    for (const auto& [line, said] : {std::pair("can0 123#00", "1: a line begins with its time"),
                                     {"(x) can0 123#00", "begins with its time"},
                                     {"(1e300) can0 123#00", "begins with its time"},
                                     {"(nan) can0 123#00", "begins with its time"},
                                     {"(1) can0 12#00", "three or eight"},
                                     {"(1) can0 1234#00", "three or eight"},
                                     {"(1) can0 8FF#00", "11 or 29"},
                                     {"(1) can0 FFFFFFFF#00", "11 or 29"},
                                     {"(1) can0 123#0", "pairs"},
                                     {"(1) can0 123#0g", "pairs"},
                                     {"(1) can0 123#001122334455667788", "8 bytes"},
                                     {"(1) can0 123##", "flags"},
                                     {"(1) can0", "three or eight"}}) {
        const auto read = readLine(line);
        ASSERT_FALSE(read) << line;
        EXPECT_THAT(read.error().text(), HasSubstr(said)) << line;
        EXPECT_GT(read.error().place.column, 0);
    }
    const auto second = read("# a remark\n\n(1) can0 123#00\n(2) can0 123#0\n", [](const Frame&) { return true; });
    ASSERT_FALSE(second);
    EXPECT_EQ(second.error().place.line, 4);
}

TEST(CanLog, WhatIsWrittenIsReadAgain)
{
    std::mt19937 random(8);
    std::string text;
    std::vector<Frame> all;
    for (int i = 0; i < 2000; ++i) {
        Frame f;
        f.time_s = 1700000000 + i / 1000.0;
        f.bus = i % 2 == 0 ? "can0" : "can1";
        f.extended = random() % 2 == 0;
        f.id = static_cast<std::uint32_t>(random()) & (f.extended ? 0x1FFFFFFFU : 0x7FFU);
        f.remote = random() % 10 == 0;
        f.flexible = !f.remote && random() % 5 == 0;
        f.flags = f.flexible ? static_cast<int>(random() % 4) : 0;
        for (unsigned b = 0; !f.remote && b < random() % (f.flexible ? 65 : 9); ++b)
            f.data.push_back(static_cast<std::uint8_t>(random()));
        text += line(f) + (i % 3 == 0 ? "\r\n" : "\n");
        all.push_back(std::move(f));
    }
    size_t at = 0;
    EXPECT_TRUE(read(text, [&](const Frame& f) {
        EXPECT_EQ(f.id, all[at].id);
        EXPECT_EQ(f.data, all[at].data);
        EXPECT_EQ(f.extended, all[at].extended);
        EXPECT_EQ(f.remote, all[at].remote);
        EXPECT_EQ(f.flexible, all[at].flexible);
        EXPECT_NEAR(f.time_s, all[at].time_s, 1e-6);
        return ++at < all.size();
    }));
    EXPECT_EQ(at, all.size());
}

TEST(CanLog, SurvivesWhatIsBroken)
{
    std::mt19937 random(2);
    const std::string whole = "(1436509052.249713) vcan0 18FEF100##12A366C2BBA R";
    for (int i = 0; i < 50000; ++i) {
        std::string broken = whole.substr(0, random() % (whole.size() + 1));
        if (!broken.empty())
            broken[random() % broken.size()] = static_cast<char>(random() % 256);
        if (const auto f = readLine(broken)) {
            EXPECT_LE(f->data.size(), 64U);
        }
    }
}

} // namespace
} // namespace vicegrip::can_log
