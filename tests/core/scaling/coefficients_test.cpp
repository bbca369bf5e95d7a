#include "core/harness/resistors.h"
#include "core/scaling/coefficients.h"
#include "core/scaling/exchange.h"
#include "core/scaling/polynomial.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <gmock/gmock.h>
#include <stdexcept>

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
    const parts::Part& sensor = *job::sensorOf(job, clt);
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

/// A circuit of Petrel whose ECU takes a formula.
struct AsFormula
{
    AsFormula(const char* id, job::Takes takes, int degree = 1, const char* unit = "", job::Job from = test::petrel())
        : job(std::move(from)), circuit(*job::find(job, job::CircuitId{id}))
    {
        circuit.scaling.takes = takes;
        circuit.scaling.degree = degree;
        circuit.scaling.unit = unit;
        analysis = test::analysed(job);
        view = analysis::find(analysis, circuit.id);
    }
    [[nodiscard]] const Formula& formula() const { return *view->table->formula; }
    [[nodiscard]] const parts::Part& sensor() const { return *job::sensorOf(job, circuit); }
    [[nodiscard]] const proof::Expectation& promised(proof::StationKind kind = proof::StationKind::Value) const
    {
        for (const proof::Expectation& e : analysis::promises(analysis, circuit.id, job::Condition::KeyOn))
            if (e.station.kind == kind)
                return e;
        throw std::logic_error("nothing is promised");
    }

    job::Job job;
    job::Circuit& circuit;
    analysis::Analysis analysis;
    const proof::CircuitView* view = nullptr;
};

TEST(Coefficients, SlopeAndOffsetOfAPressureSensor)
{
    const AsFormula line("map", job::Takes::Polynomial);
    ASSERT_TRUE(line.view->table) << line.view->tableTrouble;
    // 0.5 V at 0 and 4.5 V at 300 kPa: 75 kPa a volt, -37.5 kPa at 0 V (the demo's wiring moves it a little)
    EXPECT_NEAR(line.formula().terms[0], -37.5, 0.5);
    EXPECT_NEAR(line.formula().terms[1], 75, 0.3);
    EXPECT_THAT(formulaText(line.formula()), HasSubstr("value (kPa) of x (V)"));
    EXPECT_THAT(toColumns(*line.view->table, line.sensor(), line.circuit.scaling),
                testing::MatchesRegex("c0\t-3[78].*\nc1\t7[45].*\n"));
    const AsFormula bar("map", job::Takes::Polynomial, 1, "bar");
    EXPECT_NEAR(bar.formula().terms[1], 0.75, 0.003);
    EXPECT_NEAR(bar.view->table->worstError, line.view->table->worstError, 1e-3) << "Pa both";
}

TEST(Coefficients, WhatIsPromisedIsWhatTheFormulaMakes)
{
    // A line through a thermistor is many degrees off; the promise says what such an ECU will show, not the truth.
    const AsFormula rough("clt", job::Takes::Polynomial, 1), points("clt", job::Takes::Points);
    ASSERT_TRUE(rough.view->table) << rough.view->tableTrouble;
    EXPECT_GT(rough.view->table->worstError, 10) << "K";
    const proof::Expectation &asLine = rough.promised(), &asPoints = points.promised();
    EXPECT_GT(std::abs(asLine.due.si() - asPoints.due.si()), 3) << "K at rest";
    const double volts = rough.promised(proof::StationKind::Input).due.si();
    EXPECT_NEAR(asLine.due.si() - 273.15, rough.formula().terms[0] + rough.formula().terms[1] * volts, 1e-6);
    EXPECT_LE(asLine.low, asLine.due.si());
    EXPECT_GE(asLine.high, asLine.due.si());
}

TEST(Coefficients, AnotherFormulaMakesTheProofOfTheValueStale)
{
    const job::Job job = test::petrel();
    job::Job formula = job;
    job::find(formula, job::CircuitId{"clt"})->scaling.takes = job::Takes::Polynomial;
    job::Job counts = job;
    job::find(counts, job::CircuitId{"clt"})->scaling.takes = job::Takes::Counts;
    EXPECT_NE(job::facts(formula), job::facts(job));
    EXPECT_EQ(job::facts(counts), job::facts(job)) << "counts are another way to write the same";
}

TEST(Coefficients, SteinhartHartOfAThermistor)
{
    const AsFormula found("clt", job::Takes::SteinhartHart);
    ASSERT_TRUE(found.view->table) << found.view->tableTrouble;
    const Formula& f = found.formula();
    const auto& curve = std::get<parts::Thermistor>(found.sensor().model).curve;
    const double worst = found.view->table->worstError;
    for (double celsius : {-20.0, 20.0, 100.0}) { // Steinhart and Hart, Deep-Sea Research 15 (1968)
        const double l = std::log(parts::ohms(curve, celsius + 273.15));
        // what the wiring adds to the resistance is a few Ohm: half a kelvin where the thermistor is at its lowest
        EXPECT_NEAR(1 / (f.terms[0] + f.terms[1] * l + f.terms[2] * l * l * l), celsius + 273.15, worst * 1.05 + 0.5);
    }
    EXPECT_THAT(needsOf(f), HasSubstr("pull-up"));
    EXPECT_NEAR(ohmsOf(2.5, 2490, 5), 2490, 1e-9) << "half the supply: as much as the pull-up";
    EXPECT_TRUE(std::isfinite(valueOf(f, 0)) && std::isfinite(valueOf(f, 5))) << "shorted and open";
    EXPECT_THAT(AsFormula("map", job::Takes::SteinhartHart).view->tableTrouble, HasSubstr("no thermistor"));
}

TEST(Coefficients, APullUpInTheLoomIsTheOneTheEcuMustKnow)
{
    job::Job job = test::petrel();
    const job::CircuitId clt{"clt"};
    EXPECT_TRUE(harness::addPullUp(job, clt, 1000, 0.01));
    const AsFormula found("clt", job::Takes::SteinhartHart, 1, "", job);
    ASSERT_TRUE(found.view->table) << found.view->tableTrouble;
    EXPECT_NEAR(found.formula().pullUp_ohm, 1000, 1e-9);
    EXPECT_LT(found.view->table->worstError, 1.5) << "K";
}

TEST(Coefficients, KeptInTheJobsFile)
{
    const AsFormula cubic("clt", job::Takes::Polynomial, 3);
    const auto back = job::read(job::write(cubic.job));
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(job::find(*back, job::CircuitId{"clt"})->scaling, cubic.circuit.scaling);
    std::string bad = job::write(cubic.job);
    bad.replace(bad.find("\"degree\": 3"), 11, "\"degree\": 9");
    EXPECT_THAT(job::read(bad).error().place.pointer, HasSubstr("degree"));
}

} // namespace
} // namespace vicegrip::scaling
