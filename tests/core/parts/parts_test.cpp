#include "core/base/document.h"
#include "core/parts/conductor.h"
#include "core/parts/library.h"
#include "core/parts/resistance_curve.h"

#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <unistd.h>

namespace vicegrip::parts {
namespace {

constexpr double kZero = 273.15;

nlohmann::json thermistor()
{
    return nlohmann::json::parse(
        R"({"id": "t", "name": "T", "measures": "temperature", "unit": "°C", "low": -40, "high": 150,
        "pins": {"1": "signal", "2": "ground"}, "thermistor": {"tolerance": 0.02, "beta": {"r25_ohm": 2200, "beta_k": 3500}}})");
}

TEST(ResistanceCurve, InversesMeet)
{
    const ResistanceCurve curves[] = {
        BetaCurve{2200, 3500}, SteinhartHartCurve{1.129148e-3, 2.34125e-4, 8.76741e-8},
        TableCurve{{{kZero - 40, 31800}, {kZero, 4410}, {kZero + 25, 1625}, {kZero + 150, 63.1}}}};
    for (const auto& curve : curves)
        for (double t = kZero - 50; t < kZero + 170; t += 7.3)
            EXPECT_NEAR(kelvin(curve, ohms(curve, t)), t, 1e-9);
}

TEST(ResistanceCurve, TableHoldsItsPointsAndIsStraightInLogOverInverse)
{
    const TableCurve table{{{kZero, 4410}, {kZero + 50, 700}}};
    EXPECT_NEAR(ohms(table, kZero), 4410, 1e-9);
    EXPECT_NEAR(ohms(table, kZero + 50), 700, 1e-9);
    // Two points define a beta curve; the table must follow it between them.
    const double beta = std::log(4410.0 / 700) / (1 / kZero - 1 / (kZero + 50));
    const BetaCurve same{4410 * std::exp(beta * (1 / 298.15 - 1 / kZero)), beta};
    EXPECT_NEAR(ohms(table, kZero + 20), ohms(same, kZero + 20), 1e-6);
}

TEST(Wire, LongerThinnerHotterIsMore)
{
    EXPECT_NEAR(wireOhms(2, 1e-6, 293.15) / wireOhms(1, 1e-6, 293.15), 2, 1e-12);
    EXPECT_NEAR(wireOhms(1, 0.5e-6, 293.15) / wireOhms(1, 1e-6, 293.15), 2, 1e-12);
    EXPECT_GT(wireOhms(1, 1e-6, 350), wireOhms(1, 1e-6, 293.15));
}

TEST(SensorFile, ReadsAndWritesTheSame)
{
    const auto sensor = readSensor(thermistor());
    ASSERT_TRUE(sensor) << sensor.error().text();
    EXPECT_DOUBLE_EQ(sensor->low, 233.15);
    EXPECT_EQ(nlohmann::json(fields::toJson(*sensor)), thermistor());
}

TEST(SensorFile, NonsenseIsRefusedWithItsPlace)
{
    struct Case
    {
        const char* pointer;
        nlohmann::json value;
        const char* says;
    };
    const Case cases[] = {
        {"/high", -60, "range is empty"},           {"/unit", "bar", "not a unit of temperature"},
        {"/pins", {{"1", "signal"}}, "ground pin"}, {"/measures", "lambda", "unit"},
        {"/thermistor/beta/beta_k", -5, ""},        {"/thermistor/beta/r25_ohm", "much", ""},
    };
    for (const Case& c : cases) {
        auto json = thermistor();
        json[nlohmann::json::json_pointer(c.pointer)] = c.value;
        const auto refused = readSensor(json);
        ASSERT_FALSE(refused) << c.pointer;
        EXPECT_THAT(refused.error().sentence, testing::HasSubstr(c.says));
        EXPECT_FALSE(refused.error().place.pointer.empty()) << refused.error().text();
    }
    auto twisted = thermistor();
    twisted["thermistor"] = {
        {"table",
         {{"points",
           {{{"celsius", 0}, {"ohm", 100}}, {{"celsius", 10}, {"ohm", 90}}, {{"celsius", 20}, {"ohm", 95}}}}}}};
    EXPECT_THAT(readSensor(twisted).error().sentence, testing::HasSubstr("keep falling"));
}

TEST(Library, EveryShippedPartReads)
{
    const Library library = readLibrary({std::string(VICEGRIP_SOURCE_DIR) + "/data/library"});
    EXPECT_GE(library.sensors.size(), 12U);
    for (const Error& e : library.complaints)
        ADD_FAILURE() << e.text();
}

TEST(Library, BadFilesAreLeftOutAndUsersOwnOverride)
{
    const auto folder = std::filesystem::temp_directory_path() / ("vicegrip-library-" + std::to_string(getpid()));
    std::filesystem::create_directories(folder);
    auto mine = thermistor();
    mine["id"] = "ntc-2k2";
    mine["name"] = "Mine";
    std::ofstream(folder / "mine.json") << mine;
    std::ofstream(folder / "broken.json") << "{\"id\": ";
    std::ofstream(folder / "alien.json") << "[1, 2]";
    const Library library =
        readLibrary({std::string(VICEGRIP_SOURCE_DIR) + "/data/library", folder, folder / "missing"});
    EXPECT_EQ(library.complaints.size(), 2U);
    for (const Error& e : library.complaints)
        EXPECT_THAT(e.text(), testing::HasSubstr(folder.string()));
    const auto it = std::ranges::find(library.sensors, PartId{"ntc-2k2"}, &Sensor::id);
    ASSERT_NE(it, library.sensors.end());
    EXPECT_EQ(it->name, "Mine");
    std::filesystem::remove_all(folder);
}

} // namespace
} // namespace vicegrip::parts
