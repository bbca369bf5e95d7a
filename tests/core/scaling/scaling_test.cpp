#include "core/electrics/sensor_model.h"
#include "core/scaling/exchange.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <regex>

namespace vicegrip::scaling {
namespace {

struct Loaded
{
    job::Job job;
    electrics::Electrics car;

    [[nodiscard]] const job::Circuit& circuit(const char* id) const { return *job::find(job, job::CircuitId{id}); }
    [[nodiscard]] Transfer transfer(const char* id) const { return *Transfer::of(job, car, circuit(id)); }
    [[nodiscard]] const parts::Part& sensor(const char* id) const { return *job::sensorOf(job, circuit(id)); }
};

Loaded loaded(job::Job job = test::petrel())
{
    auto car = electrics::build(job, {.surroundings = job.surroundings});
    EXPECT_TRUE(car);
    return {std::move(job), std::move(*car)};
}

TEST(Transfer, EqualsBuildingTheCarAnew)
{
    const Loaded l = loaded();
    for (const auto& [id, values] : {std::pair("clt", std::vector{253.15, 300.0, 373.15}),
                                     {"tps", {0.0, 0.5, 1.0}},
                                     {"map", {20e3, 101e3, 290e3}},
                                     {"gt", {273.15, 400.0}},
                                     {"wb", {0.7, 1.0}}}) {
        for (double value : values) {
            const auto anew =
                electrics::build(l.job, {.surroundings = l.job.surroundings, .measurands = {{{id}, value}}});
            ASSERT_TRUE(anew);
            EXPECT_NEAR(l.transfer(id).reading(value), anew->inputVolts(l.job, l.circuit(id))->value, 1e-9)
                << id << " " << value;
        }
    }
}

TEST(Transfer, InverseGoesBack)
{
    const Loaded l = loaded();
    const Transfer t = l.transfer("clt");
    for (double kelvin = 250; kelvin < 400; kelvin += 13)
        EXPECT_NEAR(t.value(t.reading(kelvin), 240, 410), kelvin, 1e-6);
}

TEST(Table, ALineNeedsTwoPointsAndHasNoError)
{
    const Loaded l = loaded();
    auto spec = l.circuit("map").scaling;
    spec.outputStep = 0;
    spec.inputStep = 0;
    const auto table = makeTable(l.transfer("map"), l.sensor("map"), spec);
    ASSERT_TRUE(table) << table.error().text();
    ASSERT_EQ(table->points.size(), 2U);
    EXPECT_LT(table->worstError, 0.3e-3 * 300e3) << "wire and pull-down bend the line by less than 0.03 %";
}

TEST(Table, ErrorReportedIsTheErrorFound)
{
    const Loaded l = loaded();
    for (const char* id : {"clt", "iat", "ot"}) {
        const Transfer t = l.transfer(id);
        const auto spec = l.circuit(id).scaling;
        const auto table = makeTable(t, l.sensor(id), spec);
        ASSERT_TRUE(table) << table.error().text();
        ASSERT_EQ(table->points.size(), static_cast<size_t>(spec.points));
        double worst = 0; // a search of our own, ten times finer
        for (double v = table->points.front().reading; v <= table->points.back().reading; v += 0.0007)
            worst = std::max(worst, std::abs(lookUp(*table, v) - t.value(v, spec.low, spec.high)));
        EXPECT_NEAR(table->worstError, worst, 0.02 * worst + 0.051) << id;
        EXPECT_NEAR(std::abs(lookUp(*table, table->worstAtReading) - table->worstAt), table->worstError, 1e-9)
            << "it lies where it says";
    }
}

TEST(Table, MorePointsAreNeverWorse)
{
    const Loaded l = loaded();
    auto spec = l.circuit("clt").scaling;
    spec.outputStep = 0;
    spec.inputStep = 0;
    double before = 1e9;
    for (int points : {5, 9, 17, 33}) { // each holds all points of the one before
        spec.points = points;
        const double worst = makeTable(l.transfer("clt"), l.sensor("clt"), spec)->worstError;
        EXPECT_LT(worst, before);
        before = worst;
    }
}

TEST(Table, KeepsToItsGridsAndRises)
{
    const Loaded l = loaded();
    const auto spec = l.circuit("clt").scaling;
    const auto table = makeTable(l.transfer("clt"), l.sensor("clt"), spec);
    for (size_t i = 0; i < table->points.size(); ++i) {
        const double volts = table->points[i].reading / spec.inputStep,
                     value = (table->points[i].value - 273.15) / spec.outputStep;
        EXPECT_NEAR(volts, std::round(volts), 1e-6);
        EXPECT_NEAR(value, std::round(value), 1e-6);
        if (i > 0) {
            EXPECT_GT(table->points[i].reading, table->points[i - 1].reading);
            EXPECT_LT(table->points[i].value, table->points[i - 1].value);
        }
    }
    EXPECT_EQ(lookUp(*table, -1), table->points.front().value) << "ends are clamped";
    EXPECT_EQ(lookUp(*table, 99), table->points.back().value);
}

TEST(Table, PullUpIsInTheTable)
{
    job::Job other = test::petrel();
    job::findInput(other, parts::InputId{"AN3"})->pull_up_ohm = 1000;
    const Loaded with2k49 = loaded(), with1k = loaded(other);
    EXPECT_GT(with1k.transfer("clt").reading(295.15), with2k49.transfer("clt").reading(295.15) + 0.5);
}

TEST(Table, RefusesWhatCannotBeScaled)
{
    job::Job job = test::petrel();
    job::findInput(job, parts::InputId{"AN3"})->pull_up_ohm.reset();
    const Loaded l = loaded(job);
    EXPECT_THAT(makeTable(l.transfer("clt"), l.sensor("clt"), l.circuit("clt").scaling).error().sentence,
                testing::HasSubstr("Is the pull-up missing?"));
    auto beyond = l.circuit("tps").scaling;
    beyond.high = 3; // 300 % of a throttle
    EXPECT_THAT(makeTable(l.transfer("tps"), l.sensor("tps"), beyond).error().sentence,
                testing::HasSubstr("stops moving"));
    auto coarse = l.circuit("iat").scaling;
    coarse.inputStep = 0.5;
    EXPECT_FALSE(makeTable(l.transfer("iat"), l.sensor("iat"), coarse));
}

TEST(Table, CsvIsRfc4180)
{
    const Loaded l = loaded();
    const auto table = makeTable(l.transfer("clt"), l.sensor("clt"), l.circuit("clt").scaling);
    const std::string csv = toCsv(*table, l.sensor("clt"), l.circuit("clt").scaling);
    EXPECT_TRUE(csv.starts_with("input (V),value (°C)\r\n"));
    EXPECT_EQ(std::ranges::count(csv, '\n'), 21);
    EXPECT_TRUE(std::regex_search(csv, std::regex("\r\n0\\.20,130\\.3\r\n")));
}

// Common practice, no source: two equal halves of a throttle track give 2.5 V.
TEST(TradeFacts, HalfOfAThrottleTrackIsHalfTheSupply)
{
    EXPECT_NEAR(loaded().transfer("tps").reading(0.5), 2.5, 0.02);
}

// Common practice, no source: a 0.5-2.0 V transducer over 0-150 °C reads about 0.67 V in a garage in the sixties °F.
// By its line 0.67 V is 17 °C = 62.6 °F.
TEST(TradeFacts, ConditionedTransducerInAGarage)
{
    job::Job job = test::petrel();
    test::wire(job, "w36").area_m2 = 25e-6; // its own line, without the heater on a thin ground
    test::wire(job, "w36").length_m = 0.01;
    const Loaded l = loaded(job);
    EXPECT_NEAR(parts::elementValues(l.sensor("gt"), 273.15 + 17.0).front(), 0.67, 1e-9);
    const double fahrenheit = (l.transfer("gt").value(0.67, 273.15, 423.15) - 273.15) * 1.8 + 32;
    EXPECT_GT(fahrenheit, 60) << "through the loaded circuit it is still in the sixties";
    EXPECT_LT(fahrenheit, 70);
}

// Common practice, no source: linear transducers put out 0.5 V at zero and 4.5 V at full scale; key on, engine off, a
// manifold pressure sensor near sea level reads 95-102 kPa.
TEST(TradeFacts, ManifoldSensorReadsTheBarometer)
{
    job::Job job = test::petrel();
    job.surroundings.barometer_pa = 101325;
    const auto a = test::analysed(job);
    const double kpa = test::at(a, "map", "value").expectation.due.si() / 1000;
    EXPECT_GT(kpa, 95);
    EXPECT_LT(kpa, 102);
    EXPECT_NEAR(loaded().transfer("map").reading(0), 0.5, 0.01);
    EXPECT_NEAR(loaded().transfer("map").reading(300e3), 4.5, 0.02);
}

} // namespace
} // namespace vicegrip::scaling
