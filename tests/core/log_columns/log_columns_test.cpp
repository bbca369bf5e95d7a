#include "core/log_columns/log_columns.h"
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

} // namespace
} // namespace vicegrip::log_columns
