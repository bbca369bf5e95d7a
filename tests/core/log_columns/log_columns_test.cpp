#include "core/log_columns/log_columns.h"

#include "core/job/check.h"
#include "core/job/json.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

namespace vicegrip::log_columns {
namespace {

log::Log with(std::initializer_list<std::pair<const char*, const char*>> columns, std::vector<float> values = {90, 95})
{
    log::Log out;
    out.time_s = {0, 1};
    for (const auto& [name, unit] : columns)
        out.columns.push_back({name, unit, values});
    return out;
}

TEST(LogColumns, WordsAndUnitsTellWhatTheyAre)
{
    using enum Quantity;
    const std::vector<std::tuple<const char*, const char*, Quantity>> columns = {
        {"RPM", "", EngineSpeed},
        {"Engine Speed", "1/min", EngineSpeed},
        {"TPS", "%", Throttle},
        {"Throttle Pos", "%", Throttle},
        {"TPS2", "%", SecondThrottle},
        {"Accel Pedal", "%", Pedal},
        {"MAP", "kPa", Manifold},
        {"Boost", "psi", Charge},
        {"Boost Target", "psi", AskedPressure},
        {"Boost duty", "%", Other},
        {"Lambda Target", "", AskedMixture},
        {"AFR", "", Mixture},
        {"Short term fuel trim", "%", Correction},
        {"CLT", "°C", Coolant},
        {"IAT", "C", IntakeAir},
        {"Oil Temp", "F", OilTemp},
        {"Gearbox oil temp", "°C", GearboxTemp},
        {"Oil Press", "bar", OilPressure},
        {"Ethanol", "%", Ethanol},
        {"Vehicle Speed", "km/h", RoadSpeed},
        {"Battery Voltage", "V", Battery},
        {"Ign advance", "deg", Other}};
    log::Log log;
    log.time_s = {0, 1, 2};
    for (const auto& [name, unit, quantity] : columns)
        log.columns.push_back({name, unit, {90, 95, 97}});
    const auto meant = meaningsOf(log, nullptr);
    for (size_t c = 0; c < columns.size(); ++c)
        EXPECT_EQ(meant[c].quantity, std::get<2>(columns[c])) << std::get<0>(columns[c]);
}

TEST(LogColumns, TwoValuesAreAConsumer)
{
    log::Log log = with({{"Fan 1", ""}, {"Ign advance", "deg"}});
    log.time_s.push_back(2);
    log.columns[0].values = {0, 1, 0};
    log.columns[1].values = {10, 12, 14};
    const auto meant = meaningsOf(log, nullptr);
    EXPECT_EQ(meant[0].quantity, Quantity::Consumer);
    EXPECT_EQ(meant[1].quantity, Quantity::Other);
}

TEST(LogColumns, CircuitsOfTheJobAndTheirUnits)
{
    const job::Job job = test::petrel();
    const log::Log log =
        with({{"Coolant temp", "°F"}, {"MAP", "kPa"}, {"Boost target", "kPa"}, {"MAP volts", "V"}, {"RPM", "rpm"}},
             {180, 190});
    const auto meant = meaningsOf(log, &job);
    EXPECT_EQ(meant[0].circuit, job::CircuitId("clt"));
    EXPECT_NEAR(meant[0].toSi(212), 373.15, 1e-6);
    EXPECT_EQ(meant[1].circuit, job::CircuitId("map"));
    EXPECT_FALSE(meant[1].gauge);
    EXPECT_NEAR(meant[1].toSi(101.3), 101300, 0.1);
    EXPECT_FALSE(meant[2].circuit);
    EXPECT_EQ(meant[3].circuit, job::CircuitId("map"));
    EXPECT_EQ(meant[3].tells, job::Tells::Volts);
    EXPECT_NEAR(meant[4].toSi(6000), 100, 1e-9);
}

/// A pressure of an engine's manifold is never a tenth of the air's: what is that low counts from the air outside.
TEST(LogColumns, APressureOfNoZeroIsFoundOut)
{
    const job::Job job = test::petrel();
    const auto gauge = meaningsOf(with({{"MAP", "psi"}}, {-9, 14}), &job);
    EXPECT_TRUE(gauge[0].gauge);
    EXPECT_NEAR(gauge[0].toSi(0), job.surroundings.barometer_pa, 0.1);
    const auto absolute = meaningsOf(with({{"MAP", "psi"}}, {5, 28}), &job);
    EXPECT_FALSE(absolute[0].gauge);
}

/// What a hand said goes before the words, is of every log with such a column, and is told from a column that only has
/// the same name.
TEST(LogColumns, AHandSaysWhatTheWordsDoNot)
{
    job::Job job = test::petrel();
    const log::Log log = with({{"AN 3", ""}, {"Ext 7", "V"}, {"Coolant temp", "°C"}, {"Knock", "dB"}, {"RPM", "rpm"}});
    EXPECT_NE(meaningsOf(log, &job)[0].quantity, Quantity::Coolant);
    say(job, {"AN 3", "", job::CircuitId("clt"), "", "°F"});
    say(job, {"Ext 7", "V", {}, "battery", ""});
    say(job, {"Coolant temp", "°C", {}, "nothing", ""});
    say(job, {"Knock", "dB", {}, "engine-speed", ""});
    const auto meant = meaningsOf(log, &job);
    EXPECT_EQ(meant[0].circuit, job::CircuitId("clt"));
    EXPECT_EQ(meant[0].quantity, Quantity::Coolant);
    EXPECT_NEAR(meant[0].toSi(212), 373.15, 1e-6); // water boils: the scale's own definition
    EXPECT_EQ(meant[1].quantity, Quantity::Battery);
    EXPECT_EQ(meant[2].quantity, Quantity::Other);
    EXPECT_FALSE(meant[2].circuit) << "a hand gave its circuit to another column";
    EXPECT_EQ(columnOf(meant, Quantity::EngineSpeed), 3U) << "a hand goes before words";
    EXPECT_EQ(meaningsOf(with({{"AN 3", "V"}}), &job)[0].quantity, Quantity::Other) << "another unit: another column";

    const auto read = job::read(job::write(job));
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->logColumns, job.logColumns);
    say(job, {"Knock", "dB", {}, "", ""});
    EXPECT_EQ(columnOf(meaningsOf(log, &job), Quantity::EngineSpeed), 4U) << "the words say it again";
}

/// A sensor's input in volts is told by the unit.
TEST(LogColumns, AHandNamesACircuitWhoseVoltsAreLogged)
{
    job::Job job = test::petrel();
    say(job, {"AN 1", "mV", job::CircuitId("map"), "", ""});
    const auto meant = meaningsOf(with({{"AN 1", "mV"}}, {900, 4500}), &job);
    EXPECT_EQ(meant[0].circuit, job::CircuitId("map"));
    EXPECT_EQ(meant[0].tells, job::Tells::Volts);
    EXPECT_NEAR(meant[0].toSi(2500), 2.5, 1e-9);
}

/// Whatever a job says of columns, no log is read by it otherwise than the words allow: a circuit that is gone, a
/// driven one, a unit of something else.
TEST(LogColumns, WhatCannotBeIsNotBelieved)
{
    job::Job job = test::petrel();
    say(job, {"CLT", "°C", job::CircuitId("fan"), "", ""});
    say(job, {"MAP", "kPa", {}, "", "apples"});
    const auto meant = meaningsOf(with({{"CLT", "°C"}, {"MAP", "kPa"}}, {90, 101}), &job);
    EXPECT_EQ(meant[0].quantity, Quantity::Coolant);
    EXPECT_EQ(meant[1].scale, 1);
    job.logColumns.push_back({"A", "", job::CircuitId("nowhere"), "", ""});
    EXPECT_FALSE(job::check(job));
}

TEST(LogColumns, EveryQuantityHasANameThatASchemaKnows)
{
    for (const QuantityName& q : quantities()) {
        job::Job job = test::petrel();
        say(job, {"A", "", {}, std::string(q.name), ""});
        EXPECT_TRUE(job::read(job::write(job))) << q.name;
        EXPECT_EQ(quantityOf(q.name), q.quantity);
        EXPECT_EQ(nameOf(q.quantity).name, q.name);
    }
}

TEST(LogColumns, MarksAreOfTheFileWhereverItLies)
{
    job::Job job = test::petrel();
    job.logMarks = {{"b.csv", 4, "other"}, {"a.csv", 9, "later"}, {"a.csv", 2, "first"}};
    const auto marks = marksOf(job, "/somewhere/else/a.csv");
    ASSERT_EQ(marks.size(), 2U);
    EXPECT_EQ(marks[0].words, "first");
    EXPECT_EQ(marks[1].words, "later");
}

} // namespace
} // namespace vicegrip::log_columns
