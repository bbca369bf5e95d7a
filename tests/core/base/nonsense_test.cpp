#include "core/base/document.h"
#include "core/base/number_table.h"
#include "core/job/json.h"
#include "core/job/surroundings.h"
#include "core/units/units.h"
#include "tests/support/petrel.h"

#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <sstream>

/// Nonsense is refused where it stands, with what would be sense.
namespace vicegrip {
namespace {

using testing::HasSubstr;
using units::Dimension;

std::string petrelText()
{
    std::ifstream in(test::petrelPath());
    std::ostringstream out;
    out << in.rdbuf();
    return out.str();
}

/// What is said of the demo job after one change of its text, which must be possible once.
std::string saidAfter(const std::string& from, const std::string& to)
{
    std::string text = petrelText();
    const size_t at = text.find(from);
    EXPECT_NE(at, std::string::npos) << from;
    text.replace(at, from.size(), to);
    const auto read = job::read(text);
    return read ? std::string("nothing") : read.error().text();
}

/// The same after a change of its document.
template <class Change> std::string saidOf(Change change)
{
    auto json = nlohmann::json::parse(petrelText());
    change(json);
    const auto read = job::read(json.dump());
    return read ? std::string("nothing") : read.error().text();
}

TEST(Nonsense, TheTextItself)
{
    EXPECT_THAT(saidAfter("\"length_m\": 1.1", "\"length_m\": 1e999"), HasSubstr("too large"));
    EXPECT_THAT(saidAfter("\"length_m\": 1.1", "\"length_m\": 1e999"), testing::ContainsRegex("^line [0-9]+:[0-9]+: "));
    EXPECT_THAT(saidAfter("\"length_m\": 1.1", "\"length_m\": 1.1, \"length_m\": 2"),
                HasSubstr("/wires/0/length_m: the member stands here twice"));
    EXPECT_THAT(job::read(petrelText() + std::string(3, '\0')).error().text(), HasSubstr("zero byte"));
    EXPECT_THAT(job::read(petrelText() + "x").error().text(), HasSubstr("not valid JSON"));
    EXPECT_THAT(job::read(std::string(100, '[')).error().text(), HasSubstr("nests deeper"));
}

/// 31 MB of "{}," once took 2.7 GB.
TEST(Nonsense, MoreValuesThanAnyJobNeeds)
{
    std::string text = "[";
    for (int i = 0; i < 2'000'000; ++i)
        text += "{},";
    text += "{}]";
    EXPECT_THAT(document::parse(text).error().sentence, HasSubstr("more values"));
}

TEST(Nonsense, QuantitiesOutOfTheirRange)
{
    EXPECT_THAT(saidAfter("\"area_mm2\": 0.5", "\"area_mm2\": 1e-300"),
                HasSubstr("/area_mm2: 1e-300 mm² is no area that occurs: from 0.001 mm² to 500 mm²"));
    for (const char* place : {"/battery/tolerance_v", "/meter/lead_ohm", "/ecu/inputs/0/span_v", "/ecu/supply/limit_a",
                              "/parts/0/low", "/parts/0/high", "/circuits/0/scaling/low", "/circuits/0/scaling/high",
                              "/proofs/0/value", "/surroundings/ambient_c", "/wires/0/length_m"})
        for (const double value : {1e308, -1e308}) {
            const nlohmann::json::json_pointer pointer(place);
            EXPECT_THAT(saidOf([&](nlohmann::json& j) { j[pointer] = value; }), HasSubstr(std::string(place) + ": "));
        }
    EXPECT_THAT(saidOf([](nlohmann::json& j) { j["circuits"][2]["scaling"]["high"] = 5000; }),
                HasSubstr("/circuits/2/scaling/high: 5000 °C is no temperature that occurs"));
}

TEST(Nonsense, AnOddNameInThePlaceIsEscaped)
{
    EXPECT_THAT(saidOf([](nlohmann::json& j) {
                    j["a/b~c"] = {{"length_m", {1, -5}}};
                }),
                HasSubstr("/a~1b~0c/length_m/1: -5 m is no length")); // RFC 6901
}

TEST(Nonsense, TheSameNameTwice)
{
    for (const char* list : {"joints", "switches", "connectors", "wires", "circuits", "loads"})
        EXPECT_THAT(saidOf([&](nlohmann::json& j) { j[list].push_back(j[list][0]); }),
                    testing::AllOf(HasSubstr("/" + std::string(list) + "/"), HasSubstr("used twice")))
            << list;
    EXPECT_THAT(saidOf([](nlohmann::json& j) { j["joints"][4]["id"] = j["connectors"][0]["id"]; }),
                testing::AllOf(HasSubstr("/joints/4: a connector is named")));
}

TEST(Nonsense, TheSchemasBoundsAreSentences)
{
    EXPECT_THAT(saidOf([](nlohmann::json& j) { j["surroundings"]["ambient_c"] = 71; }),
                HasSubstr("/surroundings/ambient_c: the number must not be above 70"));
    EXPECT_THAT(saidOf([](nlohmann::json& j) { j["wires"][0]["length_m"] = 0; }), HasSubstr("must be above 0"));
    EXPECT_THAT(saidOf([](nlohmann::json& j) { j["circuits"][0]["name"] = std::string(200, 'x'); }),
                HasSubstr("the text must have at most 120 letters"));
    EXPECT_THAT(saidOf([](nlohmann::json& j) { j["connectors"][0]["id"] = "a\nb"; }), HasSubstr("\"a?b\" is not"));
}

TEST(Nonsense, WhatIsTyped)
{
    EXPECT_THAT(units::parse("5000C", Dimension::Temperature).error().sentence,
                HasSubstr("from -273.15 °C to 2000 °C"));
    EXPECT_THAT(units::parse("-10 l", Dimension::Volume).error().sentence, HasSubstr("below zero"));
    EXPECT_THAT(units::parse("1e12 V", Dimension::Voltage).error().sentence, HasSubstr("from -1000 V to 1000 V"));
    EXPECT_THAT(units::parse("900 mm2", Dimension::Area).error().sentence, HasSubstr("to 500 mm²"));
    EXPECT_THAT(units::parse("1e-9 ohm", Dimension::Resistance).error().sentence, HasSubstr("from 1e-06 Ω"));
    EXPECT_TRUE(units::parse("0 ohm", Dimension::Resistance));
    EXPECT_FALSE(job::parseAmbient("300 °C"));
    EXPECT_FALSE(job::parseBarometer("300 kPa"));
    EXPECT_NEAR(*job::parseAmbient("72 °F"), 295.372, 1e-3);
}

TEST(Nonsense, ColumnsOfNumbers)
{
    EXPECT_THAT(readNumbers("1e200,1\n2,3\n", 2).error().text(), HasSubstr("line 1: \"1e200\" is not a finite number"));
    EXPECT_THAT(readNumbers("0x10,1\n2,3\n", 2).error().text(), HasSubstr("line 1: \"0x10\""));
    EXPECT_EQ(readNumbers("time (ms),V\n2,3\n", 2)->names.size(), 2U);
    EXPECT_EQ(readNumbers("1,0\n2,1e-300\n", 2).error().place.line, 2);
}

} // namespace
} // namespace vicegrip
