#include "core/base/document.h"
#include "core/parts/conductor.h"
#include "core/parts/library.h"
#include "core/parts/resistance_curve.h"

#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <set>
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
    const auto sensor = readPart(thermistor());
    ASSERT_TRUE(sensor) << sensor.error().text();
    EXPECT_DOUBLE_EQ(sensor->low, 233.15);
    auto whole = thermistor(); // what was left out is written with its default
    whole["kind"] = "other";
    whole["feed"] = "sensor-supply";
    whole["thermistor"]["dissipation_w_per_k"] = 0.002;
    whole["conditioned"] = false;
    EXPECT_EQ(nlohmann::json(fields::toJson(*sensor)), whole);
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
        const auto refused = readPart(json);
        ASSERT_FALSE(refused) << c.pointer;
        EXPECT_THAT(refused.error().sentence, testing::HasSubstr(c.says));
        EXPECT_FALSE(refused.error().place.pointer.empty()) << refused.error().text();
    }
    auto twisted = thermistor();
    twisted["thermistor"] = {
        {"table",
         {{"points",
           {{{"celsius", 0}, {"ohm", 100}}, {{"celsius", 10}, {"ohm", 90}}, {{"celsius", 20}, {"ohm", 95}}}}}}};
    EXPECT_THAT(readPart(twisted).error().sentence, testing::HasSubstr("keep falling"));
}

TEST(Library, EveryShippedPartReads)
{
    const Library library = readLibrary({std::string(VICEGRIP_SOURCE_DIR) + "/data/library"});
    EXPECT_GE(library.parts.size(), 40U);
    EXPECT_GE(library.ecus.size(), 4U);
    std::set<PartUse> kinds;
    for (const Part& s : library.parts)
        kinds.insert(s.kind);
    EXPECT_EQ(kinds.size(), 31U) << "every kind but \"other\" can be bought";
    for (const Error& e : library.complaints)
        ADD_FAILURE() << e.text();
}

nlohmann::json profile()
{
    return nlohmann::json::parse(R"({"id": "mine", "name": "Mine", "plugs": [{"id": "A", "cavities": ["1", "2", "3"]}],
        "ecu": {"name": "Mine", "inputs": [{"id": "IN1"}, {"id": "IN2", "modes": ["frequency"], "most_hz": 500}],
                "pins": [{"at": "A.1", "role": "input", "input": "IN1"}, {"at": "A.2", "role": "input", "input": "IN2"}]}})");
}

TEST(SensorFile, TheMostVoltsAreThoseOfItsPoints)
{
    Part s;
    VoltageDevice device;
    device.low_v = 0.5;
    device.high_v = 4.5;
    s.model = device;
    EXPECT_EQ(mostVolts(s), 4.5);
    device.points = {{0, 0.2}, {1, 4}, {2, 9.8}};
    s.model = device;
    EXPECT_EQ(mostVolts(s), 9.8);
}

TEST(EcuFile, NonsenseIsRefusedWithItsPlace)
{
    ASSERT_TRUE(readEcu(profile())) << readEcu(profile()).error().text();
    struct Case
    {
        const char* pointer;
        nlohmann::json value;
        const char* at;
        const char* says;
    };
    for (const Case& c : {
             Case{"/ecu/pins/1/at", "A.1", "/ecu/pins/1/at", "two uses"},
             Case{"/ecu/pins/1/at", "A.9", "/ecu/pins/1/at", "no plug has"},
             Case{"/ecu/pins/1/input", "IN1", "/ecu/pins/1/input", "two cavities"},
             Case{"/ecu/pins/1/input", "IN9", "/ecu/pins/1/input", "no input"},
             Case{"/ecu/inputs/1/id", "IN1", "/ecu/inputs/1", "twice"},
             Case{"/ecu/inputs/1/most_hz", 0, "/ecu/inputs/1/most_hz", "highest"},
             Case{"/ecu/inputs/0/span_v", 30, "/ecu/inputs/0/span_v", "withstands"},
             Case{"/ecu/inputs/0/span_v", -5, "/ecu/inputs/0/span_v", ""},
             Case{"/ecu/inputs/0/pull_up_fixed", true, "/ecu/inputs/0/pull_up_fixed", "no pull-up"},
             Case{"/plugs/0/cavities", {"1", "1", "2"}, "/plugs/0", "twice"},
         }) {
        auto json = profile();
        json[nlohmann::json::json_pointer(c.pointer)] = c.value;
        const auto refused = readEcu(json);
        ASSERT_FALSE(refused) << c.pointer << " " << c.says;
        EXPECT_EQ(refused.error().place.pointer, c.at) << refused.error().text();
        EXPECT_THAT(refused.error().sentence, testing::HasSubstr(c.says));
    }
}

