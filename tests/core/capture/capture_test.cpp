#include "core/capture/capture.h"

#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <random>
#include <unistd.h>

/// Files of scopes and logic analysers: what is right is read, what is wrong is said with its line.
namespace vicegrip::capture {
namespace {

using testing::AllOf;
using testing::ElementsAre;
using testing::HasSubstr;

/// A file of these bytes, while the test runs.
class Written
{
  public:
    explicit Written(const std::string& text, const char* ending = ".txt")
        : path(std::filesystem::temp_directory_path() / ("capture-" + std::to_string(getpid()) + ending))
    {
        std::ofstream(path, std::ios::binary) << text;
    }
    ~Written() { std::filesystem::remove(path); }
    Written(const Written&) = delete;
    Written& operator=(const Written&) = delete;

    const std::filesystem::path path;
};

std::string wrong(const std::string& text)
{
    const Written file(text);
    const auto read = readCapture(file.path);
    EXPECT_FALSE(read) << text;
    return read ? std::string() : read.error().text();
}

/// By hand, as IEEE 1364 has it: a wire, one of a bus that is passed over, a real; the time scale in words of its own.
const char* const kChanges = "$date today $end\n$version none $end\n$timescale\n 10 us\n$end\n"
                             "$scope module top $end\n$var wire 1 ! crank $end\n$var reg 8 \" bus [7:0] $end\n"
                             "$var real 64 # volts $end\n$upscope $end\n$enddefinitions $end\n"
                             "#100\n$dumpvars\n0!\nb00000000 \"\nr1.5 #\n$end\n"
                             "#110 1!\nsidle \"\n#120\n0!\nb101 \"\nr-2.25 #\n#125\nx!\n1!\n0!\n#130\n1!\n1!\n#200\n";

TEST(Vcd, ChangesOfWiresAndReals)
{
    const auto read = readVcd(TextLines(kChanges));
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->channels.size(), 2U) << "what is wider than a bit is passed over";
    EXPECT_EQ(read->step_s, 0);
    EXPECT_DOUBLE_EQ(read->seconds, 1e-3);
    const Channel& crank = read->channels[0];
    EXPECT_EQ(crank.name, "crank");
    EXPECT_THAT(crank.volts, ElementsAre(0, 1, 0, 0, 1)) << "a glitch within a tick leaves its last level";
    EXPECT_THAT(crank.changes_s, ElementsAre(0, testing::DoubleNear(1e-4, 1e-12), testing::DoubleNear(2e-4, 1e-12),
                                             testing::DoubleNear(2.5e-4, 1e-12), testing::DoubleNear(3e-4, 1e-12)));
    EXPECT_THAT(read->channels[1].volts, ElementsAre(1.5, -2.25));
}

TEST(Vcd, WhatIsWrongIsSaidWithItsLine)
{
    const std::string head = "$timescale 1 ns $end\n$var wire 1 ! a $end\n";
    EXPECT_THAT(wrong("$var wire 1 ! a $end\n#5\n1!\n"), AllOf(HasSubstr(":2:"), HasSubstr("before the time scale")));
    EXPECT_THAT(wrong("$timescale 1 year $end\n"), HasSubstr("time scale such as 1 ns"));
    EXPECT_THAT(wrong(head + "#5\n1?\n"), AllOf(HasSubstr(":4:"), HasSubstr("1?")));
    EXPECT_THAT(wrong(head + "#5\n1!\n#4\n0!\n"), AllOf(HasSubstr(":5:"), HasSubstr("goes back")));
    EXPECT_THAT(wrong(head + "#five\n"), HasSubstr("whole ticks"));
    EXPECT_THAT(wrong(head + "hello there\n"), HasSubstr("no change of a signal"));
    EXPECT_THAT(wrong("$var wire 1 $end\n"), HasSubstr("expected a kind"));
    EXPECT_THAT(wrong(head), HasSubstr("none of its signals changes"));
    EXPECT_THAT(wrong("$timescale 1 ns $end\n$var reg 8 ! a $end\n#1\nb1 !\n"), HasSubstr("no wire of one bit"));
    EXPECT_THAT(wrong("$comment never ends"), HasSubstr("no wire"));
}

TEST(Vcd, WhatIsWrittenIsReadAgain)
{
    const Seen seen{0, 0.5, {{"crank", {0, 1, 0}, {0, 0.1, 0.25}}, {"cam wheel", {1, 0}, {0, 0.3}}}};
    const std::string text = writeVcd(seen);
    const auto read = readVcd(TextLines(text));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_THAT(read->channels[0].volts, ElementsAre(0, 1, 0));
    EXPECT_THAT(read->channels[0].changes_s,
                ElementsAre(0, testing::DoubleNear(0.1, 1e-9), testing::DoubleNear(0.25, 1e-9)));
    EXPECT_EQ(read->channels[1].name, "cam_wheel") << "names have no blanks there";
    EXPECT_THAT(read->channels[1].changes_s, ElementsAre(0, testing::DoubleNear(0.3, 1e-9)));
    EXPECT_DOUBLE_EQ(read->seconds, 0.5);
}

TEST(Columns, SamplesAtEvenTimesAndChangesAtOthers)
{
    const Written even("time,crank,cam\n1.00,0,5\n1.01,5,5\n1.02,0,0\n1.03,5,0\n");
    const auto samples = readCapture(even.path);
    ASSERT_TRUE(samples) << samples.error().text();
    EXPECT_NEAR(samples->step_s, 0.01, 1e-9);
    ASSERT_EQ(samples->channels.size(), 2U);
    EXPECT_EQ(samples->channels[1].name, "cam");
    EXPECT_THAT(samples->channels[0].volts, ElementsAre(0, 5, 0, 5));
    EXPECT_FALSE(samples->channels[0].isOfChanges());
    const Written odd("0,0\n0.1,1\n0.5,0\n0.52,0\n0.7,1\n");
    const auto changes = readCapture(odd.path);
    ASSERT_TRUE(changes);
    EXPECT_EQ(changes->step_s, 0);
    EXPECT_THAT(changes->channels[0].volts, ElementsAre(0, 1, 0, 1));
    EXPECT_THAT(changes->channels[0].changes_s, ElementsAre(0, 0.1, 0.5, 0.7));
}

/// A logger's times are uneven: what it saw of many levels is put at even times along straight lines, what it saw of
/// two stays changes.
TEST(Columns, UnevenRowsOfVoltsLieAlongStraightLines)
{
    std::mt19937 chance(2);
    std::string text = "t;volts;switch\n";
    double t = 0;
    for (int i = 0; i < 400; ++i) {
        text += std::to_string(t) + ";" + std::to_string(3 * t - 1) + ";" + (t < 0.2 ? "0" : "5") + "\n";
        t += 1e-3 * (0.2 + static_cast<double>(chance() % 1000) / 625);
    }
    const Written file(text);
    const auto read = readCapture(file.path);
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read->channels.size(), 2U);
    EXPECT_FALSE(read->channels[0].isOfChanges());
    ASSERT_EQ(read->channels[0].volts.size(), 400U);
    for (size_t i = 0; i < 400; ++i)
        EXPECT_NEAR(read->channels[0].volts[i], 3 * static_cast<double>(i) * read->step_s - 1, 1e-5) << i;
    EXPECT_THAT(read->channels[1].volts, ElementsAre(0, 5));
    EXPECT_NEAR(read->channels[1].changes_s[1], 0.2, 2e-3);
}

