#include "core/recording/recording.h"

#include "tests/support/petrel.h"

#include <cmath>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <random>
#include <sstream>

namespace vicegrip::recording {
namespace {

using job::Tells;
using stream::Heard;
using testing::HasSubstr;

std::vector<std::string> linesOf(const std::string& text)
{
    std::vector<std::string> out;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);)
        out.push_back(line);
    return out;
}

TEST(Recording, ARowHoldsWhatCameTogetherAndUnitsStandInTheHeading)
{
    Writer writer({{0, parts::InputId{"AN1"}, Tells::Volts, units::Dimension::Voltage, "V"},
                   {0, parts::InputId{"AN1"}, Tells::Value, units::Dimension::AbsolutePressure, "kPa"},
                   {2, parts::InputId{"AN3"}, Tells::Volts, units::Dimension::Voltage, "V"}});
    std::string text = writer.header();
    writer.take({0, Tells::Volts, 100.000, 2.5}, text);
    writer.take({0, Tells::Value, 100.000, 101300}, text);
    writer.take({2, Tells::Volts, 100.0015, 1.25}, text);
    writer.take({9, Tells::Volts, 100.0016, 9}, text); // nobody's
    writer.take({0, Tells::Volts, 100.0017, 2.6}, text); // the same again
    EXPECT_EQ(writer.mark(100.0018, text), 1);
    writer.take({0, Tells::Value, 100.02, NAN}, text);
    writer.take({2, Tells::Volts, 100.02, 1.5}, text);
    EXPECT_EQ(writer.mark(101, text), 2);
    writer.finish(text);
    EXPECT_EQ(text, "time (s),AN1 volts (V),AN1 value (kPa),AN3 volts (V),mark\n"
                    "0.0000,2.5,101.3,1.25,\n"
                    "0.0017,2.6,,,1\n"
                    "0.0200,,,1.5,\n"
                    "1.0000,,,,2\n");
    EXPECT_EQ(writer.values(), 5U);
    EXPECT_EQ(writer.marks(), 2);
    EXPECT_DOUBLE_EQ(writer.seconds(), 1);
}

/// No value is lost, none comes twice, and each is what it was.
TEST(Recording, WhatWasWrittenIsHeardAgain)
{
    const job::Job job = test::petrel();
    const auto columns = columnsOf(job);
    std::mt19937 chance(7);
    Writer writer(columns);
    std::string text;
    std::vector<Heard> sent;
    double time_s = 5000;
    for (int i = 0; i < 20000; ++i) {
        time_s += std::uniform_real_distribution(0.0, 0.003)(chance);
        const Column& c = columns[std::uniform_int_distribution<size_t>(0, columns.size() - 1)(chance)];
        const double shown = std::uniform_real_distribution(0.0, 100.0)(chance);
        sent.push_back({c.input, c.tells, time_s, fromColumn(c, shown)});
        writer.take(sent.back(), text);
        if (i % 1000 == 999)
            (void)writer.mark(time_s, text);
    }
    writer.finish(text);
    const auto reader = Reader::from(writer.header(), job);
    ASSERT_TRUE(reader) << reader.error().text();
    EXPECT_TRUE(reader->left().empty());
    std::vector<Heard> heard;
    int marks = 0;
    for (const std::string& line : linesOf(text)) {
        const auto mark = reader->row(line, heard);
        ASSERT_TRUE(mark) << mark.error().text();
        marks += *mark > 0 ? 1 : 0;
    }
    EXPECT_EQ(marks, 20);
    ASSERT_EQ(heard.size(), sent.size());
    const double began_s = sent.front().time_s;
    const auto order = [](const Heard& a, const Heard& b) {
        return std::tuple(a.input, a.tells) < std::tuple(b.input, b.tells);
    };
    std::ranges::stable_sort(sent, order);
    std::ranges::stable_sort(heard, order);
    for (size_t i = 0; i < sent.size(); ++i) {
        ASSERT_EQ(heard[i].input, sent[i].input);
        ASSERT_EQ(heard[i].tells, sent[i].tells);
        EXPECT_NEAR(heard[i].value, sent[i].value, std::abs(sent[i].value) * 1e-8 + 1e-12);
        EXPECT_NEAR(heard[i].time_s, sent[i].time_s - began_s, 0.00211) << "two milliseconds make a row";
    }
}

TEST(Recording, AnotherJobHearsWhatItHasAndTheRestIsNamed)
{
    const auto reader =
        Reader::from("time (s),AN1 value (psi),AN1 volts (V),XY1 volts (V),AN3 value (kPa),mark\r\n", test::petrel());
    ASSERT_TRUE(reader);
    EXPECT_THAT(reader->left(), testing::ElementsAre("XY1 volts (V)", "AN3 value (kPa)")) << "a coolant has no kPa";
    std::vector<Heard> heard;
    EXPECT_EQ(reader->row("0.5,14.5,2.5,1,1,3\r\n", heard).value(), 3);
    ASSERT_EQ(heard.size(), 2U);
    EXPECT_NEAR(heard[0].value, 14.5 * 6894.757293168, 1e-6) << "NIST SP 811: the pound-force per square inch";
    EXPECT_EQ(heard[1].value, 2.5);
    EXPECT_EQ(heard[1].time_s, 0.5);
}

