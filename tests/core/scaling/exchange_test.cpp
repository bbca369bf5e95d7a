#include "core/scaling/exchange.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <gmock/gmock.h>

namespace vicegrip::scaling {
namespace {

using testing::HasSubstr;

struct Scaled
{
    job::Job job = test::petrel();
    analysis::Analysis a = test::analysed(job);
    const job::Circuit& circuit = *job::find(job, job::CircuitId{"clt"});
    const parts::Part& sensor = *job::sensorOf(job, circuit);
    const Table& table = *analysis::find(a, {"clt"})->table;
};

TEST(Exchange, WhatIsWrittenIsReadBack)
{
    const Scaled s;
    for (const std::string& text :
         {toCsv(s.table, s.sensor, s.circuit.scaling), toColumns(s.table, s.sensor, s.circuit.scaling),
          toJson(s.table, s.sensor).dump()}) {
        const auto read = readTable(text, s.sensor, s.circuit.scaling, 5.0 / 4095);
        ASSERT_TRUE(read) << text << read.error().text();
        ASSERT_EQ(read->points.size(), s.table.points.size());
        for (size_t i = 0; i < read->points.size(); ++i) {
            EXPECT_NEAR(read->points[i].reading, s.table.points[i].reading, 1e-9);
            EXPECT_NEAR(read->points[i].value, s.table.points[i].value, 1e-6);
        }
    }
}

TEST(Exchange, TheEcusOwnUnitAndOrder)
{
    Scaled s;
    job::Circuit& clt = *job::find(s.job, job::CircuitId{"clt"});
    clt.scaling.unit = "°F";
    clt.scaling.outputStep = 1;
    clt.scaling.valueFirst = clt.scaling.falling = true;
    const auto again = test::analysed(s.job);
    const Table& table = *analysis::find(again, {"clt"})->table;
    const std::string csv = toCsv(table, s.sensor, clt.scaling);
    EXPECT_THAT(csv, testing::StartsWith("value (°F),input (V)"));
    // The hottest is the lowest voltage of a thermistor, so it comes last; 130 °C are 266 °F (NIST SP 811), and 0.20 V
    // on the grid lie half a degree beyond.
    EXPECT_NEAR(units::toUnit(table.points.front().value, units::Dimension::Temperature, "°F"), 266, 1.01);
    EXPECT_THAT(csv, testing::HasSubstr("\r\n267,"));
    EXPECT_LT(csv.find("\r\n-22,"), csv.find("\r\n267,"));
    const auto back = readTable(csv, s.sensor, clt.scaling, 5.0 / 4095);
    ASSERT_TRUE(back) << back.error().text();
    for (size_t i = 0; i < table.points.size(); ++i) {
        EXPECT_NEAR(back->points[i].reading, table.points[i].reading, 1e-9);
        EXPECT_NEAR(back->points[i].value, table.points[i].value, 1e-6);
        const double shown = units::toUnit(table.points[i].value, units::Dimension::Temperature, "°F");
        EXPECT_NEAR(shown, std::round(shown), 1e-6) << "on the ECU's grid, in its unit";
    }
}

// Worked by hand: 12 bits over 5 V are 819 counts a volt.
TEST(Exchange, CountsInPlaceOfVolts)
{
    Table table;
    table.points = {{0.5, 0}, {1.0001, 60e3}, {4.5, 300e3}};
    const Table counts = inCounts(table, 5.0 / 4095);
    ASSERT_EQ(counts.points.size(), 3U);
    EXPECT_EQ(counts.points[0].reading, 410) << "409.5 is rounded away from 0";
    EXPECT_EQ(counts.points[1].reading, 819);
    EXPECT_EQ(counts.points[2].reading, 3686);
    EXPECT_NEAR(counts.points[0].value, 60e3 / 0.5001 * (410 * 5.0 / 4095 - 0.5), 1e-6) << "what the table has there";
    EXPECT_EQ(headings(counts, {})[0], "input (counts)");
    const Scaled s;
    EXPECT_EQ(rowsOf(inCounts(s.table, 5.0 / 1023), s.sensor, s.circuit.scaling)[0][0], "41") << "0.20 V, whole counts";
    EXPECT_EQ(inCounts(table, 5).points.size(), 2U) << "two points on one count are one";
}

TEST(Exchange, AnotherUnitOfTheKindIsConverted)
{
    const Scaled s;
    const auto read = readTable(R"({"unit": "°F", "points": [{"volts": 4, "value": 32}, {"volts": 1, "value": 212}]})",
                                s.sensor, s.circuit.scaling, 5.0 / 4095);
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->points.front().reading, 1) << "sorted";
    EXPECT_NEAR(read->points.front().value, 373.15, 1e-9);
    EXPECT_NEAR(read->points.back().value, 273.15, 1e-9);
}

TEST(Exchange, ABadTableIsSaidWithItsLine)
{
    const Scaled s;
    for (const auto& [text, said, line] :
         {std::tuple("0.5,90\n1,80\n2,85\n", "turn back at 2.000 V", 3),
          {"0.5,90\n1,80\n1,70\n", "two points at 1.000 V", 3},
          {"0.5,90\n", "two points or more", 0},
          {"0.5,90\n1,x\n", "\"x\"", 2},
          {R"({"unit": "kPa", "points": [{"volts": 1, "value": 2}, {"volts": 2, "value": 3}]})", "in kPa", 0},
          {R"({"points": [{"volts": 1}]})", "needs the numbers", 0},
          {R"({"points": 5})", "no list", 0},
          {"{", "", 1}}) {
        const auto read = readTable(text, s.sensor, s.circuit.scaling, 5.0 / 4095);
        ASSERT_FALSE(read) << text;
        EXPECT_THAT(read.error().sentence, HasSubstr(said));
        EXPECT_EQ(read.error().place.line, line) << text;
    }
}

TEST(Exchange, CountsAreReadBackAsCounts)
{
    Scaled s;
    job::Circuit& clt = *job::find(s.job, job::CircuitId{"clt"});
    clt.scaling.takes = job::Takes::Counts;
    const Table taken = asTaken(s.table, s.job, clt);
    const double step = readingStep(s.job, clt);
    EXPECT_NEAR(step, 5.0 / 4095, 1e-12) << "5 V, 12 bits";
    const std::string csv = toCsv(taken, s.sensor, clt.scaling);
    EXPECT_THAT(csv, testing::StartsWith("input (counts),value (°C)"));
    const auto back = readTable(csv, s.sensor, clt.scaling, step);
    ASSERT_TRUE(back) << back.error().text();
    ASSERT_EQ(back->points.size(), s.table.points.size());
    for (size_t i = 0; i < back->points.size(); ++i)
        EXPECT_NEAR(back->points[i].reading, s.table.points[i].reading, step / 2 + 1e-9) << "half a count";
    EXPECT_NEAR(difference(*back, s.table, step).counts, 0, 1);
}

TEST(Exchange, AFormulaIsItsTerms)
{
    Scaled s;
    job::Circuit& clt = *job::find(s.job, job::CircuitId{"clt"});
    clt.scaling.takes = job::Takes::Polynomial;
    clt.scaling.degree = 1; // of a higher one the points may turn back
    const auto again = test::analysed(s.job);
    const Table& table = *analysis::find(again, {"clt"})->table;
    EXPECT_THAT(toCsv(table, s.sensor, clt.scaling), testing::MatchesRegex("of,coefficient\r\nc0,[-0-9.e]+\r\n"
                                                                           "c1,[-0-9.e]+\r\n"));
    const auto json = toJson(table, s.sensor);
    const double at = json["terms"]["c0"].get<double>() + 2 * json["terms"]["c1"].get<double>();
    EXPECT_NEAR(units::fromUnit(at, units::Dimension::Temperature, "°C"), lookUp(table, 2), 1e-9);
    for (const std::string& text : {toCsv(table, s.sensor, clt.scaling), toColumns(table, s.sensor, clt.scaling)})
        EXPECT_THAT(readTable(text, s.sensor, clt.scaling, 0.001).error().sentence, HasSubstr("coefficients"));
    const auto back = readTable(json.dump(), s.sensor, clt.scaling, 0.001);
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_LT(std::abs(difference(*back, table, 0.001).worst.value), 1e-6) << "the points along it stand for it";
}

TEST(Exchange, CoefficientsThatAreHeldAreComparedWithTheNewOnes)
{
    Scaled s;
    job::Circuit& clt = *job::find(s.job, job::CircuitId{"clt"});
    clt.scaling.takes = job::Takes::Polynomial;
    clt.scaling.degree = 3;
    const auto again = test::analysed(s.job);
    const Table& now = *analysis::find(again, {"clt"})->table;
    const auto held = [&](const std::string& text) { return readHeld(text, now, s.sensor, clt.scaling, 0.001); };
    for (const std::string& text :
         {toCsv(now, s.sensor, clt.scaling), toColumns(now, s.sensor, clt.scaling), toJson(now, s.sensor).dump()}) {
        const auto same = held(text);
        ASSERT_TRUE(same) << text << same.error().text();
        EXPECT_NEAR(difference(*same, now, 0.001).worst.value, 0, 1e-5) << text;
    }
    // Someone left 5 °C out of c0.
    auto json = toJson(now, s.sensor);
    json["terms"]["c0"] = json["terms"]["c0"].get<double>() - 5;
    EXPECT_NEAR(difference(*held(json.dump()), now, 0.001).worst.value, 5, 1e-6) << "K";
    EXPECT_TRUE(held("c0\t100\nc1\t-20\n")) << "a lower degree";
    EXPECT_THAT(held("c0\t1\nc9\t2\n").error().sentence, HasSubstr("no term \"c9\""));
    EXPECT_EQ(held("c0\t1\nc9\t2\n").error().place.line, 2);
    EXPECT_THAT(held("c0;1\nc0;2\n").error().sentence, HasSubstr("twice"));
    EXPECT_THAT(held("A\t1\n").error().sentence, HasSubstr("no term \"A\""));
    EXPECT_TRUE(held("0.5,90\n4.5,-20\n")) << "points are compared too";
    clt.scaling.takes = job::Takes::SteinhartHart;
    const auto third = test::analysed(s.job);
    EXPECT_THAT(readHeld("A\t1e-3\nB\t2e-4\n", *analysis::find(third, {"clt"})->table, s.sensor, clt.scaling, 0.001)
                    .error()
                    .sentence,
                HasSubstr("A, B and C"));
    const Table& thermistor = *analysis::find(third, {"clt"})->table;
    EXPECT_THAT(readHeld("A\t0\nB\t0\nC\t0\n", thermistor, s.sensor, clt.scaling, 0.001).error().sentence,
                HasSubstr("give no value at"));
    EXPECT_THAT(held("c0\t1e308\nc1\t1\n").error().sentence, HasSubstr("finite number of a size that is measured"));
}

TEST(Exchange, DifferenceIsFoundWhereItIs)
{
    Table before, after;
    before.points = {{0, 273.15}, {5, 373.15}};
    after.points = {{0, 273.15}, {2, 323.15}, {5, 373.15}};
    const auto d = difference(before, after, 0.001);
    EXPECT_NEAR(d.worst.reading, 2, 1e-9);
    EXPECT_NEAR(d.worst.value, 10, 1e-9);
    EXPECT_NEAR(d.counts, 500, 1e-6) << "20 K a volt: 10 K are half a volt";
    EXPECT_NEAR(difference(before, before, 0.001).worst.value, 0, 1e-12);
}

TEST(Exchange, ThresholdsStandHalfWay)
{
    const Scaled s;
    const auto car = electrics::build(s.job, {.surroundings = s.job.surroundings});
    ASSERT_TRUE(car);
    const auto& map = *job::find(s.job, job::CircuitId{"map"});
    const auto limits = faultThresholds(*Transfer::of(s.job, *car, map), map.scaling);
    ASSERT_TRUE(limits.below && limits.above);
    EXPECT_NEAR(*limits.below, 0.25, 0.01);
    EXPECT_NEAR(*limits.above, 4.75, 0.01);
}

TEST(BreakpointsOfATable, BestHalvesWhatEvenLeavesAndFreeIsNoWorse)
{
    Scaled s;
    job::Circuit& clt = *job::find(s.job, job::CircuitId{"clt"});
    clt.scaling.inputStep = 0.001;
    double before = 0;
    for (const job::Breakpoints breakpoints :
         {job::Breakpoints::Even, job::Breakpoints::Best, job::Breakpoints::Free}) {
        clt.scaling.breakpoints = breakpoints;
        const auto a = test::analysed(s.job);
        const Table& t = *analysis::find(a, {"clt"})->table;
        EXPECT_EQ(t.points.size(), static_cast<size_t>(clt.scaling.points));
        if (breakpoints == job::Breakpoints::Even) {
            EXPECT_EQ(t.evenError, t.worstError);
        } else {
            EXPECT_LT(t.worstError, breakpoints == job::Breakpoints::Best ? before / 2 : before);
            EXPECT_GT(t.evenError, 2 * t.worstError);
        }
        before = t.worstError;
        for (size_t i = 1; i < t.points.size(); ++i) {
            EXPECT_GT(t.points[i].reading, t.points[i - 1].reading);
            EXPECT_LE(t.points[i].value, t.points[i - 1].value);
        }
    }
}

TEST(BreakpointsOfATable, TheEcusOwnPointsAreKept)
{
    Scaled s;
    job::Circuit& clt = *job::find(s.job, job::CircuitId{"clt"});
    clt.scaling.breakpoints = job::Breakpoints::Fixed;
    clt.scaling.fixed = {0, 0.5, 1, 2, 3, 4, 5};
    auto a = test::analysed(s.job);
    const auto* view = analysis::find(a, {"clt"});
    ASSERT_TRUE(view->table) << view->tableTrouble;
    for (size_t i = 0; i < clt.scaling.fixed.size(); ++i)
        EXPECT_EQ(view->table->points[i].reading, clt.scaling.fixed[i]);
    for (const auto& [volts, said] : {std::pair<std::vector<double>, const char*>{{2, 1}, "do not rise"},
                                      {{1}, "not given"},
                                      {{4.9, 4.95}, "beyond what the input does"}}) {
        clt.scaling.fixed = volts;
        a = test::analysed(s.job);
        EXPECT_THAT(analysis::find(a, {"clt"})->tableTrouble, HasSubstr(said));
    }
}

} // namespace
} // namespace vicegrip::scaling
