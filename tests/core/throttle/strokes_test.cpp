#include "core/throttle/strokes.h"

#include <cmath>
#include <gmock/gmock.h>
#include <random>

namespace vicegrip::throttle {
namespace {

using testing::HasSubstr;

constexpr double kCount_v = 5.0 / 4095;

/// Hands at a throttle: rests and ways, at 100 samples a second, through a 12-bit converter.
class Stroker
{
  public:
    explicit Stroker(double noise_v = 0.002, unsigned seed = 1) : m_noise(noise_v), m_random(seed) {}

    Stroker& rest(double volts, double seconds = 0.8) { return way(volts, volts, seconds); }
    Stroker& way(double from, double to, double seconds = 1.5)
    {
        const int samples = static_cast<int>(seconds * 100);
        for (int i = 0; i < samples; ++i)
            sample(std::lerp(from, to, static_cast<double>(i) / samples));
        return *this;
    }
    Stroker& sample(double volts)
    {
        r.time_s.push_back(static_cast<double>(r.time_s.size()) * 0.01);
        const double noisy = volts + std::normal_distribution<double>(0, m_noise)(m_random);
        r.volts.push_back(std::round(noisy / kCount_v) * kCount_v);
        return *this;
    }
    Stroker& stroke(double closed, double open) { return rest(closed).way(closed, open).rest(open).way(open, closed); }

    Recording r;

