#include "core/log/log.h"

#include <cmath>
#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <random>
#include <unistd.h>

namespace vicegrip::log {
namespace {

using testing::Contains;
using testing::ElementsAre;
using testing::Field;
using testing::HasSubstr;
using testing::IsEmpty;

std::vector<std::string> names(const Log& log)
{
    std::vector<std::string> out;
    for (const Column& c : log.columns)
        out.push_back(c.unit.empty() ? c.name : c.name + "|" + c.unit);
    return out;
}

auto saying(const std::string& words, std::uint64_t line)
{
    return Contains(testing::AllOf(Field(&Remark::sentence, HasSubstr(words)), Field(&Remark::line, line)));
}

auto time(std::initializer_list<double> times)
{
    std::vector<testing::Matcher<double>> out;
    for (const double t : times)
        out.push_back(testing::DoubleNear(t, 1e-6));
    return testing::ElementsAreArray(out);
}

TEST(ReadLog, UnitsInTheHeader)
{
    const auto log = readLogText("Time (s),RPM (1/min),\"Boost, asked [kPa]\"\n10.0,850,101.3\n10.1,860,101.4\n");
    ASSERT_TRUE(log) << log.error().text();
    EXPECT_THAT(names(*log), ElementsAre("RPM|1/min", "Boost, asked|kPa"));
    EXPECT_THAT(log->time_s, time({0, 0.1}));
    EXPECT_THAT(log->columns[1].values, ElementsAre(101.3F, 101.4F));
    EXPECT_THAT(log->remarks, IsEmpty());
}

TEST(ReadLog, UnitsInALineOfTheirOwnSemicolonsCommasAndAHeadOfWords)
{
    const auto log = readLogText("\xEF\xBB\xBFLog of the evening\r\nVehicle;Petrel\r\n\r\nZeit;Druck;Temperatur\r\n"
                                 "ms;kPa;\xB0"
                                 "C\r\n0;99,5;20\r\n20;;21,5\r\n40;-1,5e2;\r\n");
    ASSERT_TRUE(log) << log.error().text();
    EXPECT_THAT(names(*log), ElementsAre("Druck|kPa", "Temperatur|°C"));
    EXPECT_THAT(log->time_s, time({0, 0.02, 0.04}));
    EXPECT_TRUE(std::isnan(log->columns[0].values[1]));
    EXPECT_EQ(log->columns[0].values[2], -150);
    EXPECT_EQ(log->columns[1].values[1], 21.5F);
    EXPECT_EQ(lineOf(*log, 1), 7U);
}

TEST(ReadLog, TabsAndQuotedDecimalCommas)
{
    const auto tabs = readLogText("time\tlambda\n0,00\t0,998\n0,05\t1,002\n");
    ASSERT_TRUE(tabs) << tabs.error().text();
    EXPECT_THAT(tabs->time_s, time({0, 0.05}));
    EXPECT_EQ(tabs->columns[0].values[1], 1.002F);
    const auto quoted = readLogText("time (s),lambda\n\"0,00\",\"0,998\"\n\"0,05\",\"1,002\"\n");
    ASSERT_TRUE(quoted) << quoted.error().text();
    EXPECT_EQ(quoted->columns[0].values[1], 1.002F);
}

struct Clocked
{
    const char *name, *text;
    std::vector<double> times;
};

class LogClock : public testing::TestWithParam<Clocked>
{
};

TEST_P(LogClock, IsOneOfSeconds)
{
    const auto log = readLogText(GetParam().text);
    ASSERT_TRUE(log) << log.error().text();
    ASSERT_EQ(log->time_s.size(), GetParam().times.size());
    for (size_t i = 0; i < log->time_s.size(); ++i)
        EXPECT_NEAR(log->time_s[i], GetParam().times[i], 1e-5) << i;
}

INSTANTIATE_TEST_SUITE_P(
    Forms, LogClock,
    testing::Values(Clocked{"Milliseconds", "timestamp (ms),a\n1000,1\n1020,2\n", {0, 0.02}},
                    Clocked{"WholeStepsOfNoUnit", "timestamp,a\n1000,1\n1020,2\n1040,3\n", {0, 0.02, 0.04}},
                    Clocked{"Minutes", "time (min),a\n0,1\n0.5,2\n", {0, 30}},
                    Clocked{"Clock", "time,a\n18:40:05.250,1\n18:40:06,2\n18:41:00.5,3\n", {0, 0.75, 55.25}},
                    Clocked{"MinutesAndSeconds", "time,a\n59:59.9,1\n60:00.1,2\n", {0, 0.2}},
                    Clocked{"Midnight", "time,a\n23:59:59.5,1\n00:00:00.5,2\n", {0, 1}},
                    Clocked{"HalfDays", "time,a\n11:59:59 AM,1\n12:00:01 PM,2\n01:00:00 PM,3\n", {0, 2, 3601}},
                    Clocked{"DateAndClock", "time,a\n2026-11-30T23:59:59.000Z,1\n2026-12-01T00:00:01.5Z,2\n", {0, 2.5}},
                    Clocked{"DayFirst", "time;a\n30.11.2026 23:59:59,5;1\n01.12.2026 00:00:00,5;2\n", {0, 1}},
                    Clocked{"DateOfItsOwn", "date,time,a\n2026-11-30,23:59:59,1\n2026-12-01,00:00:01,2\n", {0, 2}},
                    Clocked{"EpochInMilliseconds", "time,a\n1796064005250,1\n1796064005350,2\n", {0, 0.1}},
                    Clocked{"EpochInSeconds", "time,a\n1796064005.25,1\n1796064005.75,2\n", {0, 0.5}},
                    Clocked{"Of31Bits", "time (ms),a\n2147483600,1\n2147483640,2\n32,3\n72,4\n", {0, 0.04, 0.08, 0.12}},
                    Clocked{"Signed", "time (ms),a\n2147483640,1\n-2147483636,2\n-2147483616,3\n", {0, 0.02, 0.04}},
                    Clocked{"Of16Bits", "time (ms),a\n65500,1\n65530,2\n24,3\n", {0, 0.03, 0.06}},
                    Clocked{"Twice", "time (s),a\n0,1\n0.1,2\n0.1,3\n0.2,4\n", {0, 0.1, 0.1, 0.2}},
                    Clocked{"TwoOfThem", "time (s),time (ms),a\n0,0,1\n0.1,100,2\n", {0, 0.1}},
                    Clocked{"CalledOtherwise", "offset,a\n0.5,1\n0.75,2\n", {0, 0.25}}),
    [](const auto& of) { return of.param.name; });

TEST(ReadLog, WhatWasTakenForTheTimeIsSaid)
{
    const auto log = readLogText("offset,a\n0.5,1\n0.75,2\n");
    ASSERT_TRUE(log);
    EXPECT_THAT(log->remarks, saying("which rises, is taken for it", 2));
    EXPECT_THAT(readLogText("timestamp,a\n1000,1\n1020,2\n")->remarks, saying("taken as ms", 2));
    EXPECT_THAT(readLogText("time (s),time (ms),a\n0,0,1\n0.1,100,2\n")->remarks,
                saying("two columns tell the time", 2));
    EXPECT_THAT(readLogText("time (ms),a\n65500,1\n65530,2\n24,3\n")->remarks, saying("wraps", 4));
}

/// What an injector is open for is a time too, and no clock.
TEST(ReadLog, TimesOfTheEngineAreNoClock)
{
    const auto log = readLogText("Injection time (ms),Oil T,Time (s)\n2.1,80,0\n2.0,80,0.1\n2.3,80,0.2\n1.9,80,0.3\n"
                                 "1.8,80,0.4\n");
    ASSERT_TRUE(log) << log.error().text();
    EXPECT_THAT(log->time_s, time({0, 0.1, 0.2, 0.3, 0.4}));
    EXPECT_THAT(names(*log), ElementsAre("Injection time|ms", "Oil T"));
    EXPECT_THAT(log->remarks, IsEmpty());
}

TEST(ReadLog, AnotherLogInTheSameFileGoesOnAfterIt)
{
    const auto log = readLogText("time (s),a\n0,1\n100,2\ntime (s),a\n0,3\n1,4\n");
    ASSERT_TRUE(log);
    EXPECT_THAT(log->begins, ElementsAre(2U));
    EXPECT_THAT(log->time_s, time({0, 100, 101, 102}));
    EXPECT_THAT(log->remarks, saying("another log begins", 5));
    const auto back = readLogText("time (s),a\n0,1\n100,2\n0,3\n1,4\n");
    ASSERT_TRUE(back);
    EXPECT_THAT(back->begins, ElementsAre(2U));
}

TEST(ReadLog, TwoRatesBetweenEachOtherComeIntoTheirOrder)
{
    const auto log = readLogText("time (s),fast,slow\n0.0,1,\n0.1,2,\n0.05,,7\n0.2,3,\n0.15,,8\n");
    ASSERT_TRUE(log);
    EXPECT_THAT(log->time_s, time({0, 0.05, 0.1, 0.15, 0.2}));
    EXPECT_EQ(log->columns[1].values[1], 7);
    EXPECT_EQ(log->columns[0].values[4], 3);
    EXPECT_THAT(log->remarks, saying("put in their order: 2", 4));
}

TEST(ReadLog, MarksAndWordsAreEvents)
{
    const auto log = readLogText("time (s),a,mark\n0,1,\n1,2,1\nMARK leak checked\n2,3,\n3,4,over the bridge\n");
    ASSERT_TRUE(log) << log.error().text();
    ASSERT_EQ(log->events.size(), 3U);
    EXPECT_EQ(log->events[0].text, "mark 1");
    EXPECT_EQ(log->events[0].time_s, 1);
    EXPECT_EQ(log->events[1].text, "MARK leak checked");
    EXPECT_EQ(log->events[1].time_s, 2);
    EXPECT_EQ(log->events[2].text, "over the bridge");
    EXPECT_THAT(names(*log), ElementsAre("a"));
}

TEST(ReadLog, SwitchesAreNumbersAndOtherWordsAreSaidWithTheirPlace)
{
    const auto log = readLogText("time (s),fan,clt,gear\n0,ON,90,-\n1,off,hot,-\n2,On,91,N\n3,OFF,wet,-\n");
    ASSERT_TRUE(log);
    EXPECT_THAT(log->columns[0].values, ElementsAre(1, 0, 1, 0));
    EXPECT_TRUE(std::isnan(log->columns[1].values[1]));
    const auto said = std::ranges::find(log->remarks, "clt", &Remark::column);
    ASSERT_NE(said, log->remarks.end());
    EXPECT_EQ(said->sentence, "cells that are no number were left empty: 2, such as \"hot\"");
    EXPECT_EQ(said->line, 3U);
    EXPECT_THAT(names(*log), ElementsAre("fan", "clt")); // gear has no number at all
}

TEST(ReadLog, RowsCutShortAreLeftOutAndSaid)
{
    const auto end = readLogText("time (s),a,b\n0,1,2\n1,3,4\n2,5");
    ASSERT_TRUE(end);
    EXPECT_EQ(end->rows(), 2U);
    EXPECT_THAT(end->remarks, saying("the last line is cut short", 4));
    const auto middle = readLogText("time (s),a,b\n0,1,2\n1,3\n2,5,6\n3,5,6,7\n4,1,1,\n");
    ASSERT_TRUE(middle);
    EXPECT_EQ(middle->rows(), 3U); // nothing stands behind the last separator of the last
    EXPECT_THAT(middle->remarks, saying("rows of another length were left out: 2", 3));
    const auto timeless = readLogText("time (s),a,b\n0,1,2\n,3,4\n2,5,6\n");
    ASSERT_TRUE(timeless);
    EXPECT_THAT(timeless->remarks, saying("rows without a time were left out: 1", 3));
}

TEST(ReadLog, OtherColumnsEndIt)
{
    const auto log = readLogText("time (s),a,b\n0,1,2\ntime (s),c,d,e\n0,1,2,3\n");
    ASSERT_TRUE(log);
    EXPECT_EQ(log->rows(), 1U);
    EXPECT_THAT(log->remarks, saying("other columns begin", 3));
}

TEST(ReadLog, WhatIsNoLogSaysWhy)
{
    const auto error = [](const std::string& text) { return readLogText(text).error(); };
    EXPECT_EQ(error("").code, ErrorCode::Malformed);
    EXPECT_EQ(error("a,b\n").code, ErrorCode::Malformed);
    EXPECT_THAT(error("\xFF\xFEt\0i\0").sentence, HasSubstr("UTF-8"));
    EXPECT_EQ(error("rpm,boost\n900,100\n850,101\n").code, ErrorCode::Range);
    EXPECT_THAT(error("rpm,boost\n900,100\n850,101\n").sentence, HasSubstr("no column tells the time"));
    std::string wide = "time (s)", row = "0";
    for (size_t i = 0; i <= kMostColumns; ++i) {
        wide += ",c" + std::to_string(i);
        row += ",1";
    }
    EXPECT_EQ(error(wide + "\n" + row + "\n").code, ErrorCode::TooBig);
    std::string million;
    for (int i = 0; i < 1'000'000; ++i)
        million += "c" + std::to_string(i) + ",";
    EXPECT_EQ(error("time," + million + "\n0," + million + "\n").code, ErrorCode::TooBig);
    EXPECT_EQ(error("time (s),a\n0,1\n" + std::string(20U << 20, '7')).code, ErrorCode::TooBig);
}

TEST(ReadLog, AFileThatIsNotThereAndOneThatIsStopped)
{
    EXPECT_EQ(readLog("/no/such/log.csv").error().code, ErrorCode::Io);
    EXPECT_EQ(readLog(std::filesystem::temp_directory_path()).error().code, ErrorCode::Io);
    const auto file = std::filesystem::temp_directory_path() / ("stopped-" + std::to_string(getpid()) + ".csv");
    {
        std::ofstream out(file);
        out << "time (s),a\n";
        for (int i = 0; i < 400'000; ++i)
            out << i << ",1\n";
    }
    double least = 2, most = 0;
    const auto whole = readLog(file, [&](double share) {
        least = std::min(least, share);
        most = std::max(most, share);
        return true;
    });
    ASSERT_TRUE(whole);
    EXPECT_EQ(whole->rows(), 400'000U);
    EXPECT_LT(least, 0.7);
    EXPECT_EQ(most, 1);
    EXPECT_EQ(lineOf(*whole, 300'001), 300'003U);
    EXPECT_THAT(readLog(file, [](double) { return false; }).error().sentence, HasSubstr("stopped"));
    std::filesystem::remove(file);
}

/// Pieces that end anywhere give the same as one: a log of several megabytes against sums worked out beside it.
TEST(ReadLog, ManyPiecesGiveWhatOneGives)
{
    std::mt19937 chance(7);
    std::string text = "time (s),a,b\n";
    double sumA = 0, sumB = 0;
    size_t rows = 0, blanks = 0;
    for (int i = 0; i < 200'000; ++i) {
        const int a = static_cast<int>(chance() % 100'000), b = static_cast<int>(chance() % 1000);
        text += std::to_string(i) + "." + std::to_string(chance() % 9) + "," + std::to_string(a) + ",";
        if (b % 7 != 0) {
            text += std::to_string(b);
            sumB += b;
        } else {
            ++blanks;
        }
        text += i % 3 == 0 ? "\r\n" : "\n";
        sumA += a;
        ++rows;
    }
    const auto log = readLogText(text);
    ASSERT_TRUE(log);
    const Summary a = summaryOf(log->columns[0].values), b = summaryOf(log->columns[1].values);
    EXPECT_EQ(a.count, rows);
    EXPECT_EQ(b.count, rows - blanks);
    EXPECT_NEAR(a.mean * static_cast<double>(a.count), sumA, 1e-3);
    EXPECT_NEAR(b.mean * static_cast<double>(b.count), sumB, 1e-3);
    EXPECT_TRUE(std::ranges::is_sorted(log->time_s));
}

/// Whatever is broken in a log, it ends in a log whose columns are as long as its time, or in a sentence.
TEST(ReadLog, BrokenLogsEndInALogOrASentence)
{
    const std::string good =
        "Log\ntime (s);rpm;\"a; b\";mark\ns;1/min;kPa;\n0,0;850;1,5;\n0,1;900;on;1\n0,2;;nan;word\n"
        "0,1;950;7;\ntime (s);rpm;\"a; b\";mark\n0,0;1;2;\n12:00:01;5;6;\n";
    std::mt19937 chance(11);
    for (int i = 0; i < 20'000; ++i) {
        std::string text = good;
        for (unsigned k = 0; k <= chance() % 4; ++k) {
            const size_t at = chance() % text.size();
            constexpr char kSet[] = "0123456789,.;\t\n\r\"-+eE: T\xFF\xC3|";
            switch (chance() % 4) {
            case 0:
                text[at] = kSet[chance() % (sizeof kSet - 1)];
                break;
            case 1:
                text.insert(at, 1, kSet[chance() % (sizeof kSet - 1)]);
                break;
            case 2:
                text.erase(at, 1 + chance() % 9);
                break;
            default:
                text.insert(at, text.substr(chance() % text.size(), chance() % 30));
                break;
            }
            if (text.empty())
                break;
        }
        const auto log = readLogText(text);
        if (!log) {
            EXPECT_FALSE(log.error().sentence.empty());
            continue;
        }
        EXPECT_TRUE(std::ranges::is_sorted(log->time_s)) << text;
        for (const Column& c : log->columns)
            ASSERT_EQ(c.values.size(), log->rows()) << text;
    }
}

TEST(WriteLog, IsReadAgain)
{
    const auto log = readLogText("time (s),\"Boost, asked (kPa)\",clt\n5,101.25,\n5.1,102.5,90\n5.2,103,91\n");
    ASSERT_TRUE(log);
    const std::string text = csvOf(*log, 1, 3);
    EXPECT_EQ(text, "time (s),\"Boost, asked (kPa)\",clt\r\n0,102.5,90\r\n0.1,103,91\r\n");
    const auto again = readLogText(text);
    ASSERT_TRUE(again);
    EXPECT_EQ(again->columns[1].values, std::vector<float>({90, 91}));
    EXPECT_EQ(csvOf(*log, 0, 1, {1}), "time (s),clt\r\n0,\r\n");
}

} // namespace
} // namespace vicegrip::log
