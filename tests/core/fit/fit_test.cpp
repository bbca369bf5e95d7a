#include "core/base/number_table.h"
#include "core/fit/line.h"
#include "core/fit/monotone.h"
#include "core/fit/thermistor.h"

#include <algorithm>
#include <cmath>
#include <gmock/gmock.h>
#include <limits>
#include <random>

/// Curves through readings: what they must do, and what they refuse.
namespace vicegrip::fit {
namespace {

using testing::HasSubstr;

TEST(FitLine, ATrueLineIsFoundWithoutResidual)
{
    for (const double sigmaX : {0.0, 0.01, 3.0}) {
        std::vector<Point> points;
        for (double x : {-3.0, 0.5, 2.0, 8.0})
            points.push_back({x, 4 - 2.5 * x, sigmaX, 0.1});
        const auto line = fitLine(points);
        ASSERT_TRUE(line);
        EXPECT_NEAR(line->slope, -2.5, 1e-12);
        EXPECT_NEAR(line->intercept, 4, 1e-12);
        EXPECT_NEAR(line->chiSquared, 0, 1e-20);
    }
}

/// Exchanging the axes must give the same line: neither axis is the true one.
TEST(FitLine, TheAxesAreEqual)
{
    std::mt19937 random(5);
    std::normal_distribution<double> noise;
    std::vector<Point> points, turned;
    for (int i = 0; i < 25; ++i) {
        const Point p{i + 0.3 * noise(random), 2 + 0.7 * i + 0.2 * noise(random), 0.3, 0.2};
        points.push_back(p);
        turned.push_back({p.y, p.x, p.sigmaY, p.sigmaX});
    }
    const auto line = fitLine(points), other = fitLine(turned);
    ASSERT_TRUE(line && other);
    EXPECT_NEAR(line->slope, 1 / other->slope, 1e-10);
    EXPECT_NEAR(line->chiSquared, other->chiSquared, 1e-9);
}

/// The stated standard deviations are what repeated fits scatter by: 2000 draws of one experiment.
TEST(FitLine, TheStatedSigmasAreTheScatterOfManyFits)
{
    std::mt19937 random(9);
    std::normal_distribution<double> noise;
    constexpr int kDraws = 2000;
    double sum = 0, squares = 0, stated = 0, chi = 0;
    for (int draw = 0; draw < kDraws; ++draw) {
        std::vector<Point> points;
        for (int i = 0; i < 12; ++i)
            points.push_back({i + 0.1 * noise(random), 1.0 + 0.5 * i + 0.05 * noise(random), 0.1, 0.05});
        const auto line = fitLine(points);
        ASSERT_TRUE(line);
        sum += line->slope;
        squares += line->slope * line->slope;
        stated += line->sigmaSlope / kDraws;
        chi += line->chiSquared / line->freedom / kDraws;
    }
    const double mean = sum / kDraws, scatter = std::sqrt(squares / kDraws - mean * mean);
    EXPECT_NEAR(mean, 0.5, 4 * scatter / std::sqrt(kDraws));
    EXPECT_NEAR(scatter / stated, 1, 0.06);
    EXPECT_NEAR(chi, 1, 0.05);
}

TEST(FitLine, WhatIsNoLineIsSaid)
{
    EXPECT_THAT(fitLine({{0, 0}, {1, 1}}).error().sentence, HasSubstr("three points"));
    EXPECT_THAT(fitLine({{1, 0}, {1, 1}, {1, 2}}).error().sentence, HasSubstr("same x"));
    EXPECT_THAT(fitLine({{0, 0, -1, 1}, {1, 1, 1, 1}, {2, 2, 1, 1}}).error().sentence, HasSubstr("below 0"));
    EXPECT_THAT(fitLine({{0, 0, 0, 1}, {1, 1}, {2, 2, 1, 1}}).error().sentence, HasSubstr("some"));
    const auto flat = fitLine({{0, 5}, {1, 5}, {2, 5}});
    ASSERT_TRUE(flat) << "a level line is a line";
    EXPECT_NEAR(flat->slope, 0, 1e-15);
}

TEST(FitLine, OneBadPointHasTheLargestPull)
{
    std::vector<Point> points;
    for (int i = 0; i < 10; ++i)
        points.push_back({static_cast<double>(i), 2.0 * i + (i % 2 == 0 ? 0.01 : -0.01), 0, 0.02});
    points[6].y += 0.5;
    const auto line = fitLine(points);
    ASSERT_TRUE(line);
    EXPECT_EQ(std::ranges::max_element(line->pulls, {}, [](double p) { return std::abs(p); }) - line->pulls.begin(), 6);
    EXPECT_GT(line->sigmaAt(9), line->sigmaAt(4.5)) << "the band is narrowest in the middle";
}

double chiSquaredOf(const std::vector<Point>& points, double slope, double intercept)
{
    double sum = 0;
    for (const Point& p : points)
        sum += std::pow(p.y - intercept - slope * p.x, 2) / (p.sigmaY * p.sigmaY + slope * slope * p.sigmaX * p.sigmaX);
    return sum;
}

/// No line anywhere has a chi squared below the fit's, sigmas as wide as the points lie apart included.
TEST(FitLine, NoOtherLineHasLess)
{
    std::mt19937 random(12); // NOLINT(bugprone-random-generator-seed)
    std::normal_distribution<double> normal;
    for (int run = 0; run < 300; ++run) {
        std::vector<Point> points;
        const double wide = run % 3 == 0 ? 5 : 0.3;
        for (int i = 0; i < 6; ++i) {
            const double x = i + wide * normal(random);
            points.push_back({x, 3 + 2 * i + wide * normal(random), wide * std::abs(normal(random)) + 0.01,
                              wide * std::abs(normal(random)) + 0.01});
        }
        const auto line = fitLine(points);
        if (!line)
            continue; // upright
        EXPECT_NEAR(line->chiSquared, chiSquaredOf(points, line->slope, line->intercept), 1e-6 * line->chiSquared);
        for (int angle = 1; angle < 180; ++angle) {
            const double slope = 2 * std::tan((angle - 90) * 3.14159265358979 / 180);
            double weights = 0, meanX = 0, meanY = 0;
            for (const Point& p : points) {
                const double w = 1 / (p.sigmaY * p.sigmaY + slope * slope * p.sigmaX * p.sigmaX);
                weights += w;
                meanX += w * p.x;
                meanY += w * p.y;
            }
            EXPECT_GE(chiSquaredOf(points, slope, meanY / weights - slope * meanX / weights),
                      line->chiSquared * (1 - 1e-6))
                << "run " << run << ", slope " << slope << " against " << line->slope;
        }
    }
}

// NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.4, upper critical values at 0.01 (from memory).
TEST(FitLine, ChiSquaredsLimitIsTheTables)
{
    for (const auto& [freedom, limit] : {std::pair(1, 6.635), {2, 9.210}, {5, 15.086}, {10, 23.209}, {30, 50.892}})
        EXPECT_NEAR(chiSquaredLimit(freedom), limit, 0.01 * limit) << freedom;
}

/// What the fit says of its own error is what many fits scatter by.
TEST(FitThermistor, TheBandIsTheScatterOfManyFits)
{
    const parts::SteinhartHartCurve curve{1.129148e-3, 2.34125e-4, 8.76741e-8};
    constexpr int kDraws = 2000;
    std::mt19937 random(5); // NOLINT(bugprone-random-generator-seed)
    std::normal_distribution<double> error;
    const double ohm = parts::ohms(curve, 313.15);
    double sum = 0, squares = 0, stated = 0, found = 0;
    for (int i = 0; i < kDraws; ++i) {
        std::vector<parts::TableCurve::Point> readings;
        std::vector<double> sigmas;
        for (const double kelvin : {263.15, 283.15, 303.15, 323.15, 343.15, 363.15}) {
            readings.push_back({kelvin + 0.3 * error(random), parts::ohms(curve, kelvin)});
            sigmas.push_back(0.3);
        }
        const auto weighed = fitThermistor(readings, sigmas), bare = fitThermistor(readings);
        ASSERT_TRUE(weighed && bare);
        const double kelvin = parts::kelvin(weighed->curve, ohm) - 313.15;
        sum += kelvin;
        squares += kelvin * kelvin;
        stated += weighed->sigmaAt(ohm) / kDraws;
        found += bare->sigmaAt(ohm) * bare->sigmaAt(ohm) / kDraws;
    }
    const double mean = sum / kDraws, scatter = std::sqrt(squares / kDraws - mean * mean);
    EXPECT_NEAR(mean, 0, 4 * scatter / std::sqrt(kDraws));
    EXPECT_NEAR(stated / scatter, 1, 0.06);
    EXPECT_NEAR(std::sqrt(found) / scatter, 1, 0.12) << "without sigmas, by the scatter about the curve";
    std::vector<parts::TableCurve::Point> three;
    for (const double kelvin : {273.15, 298.15, 323.15})
        three.push_back({kelvin, parts::ohms(curve, kelvin)});
    EXPECT_EQ(fitThermistor(three)->sigmaAt(3000), 0) << "three tell none";
    EXPECT_THAT(fitThermistor({{273, 9000}, {300, 3000}, {320, 1500}}, {1, 0, 1}).error().sentence,
                HasSubstr("or none"));
}

// Three good readings of a 2k2 thermistor, one of them 0.3 K off, would want C below 0: such a curve has no resistance
// at some temperatures, and everything that rests on it would be no number.
TEST(FitThermistor, ACurveThatCannotBeUsedIsNotMade)
{
    const parts::BetaCurve truth{2200, 3500};
    int straight = 0;
    for (const double off : {-0.6, -0.3, 0.0, 0.3, 0.6})
        for (const size_t which : {0U, 1U, 2U}) {
            std::vector<parts::TableCurve::Point> readings;
            for (const double kelvin : {273.15, 303.15, 353.15})
                readings.push_back({kelvin, parts::ohms(truth, kelvin)});
            readings[which].kelvin += off;
            const auto fit = fitThermistor(readings);
            ASSERT_TRUE(fit) << fit.error().text();
            EXPECT_GE(fit->curve.c, 0);
            EXPECT_EQ(fit->straight, fit->curve.c == 0);
            straight += fit->straight ? 1 : 0;
            EXPECT_LT(fit->worst_k, 0.7);
            double before = std::numeric_limits<double>::infinity();
            for (double kelvin = 233; kelvin < 430; kelvin += 1) {
                const double ohm = parts::ohms(fit->curve, kelvin);
                EXPECT_TRUE(std::isfinite(ohm) && ohm > 0 && ohm < before) << kelvin << " K: " << ohm;
                before = ohm;
            }
        }
    EXPECT_GT(straight, 3);
}

TEST(FitThermistor, ReadingsThatCannotBeAreSaid)
{
    using Readings = std::vector<parts::TableCurve::Point>;
    EXPECT_THAT(fitThermistor(Readings{{273, 9000}, {300, 3000}}).error().sentence, HasSubstr("three readings"));
    EXPECT_THAT(fitThermistor(Readings{{273, 9000}, {274, 8900}, {300, 3000}}).error().sentence, HasSubstr("closer"));
    EXPECT_THAT(fitThermistor(Readings{{273, 3000}, {300, 9000}, {320, 12000}}).error().sentence,
                HasSubstr("does not fall"));
    EXPECT_THAT(fitThermistor(Readings{{273, 9000}, {300, 0}, {320, 1000}}).error().sentence, HasSubstr("0 Ohm"));
    EXPECT_FALSE(fitThermistor(Readings{{273, 9000}, {300, 8999}, {302, 10}}));
}

TEST(FitMonotone, ItNeitherOvershootsNorTurnsBack)
{
    const auto curve = Monotone::through({{0, 0}, {1, 0}, {2, 9}, {2.1, 9}, {5, 10}});
    ASSERT_TRUE(curve);
    double last = curve->at(-1);
    EXPECT_EQ(last, 0) << "beyond the end its own value";
    for (double x = 0; x <= 6; x += 0.01) {
        EXPECT_GE(curve->at(x), last - 1e-12) << x;
        EXPECT_LE(curve->at(x), 10);
        last = curve->at(x);
    }
    EXPECT_FALSE(Monotone::through({{1, 1}}));
    EXPECT_FALSE(Monotone::through({{1, 1}, {1, 2}}));
}

TEST(NumberTable, WhatOtherProgramsWriteIsRead)
{
    for (const char* text : {"x,y\n1.5,2\n-3,+4e2\n", "\xEF\xBB\xBFx;y\r\n1,5;2\r\n\r\n-3;400\r\n",
                             "# a logger\n1,5\t2\n-3\t4e2", "\"1.5\",\"2\"\n-3,400\n"}) {
        const auto table = readNumbers(text, 2);
        ASSERT_TRUE(table) << text << table.error().text();
        EXPECT_EQ(table->columns, 2U);
        EXPECT_EQ(table->cells, (std::vector<double>{1.5, 2, -3, 400})) << text;
    }
    EXPECT_EQ(readNumbers("x,y\n1,2\n", 2)->names, (std::vector<std::string>{"x", "y"}));
    EXPECT_EQ(readNumbers("x,y\n\n1,2\n", 2)->lines, std::vector<int>{3});
}

TEST(NumberTable, WhatIsNoNumberIsSaidWithItsLine)
{
    for (const auto& [text, said, line] : {std::tuple("1,2\n3,x\n", "\"x\"", 2),
                                           {"1,2\n3\n", "1 columns, and 2 before", 2},
                                           {"1,2\n3,nan\n", "finite", 2},
                                           {"1,2\n\n3,inf\n", "finite", 3},
                                           {"1\n", "expected 2 columns", 1},
                                           {"x,y\n", "no row", 0},
                                           {"", "no row", 0},
                                           {"1,2\n3,\n", "\"\"", 2}}) {
        const auto table = readNumbers(text, 2);
        ASSERT_FALSE(table) << text;
        EXPECT_THAT(table.error().sentence, HasSubstr(said));
        EXPECT_EQ(table.error().place.line, line) << text;
    }
}

} // namespace
} // namespace vicegrip::fit