TEST(EcuFile, AnInputIsSetToWhatItTakes)
{
    Ecu unit;
    unit.inputs.emplace_back();
    unit.inputs[0].id = {"AN1"};
    unit.inputs[0].modes = {InputMode::Analog, InputMode::Switch};
    unit.inputs[0].setTo = InputMode::Switch;
    EXPECT_TRUE(checkEcu(unit));
    unit.inputs[0].setTo = InputMode::Frequency;
    const auto refused = checkEcu(unit);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().place.pointer, "/inputs/0/set_to");
    EXPECT_NE(refused.error().sentence.find("cannot be set to frequency"), std::string::npos);
}

TEST(Library, OwnPartsAreKeptAndReadBack)
{
    const auto folder = std::filesystem::temp_directory_path() / ("vicegrip-own-" + std::to_string(getpid()));
    const Part sensor = *readPart(thermistor());
    const EcuProfile ecu = *readEcu(profile());
    ASSERT_TRUE(keep(sensor, folder));
    ASSERT_TRUE(keep(ecu, folder));
    ASSERT_TRUE(keep(ecu, folder)) << "again, over itself";
    const Library library = readLibrary({folder});
    EXPECT_TRUE(library.complaints.empty());
    ASSERT_NE(find(library, sensor.id), nullptr);
    EXPECT_EQ(*find(library, sensor.id), sensor);
    EXPECT_EQ(*find(library, ecu.id), ecu);
    Part bad = sensor;
    bad.high = bad.low;
    EXPECT_FALSE(keep(bad, folder));
    std::filesystem::remove_all(folder);
}

TEST(Library, TwoFilesThatDescribeOnePartAreSaid)
{
    const auto folder = std::filesystem::temp_directory_path() / ("vicegrip-twice-" + std::to_string(getpid()));
    std::filesystem::create_directories(folder / "sensors");
    auto other = thermistor();
    std::ofstream(folder / "sensors" / "a.json") << other;
    other["name"] = "Another";
    std::ofstream(folder / "sensors" / "b.json") << other;
    const Library library = readLibrary({folder});
    ASSERT_EQ(library.complaints.size(), 1U);
    EXPECT_THAT(library.complaints[0].text(),
                testing::AllOf(testing::HasSubstr("b.json"), testing::HasSubstr("already")));
    EXPECT_EQ(library.parts.size(), 1U);
    std::filesystem::remove_all(folder);
}

TEST(SensorFile, EveryModelReadsBackAsItWasWritten)
{
    for (const Part& s : readLibrary({std::string(VICEGRIP_SOURCE_DIR) + "/data/library"}).parts) {
        const auto back = readPart(nlohmann::json::parse(fields::toJson(s).dump()));
        ASSERT_TRUE(back) << s.name << ": " << back.error().text();
        EXPECT_EQ(*back, s) << s.name;
    }
}

TEST(Library, BadFilesAreLeftOutAndUsersOwnOverride)
{
    const auto folder = std::filesystem::temp_directory_path() / ("vicegrip-library-" + std::to_string(getpid()));
    std::filesystem::create_directories(folder / "sensors");
    auto mine = thermistor();
    mine["id"] = "ntc-2k2";
    mine["name"] = "Mine";
    std::ofstream(folder / "sensors" / "mine.json") << mine;
    std::ofstream(folder / "sensors" / "broken.json") << "{\"id\": ";
    std::ofstream(folder / "sensors" / "alien.json") << "[1, 2]";
    const Library library =
        readLibrary({std::string(VICEGRIP_SOURCE_DIR) + "/data/library", folder, folder / "missing"});
    EXPECT_EQ(library.complaints.size(), 2U);
    for (const Error& e : library.complaints)
        EXPECT_THAT(e.text(), testing::HasSubstr(folder.string()));
    const auto it = std::ranges::find(library.parts, PartId{"ntc-2k2"}, &Part::id);
    ASSERT_NE(it, library.parts.end());
    EXPECT_EQ(it->name, "Mine");
    std::filesystem::remove_all(folder);
}

} // namespace
} // namespace vicegrip::parts