TEST(Recording, WhatIsNoneIsSaidWithItsColumn)
{
    const job::Job job = test::petrel();
    EXPECT_THAT(Reader::from("a,b\n", job).error().text(), HasSubstr("not a recording"));
    EXPECT_THAT(Reader::from("", job).error().text(), HasSubstr("not a recording"));
    EXPECT_FALSE(Reader::from("time (s)" + std::string(5000, ','), job));
    const auto reader = Reader::from("time (s),AN1 volts (V),mark", job);
    std::vector<Heard> heard;
    EXPECT_EQ(reader->row("", heard).value(), 0);
    for (const auto& [line, column] : {std::pair<const char*, int>{"0,x,", 3},
                                       {"0,1e999,", 3},
                                       {"0,nan,", 3},
                                       {"-1,1,", 1},
                                       {"zero,1,", 1},
                                       {"0,1,,", 6},
                                       {"0,1,2,3", 7}}) {
        const auto row = reader->row(line, heard);
        ASSERT_FALSE(row) << line;
        EXPECT_EQ(row.error().place.column, column) << line;
    }
    EXPECT_TRUE(heard.empty());
    EXPECT_EQ(reader->row("0", heard).value(), 0) << "cut short";
}

/// A file in a folder of its own.
class Kept
{
  public:
    explicit Kept(const std::string& text)
    {
        std::string name = (std::filesystem::temp_directory_path() / "vicegrip-recording-XXXXXX").string();
        m_folder = mkdtemp(name.data());
        std::ofstream(path(), std::ios::binary) << text;
    }
    ~Kept() { std::filesystem::remove_all(m_folder); }
    Kept(const Kept&) = delete;
    Kept& operator=(const Kept&) = delete;
    [[nodiscard]] std::filesystem::path path() const { return m_folder / "file"; }

  private:
    std::filesystem::path m_folder;
};

TEST(Player, PlaysRowsAsFarAsTheClockHasCome)
{
    const Kept kept("time (s),AN1 volts (V),mark\n0,1,\n0.5,2,\n\n1.0,3,7\n2.5,4,");
    auto player = Player::open(kept.path(), test::petrel());
    ASSERT_TRUE(player) << player.error().text();
    EXPECT_FALSE(player->isOfFrames());
    EXPECT_DOUBLE_EQ(player->seconds(), 2.5);
    const auto at = [&](double time_s) {
        std::vector<Heard> heard;
        EXPECT_TRUE(player->until(time_s, heard, {}));
        std::vector<double> out;
        for (const Heard& h : heard)
            out.push_back(h.value);
        return out;
    };
    using testing::ElementsAre;
    EXPECT_THAT(at(0), ElementsAre(1));
    EXPECT_THAT(at(0.4), ElementsAre());
    EXPECT_THAT(at(1.2), ElementsAre(2, 3));
    EXPECT_EQ(player->mark(), 7);
    EXPECT_FALSE(player->isOver());
    EXPECT_THAT(at(9), ElementsAre(4));
    EXPECT_TRUE(player->isOver());
    EXPECT_THAT(at(99), ElementsAre());
}

TEST(Player, PlaysFramesByTheirTimesAndGoesOnAfterABadLine)
{
    const Kept kept("# a log\n(1000.5) can0 123#01\n(1001.0) can0 123#zz\n(1001.5) can0 123#02\n");
    auto player = Player::open(kept.path(), test::petrel());
    ASSERT_TRUE(player) << player.error().text();
    EXPECT_TRUE(player->isOfFrames());
    EXPECT_DOUBLE_EQ(player->seconds(), 1);
    std::vector<int> seen;
    std::vector<Heard> heard;
    const auto take = [&](const can_log::Frame& f) { seen.push_back(f.data.at(0)); };
    const auto bad = player->until(0.1, heard, take);
    ASSERT_FALSE(bad) << "it has no time to wait for";
    EXPECT_EQ(bad.error().place.line, 3);
    EXPECT_THAT(seen, testing::ElementsAre(1));
    EXPECT_TRUE(player->until(5, heard, take));
    EXPECT_THAT(seen, testing::ElementsAre(1, 2));
    EXPECT_TRUE(player->isOver());
}

TEST(Player, WhatIsNoRecordingIsSaidWithItsFile)
{
    const auto said = [](const std::string& text) {
        const Kept kept(text);
        const auto player = Player::open(kept.path(), test::petrel());
        return player ? std::string() : player.error().text();
    };
    EXPECT_THAT(said(""), HasSubstr("empty"));
    EXPECT_THAT(said("\n\n# nothing\n"), HasSubstr("empty"));
    EXPECT_THAT(said("hello"), HasSubstr("not a recording"));
    EXPECT_THAT(said("time (s),AN1 volts (V)\nsoon,1\n"), HasSubstr("file:2"));
    EXPECT_THAT(said(std::string(3 << 20, 'x')), HasSubstr("not a recording"));
    EXPECT_EQ(said("time (s),AN1 volts (V)\n"), "");
    EXPECT_THAT(Player::open("/no/such/file", test::petrel()).error().text(), HasSubstr("cannot be read"));
    EXPECT_THAT(Player::open("/tmp", test::petrel()).error().text(), HasSubstr("cannot be read"));
}

} // namespace
} // namespace vicegrip::recording