/// Files larger than what is read at once, lines across its bounds, and one that never ends.
TEST(Columns, LongFilesAndLongLines)
{
    constexpr int kRows = 200000;
    std::string text = "time,volts\n";
    for (int i = 0; i < kRows; ++i)
        text += std::to_string(i) + "e-5," + std::to_string(i % 977) + "\n";
    const Written file(text);
    const auto read = readCapture(file.path);
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_NEAR(read->step_s, 1e-5, 1e-12);
    ASSERT_EQ(read->channels[0].volts.size(), size_t(kRows));
    for (int i = 0; i < kRows; i += 101)
        ASSERT_EQ(read->channels[0].volts[static_cast<size_t>(i)], static_cast<float>(i % 977)) << i;
    EXPECT_LT(read->channels[0].volts.capacity(), kRows * 1.4) << "room is foreseen, not grown";
    text.replace(text.size() / 2, 1, "x");
    EXPECT_THAT(wrong(text), HasSubstr("is not a finite number"));
    EXPECT_THAT(wrong("0,1\n" + std::string(20U << 20U, '1')), AllOf(HasSubstr(":2"), HasSubstr("longer than 16 MB")));
}

TEST(Columns, WhatIsWrongIsSaidWithItsLine)
{
    EXPECT_THAT(wrong("time,v\n0,1\n"), HasSubstr("one row is no capture"));
    EXPECT_THAT(wrong("0,1\n1,2\n0.5,3\n"), AllOf(HasSubstr(":3"), HasSubstr("time goes back")));
    EXPECT_THAT(wrong("0,1\n1,two\n"), HasSubstr(":2"));
    EXPECT_THAT(wrong(""), HasSubstr("capture-"));
    EXPECT_THAT(wrong("RIFF and nothing else"), HasSubstr("cannot be read as sound"));
    EXPECT_FALSE(readCapture("/no/such/capture.csv"));
    EXPECT_FALSE(readCapture(std::filesystem::temp_directory_path())) << "a folder";
}

TEST(Wave, WhatIsWrittenIsReadAgain)
{
    Seen seen{1 / 44100.0, 0, {{"1", {}, {}}, {"2", {}, {}}}};
    std::mt19937 chance(5);
    for (int i = 0; i < 100000; ++i)
        for (Channel& c : seen.channels)
            c.volts.push_back(static_cast<float>(chance() % 2000) / 1000 - 1);
    const Written file("", ".wav");
    ASSERT_TRUE(writeCapture(seen, file.path));
    const auto read = readCapture(file.path);
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_NEAR(read->step_s, seen.step_s, 1e-12);
    ASSERT_EQ(read->channels.size(), 2U);
    for (size_t c = 0; c < 2; ++c)
        for (size_t i = 0; i < 100000; i += 777)
            EXPECT_NEAR(read->channels[c].volts[i], seen.channels[c].volts[i] * 0.9F, 1e-3);
    EXPECT_FALSE(writeCapture(seen, "/no/such/folder/x.wav"));
    EXPECT_FALSE(writeCapture(seen, "/no/such/folder/x.csv"));
}

/// Files that are cut anywhere, and bytes by chance: a sentence or what was there, and nothing worse.
TEST(ReadCapture, CutAndBrokenFilesDoNoHarm)
{
    std::mt19937 chance(9);
    const std::string whole = kChanges;
    for (size_t cut = 0; cut < whole.size(); ++cut)
        (void)readVcd(TextLines(std::string_view(whole).substr(0, cut)));
    for (int i = 0; i < 3000; ++i) {
        std::string text = whole;
        for (unsigned k = 0; k <= chance() % 4; ++k)
            text[chance() % text.size()] = static_cast<char>(chance());
        (void)readVcd(TextLines(text));
    }
}

} // namespace
} // namespace vicegrip::capture
