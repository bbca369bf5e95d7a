#include "core/scaling/budget.h"
#include "core/scaling/exchange.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <gmock/gmock.h>

namespace vicegrip::scaling {
namespace {

using testing::HasSubstr;

/// An air-mass sensor that counts, on an input that does, with its table.
struct Counted
{
    job::Job job = *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip");
    job::Circuit* circuit = nullptr;
    analysis::Analysis a;

    explicit Counted(const char* id = "flex", const char* part = nullptr)
    {
        if (part != nullptr) {
            EXPECT_TRUE(harness::setSensor(job, job::CircuitId{id}, test::sensor(part)));
        }
        circuit = job::find(job, job::CircuitId{id});
        again();
    }
    void again() { a = test::analysed(job); }
    [[nodiscard]] const proof::CircuitView& view() const { return *analysis::find(a, circuit->id); }
    [[nodiscard]] const parts::Part& sensor() const { return *job::sensorOf(job, *circuit); }
};

// Common practice, no source: 50 Hz without ethanol, 150 Hz all of it.
TEST(FrequencyTable, FlexCountsItsHertz)
{
    const Counted c;
    ASSERT_TRUE(c.view().table) << c.view().tableTrouble;
    const Table& table = *c.view().table;
    EXPECT_EQ(table.axis, units::Dimension::Frequency);
    EXPECT_NEAR(lookUp(table, 50), 0, 1e-9);
    EXPECT_NEAR(lookUp(table, 150), 1, 1e-9);
    EXPECT_NEAR(lookUp(table, 60), 0.10, 1e-9);
    EXPECT_FALSE(c.view().thresholds.above) << "an open line has no pulses, not more of them";
    EXPECT_NEAR(*c.view().thresholds.below, 25, 1e-9);
    const std::string csv = toCsv(table, c.sensor(), c.circuit->scaling);
    EXPECT_THAT(csv, HasSubstr("input (Hz),value (%)"));
    for (const std::string& text : {csv, toJson(table, c.sensor()).dump()}) {
        const auto back = readTable(text, c.sensor(), c.circuit->scaling, 0.1);
        ASSERT_TRUE(back) << back.error().text();
        EXPECT_EQ(back->axis, table.axis);
        EXPECT_NEAR(back->points.back().reading, 150, 1e-6);
    }
    EXPECT_THAT(toJson(table, c.sensor()).dump(), HasSubstr("hertz"));
}

TEST(FrequencyTable, WhatComesBackIsPromised)
{
    const Counted c;
    const auto& input = test::at(c.a, "flex", "input").expectation;
    ASSERT_TRUE(input.promises()) << input.trouble;
    EXPECT_EQ(input.unit, "Hz");
    EXPECT_NEAR(input.due.si(), 50, 0.01) << "no ethanol at rest";
    const auto& value = test::at(c.a, "flex", "value").expectation;
    ASSERT_TRUE(value.promises()) << value.trouble;
    EXPECT_NEAR(value.due.si(), 0, 1e-6);
    EXPECT_FALSE(test::at(c.a, "flex", "counts").expectation.promises());
    const auto& teeth = test::at(c.a, "crank", "input").expectation;
    EXPECT_THAT(teeth.trouble, HasSubstr("teeth"));
}

TEST(FrequencyTable, ABentAirMassSensorGainsByPlacing)
{
    job::Job job = test::jobOn("large-free");
    const auto id = test::add(job, "maf", "airflow-freq");
    job::Circuit& circuit = *job::find(job, id);
    const parts::Part& sensor = *job::sensorOf(job, circuit);
    for (parts::EcuInput& i : job.ecu.inputs)
        if (i.takes(parts::InputMode::Frequency) && job::seatedOn(job, i.id) == nullptr && i.most_hz > 11e3) {
            circuit.input = i.id;
            break;
        }
    ASSERT_FALSE(circuit.input.empty());
    EXPECT_EQ(circuit.scaling.points, 16) << "bent";
    const auto& output = std::get<parts::OpenCollector>(sensor.model);
    for (const auto& p : output.points)
        EXPECT_DOUBLE_EQ(parts::hertzAt(sensor, p.value), p.hz);
    const auto tableWith = [&](job::Breakpoints breakpoints) {
        circuit.scaling.breakpoints = breakpoints;
        const auto a = test::analysed(job);
        const auto& view = *analysis::find(a, id);
        EXPECT_TRUE(view.table) << view.tableTrouble;
        return view.table.value_or(Table{});
    };
    const Table even = tableWith(job::Breakpoints::Even), best = tableWith(job::Breakpoints::Best);
    EXPECT_LT(best.worstError, even.worstError);
    for (double q : {20.0, 100.0, 450.0}) {
        const double si = units::fromUnit(q, sensor.measures, "kg/h");
        EXPECT_NEAR(lookUp(best, parts::hertzAt(sensor, si)), si, best.worstError * 1.001 + 1e-9);
    }
    circuit.scaling.high = sensor.high;
    parts::EcuInput& slow = *job::findInput(job, circuit.input);
    slow.most_hz = 5000;
    const auto clipped = test::analysed(job);
    EXPECT_LE(analysis::find(clipped, id)->table->points.back().reading, 5000) << "it counts no further";
}

// Worked by hand: 1 % of 100 Hz is 1 Hz, and flex has 1 % of ethanol a hertz; one step of 0.1 Hz is 0.1 %.
TEST(FrequencyTable, ABudgetOfPulsesHasNoVoltsInIt)
{
    Counted c;
    c.circuit->scaling.inputStep = 0.1;
    c.circuit->scaling.outputStep = 0;
    c.again();
    const auto b = budgetAt(c.job, *c.circuit, *c.view().table, 0.5);
    ASSERT_TRUE(b) << b.error().text();
    EXPECT_NEAR(b->reading, 100, 1e-9);
    const auto worst = [&](BudgetPart part) { return b->lines[static_cast<size_t>(part)].worst; };
    EXPECT_NEAR(worst(BudgetPart::Sensor), 0.01, 1e-6);
    EXPECT_NEAR(worst(BudgetPart::Counts), 0.001, 1e-6);
    EXPECT_EQ(worst(BudgetPart::Wiring) + worst(BudgetPart::Supply) + worst(BudgetPart::PullUp), 0);
    // E50: air-fuel ratio about 11.8, and 0.056 of it less for a percent more of ethanol (9.0 to 14.7 over 100 %).
    ASSERT_TRUE(b->mixture);
    EXPECT_NEAR(b->mixture->worst, 0.011 * 5.7 / 11.85, 1.5e-3);
    EXPECT_THAT(budgetAt(c.job, *job::find(c.job, job::CircuitId{"crank"}), *c.view().table, 0.5).error().sentence,
                HasSubstr("no reading stands for a value"));
}

TEST(FrequencyTable, PulsesThatDoNotSwingPromiseNothing)
{
    Counted c;
    parts::EcuInput& input = *job::findInput(c.job, c.circuit->input);
    input.pull_up_ohm.reset();
    input.pullUpFixed = false;
    c.again();
    const auto& e = test::at(c.a, "flex", "input").expectation;
    EXPECT_FALSE(e.promises());
    EXPECT_FALSE(e.trouble.empty());
}

TEST(FrequencyTable, AnotherKindOfSignalBeginsItsTableAnew)
{
    Counted c("maf", "airflow-freq");
    EXPECT_NEAR(c.circuit->scaling.inputStep, 0.1, 1e-12) << "Hz, not the volts it had";
    EXPECT_EQ(c.circuit->scaling.points, 16);
}

} // namespace
} // namespace vicegrip::scaling
