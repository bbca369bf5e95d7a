#include "core/scaling/coefficients.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <gmock/gmock.h>

namespace vicegrip::scaling {
namespace {

using testing::HasSubstr;

std::vector<Sample> sampled(double from, double to, double (*f)(double), int places = 400)
{
    std::vector<Sample> out;
    for (int i = 0; i <= places; ++i) {
        const double x = std::lerp(from, to, static_cast<double>(i) / places);
        out.push_back({x, f(x)});
    }
    return out;
}

// Chebyshev (1854): no polynomial of degree n - 1 comes nearer to x^n on [-1, 1] than 2^(1-n), and T_n / 2^(n-1) does.
TEST(Polynomial, ChebyshevsTheorem)
{
    const auto fifth = sampled(-1, 1, [](double x) { return std::pow(x, 5); });
    const auto p = bestPolynomial(fifth, 4);
    ASSERT_TRUE(p) << p.error().text();
    EXPECT_NEAR(p->worst, std::pow(2, -4), 1e-4);
    EXPECT_NEAR(p->coefficients[3], 20 / 16.0, 0.01) << "x^5 - T5 / 16 = (20 x^3 - 5 x) / 16";
    EXPECT_NEAR(p->coefficients[1], -5 / 16.0, 0.01);
    const auto square = bestPolynomial(sampled(0, 1, [](double x) { return x * x; }), 1);
    EXPECT_NEAR(square->worst, 1 / 8.0, 1e-5);
}

// The best line for a bend is parallel to its chord and half the way to where the curve has the chord's slope
// (de la Vallee Poussin's alternation; worked by hand for exp on [0, 1]: slope e - 1, off by 0.1059).
TEST(Polynomial, TheBestLineForAnExponential)
{
    const auto p = bestPolynomial(sampled(
                                      0, 1, [](double x) { return std::exp(x); }, 2000),
                                  1);
    ASSERT_TRUE(p);
    const double slope = std::exp(1) - 1, touch = std::log(slope);
    EXPECT_NEAR(p->coefficients[1], slope, 1e-3);
    EXPECT_NEAR(p->worst, (1 - (slope - slope * touch)) / 2, 1e-4);
    EXPECT_NEAR(p->worst, 0.1059, 1e-3);
}

TEST(Polynomial, APolynomialIsFoundItself)
{
    const auto p = bestPolynomial(sampled(0.5, 4.5, [](double x) { return 3 - 2 * x + 0.5 * x * x * x; }), 5);
    ASSERT_TRUE(p);
    for (const auto& [power, expected] : {std::pair(0, 3.0), {1, -2.0}, {2, 0.0}, {3, 0.5}, {4, 0.0}, {5, 0.0}})
        EXPECT_NEAR(p->coefficients[static_cast<size_t>(power)], expected, 1e-5) << power;
    EXPECT_LT(p->worst, 1e-8);
}

TEST(Polynomial, AThermistorOnItsPullUp)
{
    const job::Job job = test::petrel();
    const job::Circuit& clt = *job::find(job, job::CircuitId{"clt"});
    const auto car = electrics::build(job, {.surroundings = job.surroundings});
    const auto transfer = Transfer::of(job, *car, clt);
    const parts::Sensor& sensor = *job::sensorOf(job, clt);
    double before = 1e9;
    for (int degree = 1; degree <= 7; ++degree) {
        const auto p = polynomialOf(*transfer, sensor, clt.scaling, degree);
        ASSERT_TRUE(p) << p.error().text();
        EXPECT_LE(p->worst, before * 1.0001) << "a higher degree is never worse: " << degree;
        before = p->worst;
        for (double celsius : {-25.0, 20.0, 80.0, 120.0})
            EXPECT_NEAR(p->at(transfer->reading(celsius + 273.15)), celsius, p->worst * 1.02 + 1e-6);
    }
    EXPECT_LT(before, 1.5) << "°C with degree 7";
}

TEST(Polynomial, WhatCannotBeIsSaid)
{
    const auto line = sampled(0, 1, [](double x) { return x; });
    EXPECT_THAT(bestPolynomial(line, 0).error().sentence, HasSubstr("degree from 1"));
    EXPECT_THAT(bestPolynomial(line, 9).error().sentence, HasSubstr("degree from 1"));
    EXPECT_THAT(bestPolynomial(std::span(line).first(2), 3).error().sentence, HasSubstr("needs 4 places"));
    EXPECT_THAT(bestPolynomial(std::vector<Sample>{{1, 1}, {1, 2}}, 1).error().sentence, HasSubstr("does not move"));
}

TEST(Coefficients, SlopeAndOffsetOfAPressureSensor)
{
    const job::Job job = test::petrel();
    const job::Circuit& map = *job::find(job, job::CircuitId{"map"});
    const auto car = electrics::build(job, {.surroundings = job.surroundings});
    const auto transfer = Transfer::of(job, *car, map);
    const auto line = coefficientsOf(Form::Polynomial, 1, *transfer, *job::sensorOf(job, map),
                                     *job::findInput(job, map.input), map.scaling);
    ASSERT_TRUE(line) << line.error().text();
    // 0.5 V at 0 and 4.5 V at 300 kPa: 75 kPa a volt, -37.5 kPa at 0 V (the demo's wiring moves it a little)
    EXPECT_NEAR(line->terms[0].second, -37.5, 0.5);
    EXPECT_NEAR(line->terms[1].second, 75, 0.3);
    EXPECT_THAT(line->formula, HasSubstr("value (kPa) of x (V)"));
    EXPECT_THAT(toLines(*line), testing::MatchesRegex("c0\t-3[78].*\nc1\t7[45].*\n"));
    job::ScalingSpec bar = map.scaling;
    bar.unit = "bar";
    const auto inBar =
        coefficientsOf(Form::Polynomial, 1, *transfer, *job::sensorOf(job, map), *job::findInput(job, map.input), bar);
    EXPECT_NEAR(inBar->terms[1].second, 0.75, 0.003);
    EXPECT_NEAR(inBar->worst, line->worst, 1e-3) << "Pa both";
}

TEST(Coefficients, SteinhartHartOfAThermistor)
{
    const job::Job job = test::petrel();
    const job::Circuit& clt = *job::find(job, job::CircuitId{"clt"});
    const auto car = electrics::build(job, {.surroundings = job.surroundings});
    const auto transfer = Transfer::of(job, *car, clt);
    const parts::Sensor& sensor = *job::sensorOf(job, clt);
    const auto found =
        coefficientsOf(Form::SteinhartHart, 0, *transfer, sensor, *job::findInput(job, clt.input), clt.scaling);
    ASSERT_TRUE(found) << found.error().text();
    const auto& curve = std::get<parts::Thermistor>(sensor.model).curve;
    for (double celsius : {-20.0, 20.0, 100.0}) {
        const double l = std::log(parts::ohms(curve, celsius + 273.15));
        const double kelvin =
            1 / (found->terms[0].second + found->terms[1].second * l + found->terms[2].second * l * l * l);
        EXPECT_NEAR(kelvin, celsius + 273.15, found->worst * 1.05 + 1e-6);
    }
    EXPECT_THAT(found->needs, HasSubstr("pull-up"));
    const job::Circuit& map = *job::find(job, job::CircuitId{"map"});
    EXPECT_THAT(coefficientsOf(Form::SteinhartHart, 0, *transfer, *job::sensorOf(job, map),
                               *job::findInput(job, map.input), map.scaling)
                    .error()
                    .sentence,
                HasSubstr("no thermistor"));
}

} // namespace
} // namespace vicegrip::scaling