  private:
    double m_noise;
    std::mt19937 m_random;
};

// Common practice, no source: about 0.2 V closed and 4.5 V open; two slow full strokes are the usual teach.
TEST(Strokes, RestsAndLimitsOfAGoodThrottle)
{
    for (unsigned seed = 1; seed <= 20; ++seed) {
        const auto r = reportOn(Stroker(0.003, seed).stroke(0.2, 4.5).stroke(0.2, 4.5).rest(0.2).r, kCount_v);
        ASSERT_TRUE(r) << r.error().text();
        EXPECT_EQ(r->strokes, 4);
        EXPECT_NEAR(r->closed_v, 0.2, 0.002);
        EXPECT_NEAR(r->open_v, 4.5, 0.002);
        EXPECT_NEAR(r->noise_v, 0.003, 0.0012);
        EXPECT_FALSE(r->falls);
        EXPECT_TRUE(r->deadSpots.empty()) << r->deadSpots.front().volts;
        EXPECT_GE(r->limits.closed_v, r->closed_v + kCount_v) << "inward by a count at least";
        EXPECT_LE(r->limits.open_v, r->open_v - kCount_v);
        EXPECT_NEAR(r->margin_v, 3 * r->noise_v, 1e-9);
        EXPECT_LT(r->limits.closed_v, r->closed_v + 0.03) << "and not so far that travel is lost";
    }
}

TEST(Strokes, AQuietSignalKeepsACount)
{
    const auto r = reportOn(Stroker(0).stroke(0.5, 4.2).rest(0.5).r, kCount_v);
    ASSERT_TRUE(r);
    EXPECT_NEAR(r->margin_v, kCount_v, 1e-4);
}

TEST(Strokes, ReversedReadsLessWhenOpen)
{
    const auto r = reportOn(Stroker().stroke(4.6, 0.4).stroke(4.6, 0.4).rest(4.6).r, kCount_v);
    ASSERT_TRUE(r);
    EXPECT_TRUE(r->falls);
    EXPECT_NEAR(r->closed_v, 4.6, 0.003);
    EXPECT_LT(r->limits.closed_v, r->closed_v) << "inward is down here";
    EXPECT_GT(r->limits.open_v, r->open_v);
}

TEST(Strokes, APlateThatDoesNotQuiteShutIsSeen)
{
    const auto r = reportOn(Stroker()
                                .rest(0.2)
                                .way(0.2, 4.5)
                                .rest(4.5)
                                .way(4.5, 0.29)
                                .rest(0.29)
                                .way(0.29, 4.5)
                                .rest(4.5)
                                .way(4.5, 0.21)
                                .rest(0.21)
                                .r,
                            kCount_v);
    ASSERT_TRUE(r);
    EXPECT_EQ(r->closed.size(), 3U);
    EXPECT_NEAR(r->closedSpread_v, 0.09, 0.004);
    EXPECT_GT(r->limits.closed_v, 0.21 + 0.04) << "the limit makes room for it";
}

TEST(Strokes, ADeadSpotIsFoundInEveryStroke)
{
    Stroker hands;
    const auto worn = [&](double from, double to) {
        for (int i = 0; i < 150; ++i) {
            const double v = std::lerp(from, to, i / 150.0);
            hands.sample(v > 1.50 && v < 1.62 ? 0.05 : v);
        }
    };
    hands.rest(0.2);
    worn(0.2, 4.5);
    hands.rest(4.5);
    worn(4.5, 0.2);
    hands.rest(0.2);
    worn(0.2, 4.5);
    hands.rest(4.5);
    const auto r = reportOn(hands.r, kCount_v);
    ASSERT_TRUE(r) << r.error().text();
    EXPECT_EQ(r->strokes, 3);
    ASSERT_EQ(r->deadSpots.size(), 1U);
    EXPECT_NEAR(r->deadSpots[0].volts, 1.56, 0.08);
    EXPECT_NEAR(r->deadSpots[0].depth_v, 1.5, 0.1);
    EXPECT_EQ(r->deadSpots[0].strokes, 3);
}

TEST(Strokes, AQuickHandLeavesFewSamplesAndNoDeadSpot)
{
    for (unsigned seed = 1; seed <= 40; ++seed) {
        Stroker hands(0.004, seed);
        const auto ladder = [&](double from, double to) {
            for (int step = 1; step < 12; ++step)
                for (unsigned held = 0; held < 2 + (seed + static_cast<unsigned>(step)) % 3; ++held)
                    hands.sample(std::lerp(from, to, step / 12.0));
        };
        for (int stroke = 0; stroke < 2; ++stroke) {
            hands.rest(0.3);
            ladder(0.3, 4.3);
            hands.rest(4.3);
            ladder(4.3, 0.3);
        }
        const auto r = reportOn(hands.rest(0.3).r, kCount_v);
        ASSERT_TRUE(r) << r.error().text();
        EXPECT_TRUE(r->deadSpots.empty()) << "seed " << seed << " at " << r->deadSpots.front().volts << " V";
    }
}

TEST(Strokes, OneTouchOfTheWireIsCountedOnce)
{
    Stroker hands;
    hands.stroke(0.2, 4.5).rest(0.2);
    hands.r.volts[80 + 60] = 4.9; // within the first way
    const auto r = reportOn(hands.stroke(0.2, 4.5).r, kCount_v);
    ASSERT_TRUE(r);
    ASSERT_EQ(r->deadSpots.size(), 1U);
    EXPECT_EQ(r->deadSpots[0].strokes, 1);
}

TEST(Strokes, AHandThatPausesIsNoStop)
{
    const auto r =
        reportOn(Stroker().rest(0.2).way(0.2, 2).rest(2).way(2, 4.5).rest(4.5).way(4.5, 0.2).rest(0.2).r, kCount_v);
    ASSERT_TRUE(r);
    EXPECT_EQ(r->strokes, 2);
    EXPECT_EQ(r->closed.size(), 2U);
    EXPECT_EQ(r->open.size(), 1U);
}

TEST(Strokes, TwoTracksAgreeOrNot)
{
    for (const auto& [slope, offset, crossed] : {std::tuple(0.5, 0.0, false), {-1.0, 5.0, true}}) {
        Stroker hands;
        hands.stroke(0.5, 4.5).rest(0.5);
        for (double v : hands.r.volts)
            hands.r.second.push_back(offset + slope * v);
        auto r = reportOn(hands.r, kCount_v);
        ASSERT_TRUE(r && r->pair);
        EXPECT_NEAR(r->pair->slope, slope, 0.002);
        EXPECT_NEAR(r->pair->offset_v, offset, 0.005);
        EXPECT_EQ(r->pair->crossed, crossed);
        EXPECT_LT(r->pair->worst_v, 0.01);
        // One sample that parts, at rest, on the way, at either end of the recording: each is found.
        for (const size_t at : {size_t{0}, size_t{40}, size_t{150}, hands.r.second.size() - 1}) {
            Recording parting = hands.r;
            parting.second[at] += 0.4;
            r = reportOn(parting, kCount_v);
            ASSERT_TRUE(r && r->pair) << at;
            EXPECT_NEAR(r->pair->worst_v, 0.4, 0.02) << at;
        }
    }
}

TEST(Strokes, WhatIsNoStrokeIsSaid)
{
    EXPECT_THAT(reportOn(Stroker().rest(0.2, 3).r, kCount_v).error().sentence, HasSubstr("never moves"));
    EXPECT_THAT(reportOn(Stroker().rest(0.2).way(0.2, 4.5, 2).r, kCount_v).error().sentence,
                HasSubstr("no rest at the high end"));
    EXPECT_THAT(reportOn(Stroker().way(0.2, 4.5, 2).way(4.5, 0.2, 2).r, kCount_v).error().sentence,
                HasSubstr("no rest"));
}

std::string rows(int count, const char* replace = "", int at = -1)
{
    std::string out = "time (s),volts\n";
    for (int i = 0; i < count; ++i)
        out += i == at ? std::string(replace) + "\n" : std::to_string(i * 0.01) + ",0.5\n";
    return out;
}

TEST(Recording, BadRowsAreSaidWithTheirLine)
{
    for (const auto& [replace, said] :
         {std::pair("0.09,0.5", "does not go on"), {"9,0.5", "gap of 8.9 s"}, {"0.105,500", "are these volts?"}}) {
        const auto table = readNumbers(rows(40, replace, 10), 2);
        ASSERT_TRUE(table) << table.error().text();
        const auto recording = recordingFrom(*table);
        ASSERT_FALSE(recording) << replace;
        EXPECT_THAT(recording.error().sentence, HasSubstr(said));
        EXPECT_EQ(recording.error().place.line, 12);
    }
    EXPECT_THAT(readNumbers(rows(40, "0.1,nan", 10), 2).error().text(), HasSubstr("line 12: "));
    EXPECT_THAT(recordingFrom(*readNumbers(rows(5), 2)).error().sentence, HasSubstr("5 rows are no stroke"));
    EXPECT_THAT(recordingFrom(*readNumbers("1\n2\n3\n", 1)).error().sentence, HasSubstr("column of time"));
}

TEST(Recording, MillisecondsAndCommasAreUnderstood)
{
    std::string text = "\xEF\xBB\xBFTime (ms);Volts;Track 2\n";
    for (int i = 0; i < 30; ++i)
        text += std::to_string(i * 10) + ";0,5;0,25\n";
    const auto recording = recordingFrom(*readNumbers(text, 2));
    ASSERT_TRUE(recording) << recording.error().text();
    EXPECT_NEAR(recording->time_s.back(), 0.29, 1e-12);
    EXPECT_EQ(recording->volts.front(), 0.5);
    EXPECT_EQ(recording->second.front(), 0.25);
}

// A scope's recording: a hundred thousand samples a second, where a sample's step is far below the noise.
TEST(Strokes, AFastRecordingGivesTheSame)
{
    std::mt19937 random(3);
    std::normal_distribution<double> noise(0, 0.004);
    Recording r;
    const auto add = [&](double from, double to, double seconds) {
        const int samples = static_cast<int>(seconds * 1e5);
        for (int i = 0; i < samples; ++i) {
            r.time_s.push_back(static_cast<double>(r.time_s.size()) * 1e-5);
            r.volts.push_back(std::lerp(from, to, static_cast<double>(i) / samples) + noise(random));
        }
    };
    add(0.2, 0.2, 1);
    add(0.2, 4.5, 1.5);
    add(4.5, 4.5, 1);
    add(4.5, 0.2, 1.5);
    add(0.2, 0.2, 1);
    const auto report = reportOn(r, kCount_v);
    ASSERT_TRUE(report) << report.error().text();
    EXPECT_EQ(report->strokes, 2);
    EXPECT_NEAR(report->closed_v, 0.2, 0.003);
    EXPECT_NEAR(report->open_v, 4.5, 0.003);
    EXPECT_TRUE(report->deadSpots.empty());
}

// 24 of 1,600 samples at 0 V: the wiper lifts, here and there and once for a quarter of a second.
TEST(Strokes, ALiftedWiperIsNoStop)
{
    for (unsigned seed = 1; seed <= 20; ++seed) {
        Recording r = Stroker(0.003, seed).stroke(0.7, 4.3).stroke(0.7, 4.3).stroke(0.7, 4.3).rest(0.7, 1.8).r;
        std::mt19937 random(seed);
        for (int i = 0; i < 24; ++i)
            r.volts[random() % r.volts.size()] = 0;
        const size_t at = 100 + random() % (r.volts.size() - 200);
        std::fill_n(r.volts.begin() + static_cast<std::ptrdiff_t>(at), 26, 0.0);
        const auto found = reportOn(r, kCount_v);
        ASSERT_TRUE(found) << found.error().text() << " seed " << seed;
        EXPECT_NEAR(found->closed_v, 0.7, 0.004) << seed;
        EXPECT_NEAR(found->open_v, 4.3, 0.004) << seed;
        EXPECT_EQ(found->strokes, 6) << seed;
    }
}

/// At every rest the ECU reads closed, or open: whatever their number and skew, and whichever way it goes.
TEST(Strokes, LimitsAreInsideEveryRest)
{
    const auto two = reportOn(Stroker(0.001).stroke(0.7, 4.44).stroke(0.7, 4.50).rest(0.7).r, kCount_v);
    ASSERT_TRUE(two);
    EXPECT_LT(two->limits.open_v, 4.44) << "4.44 V is open as well";
    std::mt19937 random(8);
    for (int run = 0; run < 60; ++run) {
        const bool falls = run % 2 == 1;
        const auto volts = [&](double v) { return falls ? 5 - v : v; };
        Stroker hands(0.002, static_cast<unsigned>(run + 1));
        const int strokes = 1 + static_cast<int>(random() % 4);
        for (int i = 0; i < strokes; ++i) {
            const double closed = 0.6 + static_cast<double>(random() % 100) * 1e-3,
                         open = 4.3 - static_cast<double>(random() % 100) * 1e-3;
            hands.stroke(volts(closed), volts(open));
        }
        hands.rest(volts(0.65));
        const auto r = reportOn(hands.r, kCount_v);
        ASSERT_TRUE(r) << r.error().text();
        const double inward = falls ? -1 : 1;
        for (const Rest& rest : r->closed)
            EXPECT_GT(inward * (r->limits.closed_v - rest.volts), 0) << run;
        for (const Rest& rest : r->open)
            EXPECT_LT(inward * (r->limits.open_v - rest.volts), 0) << run;
    }
}

/// Two tracks heard one after the other, a hand that is quick: samples of the second fall between those of the first.
TEST(LivePair, AQuickHandMakesNoTracksPart)
{
    Recording r;
    LivePair pair;
    const auto at = [](double t) {
        return t < 1 ? 0.5 : t < 1.4 ? 0.5 + (t - 1) * 10 : t < 2.4 ? 4.5 : t < 2.8 ? 4.5 - (t - 2.4) * 10 : 0.5;
    };
    for (int i = 0; i < 50; ++i) {
        const double t = i * 0.1;
        r.time_s.push_back(t);
        r.volts.push_back(at(t));
        if (i > 2) // it is heard a little later, and late
            pair.second(r, t + 0.05, 5 - at(t + 0.05));
    }
    pair.close(r);
    ASSERT_EQ(r.second.size(), r.volts.size());
    const auto report = reportOn(r, kCount_v);
    ASSERT_TRUE(report && report->pair) << report.error().text();
    EXPECT_TRUE(report->pair->crossed);
    EXPECT_LT(report->pair->worst_v, 0.6) << "kinks between two samples, not a stale one: that would be 0.5 V a sample";
    Recording alone = r;
    alone.second.resize(5);
    pair.close(alone);
    EXPECT_TRUE(alone.second.empty()) << "hardly heard is none";
}

} // namespace
} // namespace vicegrip::throttle
