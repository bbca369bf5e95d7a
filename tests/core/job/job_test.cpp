#include "core/base/document.h"
#include "core/job/facts.h"
#include "core/job/json.h"
#include "tests/support/petrel.h"

#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <random>
#include <unistd.h>

namespace vicegrip::job {
namespace {

using test::petrel;

/// Reads Petrel with one member replaced.
Result<Job> with(const char* pointer, const nlohmann::json& value)
{
    auto json = test::petrelJson();
    json[nlohmann::json::json_pointer(pointer)] = value;
    return read(json.dump());
}

TEST(JobFile, RoundTripIsExact)
{
    const Job job = petrel();
    const std::string text = write(job);
    const auto again = read(text);
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, job);
    EXPECT_EQ(write(*again), text) << "nothing drifts on the second writing";
}

TEST(JobFile, TheEcusUnitAndRoadSpeedAreKeptAndChecked)
{
    Job job = petrel();
    ScalingSpec& spec = job.circuits[0].scaling;
    spec.unit = "psi";
    spec.valueFirst = spec.falling = true;
    job.circuits[0].roadSpeed.emplace();
    job.circuits[0].roadSpeed->tyre = "205/55 R16";
    job.circuits[0].roadSpeed->runPulses = 16700;
    const auto again = read(write(job));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, job);
    const auto wrong = with("/circuits/0/scaling/unit", "°C");
    ASSERT_FALSE(wrong);
    EXPECT_EQ(wrong.error().place.pointer, "/circuits/0/scaling/unit");
    EXPECT_THAT(wrong.error().sentence, testing::HasSubstr("\"°C\" is not a unit of"));
    // How a table is written down is no fact that a proof rests on; its unit is one.
    const Facts before = facts(petrel());
    EXPECT_FALSE(before.contains("scaling map unit"));
    EXPECT_EQ(facts(job).at("scaling map unit"), "psi");
    EXPECT_FALSE(facts(job).contains("scaling map falling"));
}

TEST(JobFile, UnknownMembersSurviveAtEveryLevel)
{
    auto json = test::petrelJson();
    json["from_the_future"] = {{"deep", {1, 2, 3}}};
    json["wires"][3]["routed_by"] = "somebody";
    json["ecu"]["inputs"][0]["filter"] = 4;
    json["parts"][1]["note"] = "kept";
    json["proofs"][0]["photo"] = "a.jpg";
    json["surroundings"]["humidity"] = 40;
    json["circuits"][0]["rest"]["why"] = "open to air";
    json["circuits"][0]["scaling"]["smoothing"] = 2;
    for (auto& part : json["parts"])
        for (const char* model : {"thermistor", "potentiometer", "ratiometric", "voltage"})
            if (part.contains(model))
                part[model]["sheet"] = "page 3";
    json["ecu"]["supply"]["fuse"] = 1;
    json["joints"][0]["torque"] = 8;
    const auto job = read(json.dump());
    ASSERT_TRUE(job) << job.error().text();
    EXPECT_EQ(nlohmann::json::parse(write(*job)), json);
}

TEST(JobFile, RefusalsHavePointerAndSentence)
{
    struct Case
    {
        const char* pointer;
        nlohmann::json value;
        const char* at;
        const char* says;
    };
    const Case cases[] = {
        {"/wires/0/length_m", 0, "/wires/0/length_m", ""},
        {"/wires/0/length_m", "long", "/wires/0/length_m", "type"},
        {"/wires/0/from", "XX.1", "/wires/0/from", "no connector or joint"},
        {"/wires/0/from", "A.99", "/wires/0/from", "no cavity \"99\""},
        {"/wires/1/id", "w1", "/wires/1", "used twice"},
        {"/devices/0/part", "nothing", "/devices/0/part", "holds no part"},
        {"/circuits/0/input", "AN99", "/circuits/0/input", "no input"},
        {"/circuits/0/scaling/points", 1, "/circuits/0/scaling/points", ""},
        {"/circuits/0/scaling/high", -1, "/circuits/0/scaling/high", "range is empty"},
        {"/circuits/0/rest/kind", "ambient", "/circuits/0/rest/kind", "only a temperature"},
        {"/ecu/inputs/0/bits", 99, "/ecu/inputs/0/bits", ""},
        {"/surroundings/ambient_c", -300, "/surroundings/ambient_c", ""},
        {"/connectors/2/mates", "A", "/connectors/2/mates", "name each other"},
        {"/proofs/0/circuit", "gone", "/proofs/0/circuit", "no circuit"},
        {"/parts/0/high", -5, "/parts/0/high", "range is empty"},
    };
    for (const Case& c : cases) {
        const auto refused = with(c.pointer, c.value);
        ASSERT_FALSE(refused) << c.pointer;
        EXPECT_EQ(refused.error().place.pointer, c.at) << refused.error().text();
        EXPECT_THAT(refused.error().sentence, testing::HasSubstr(c.says)) << c.pointer;
    }
    auto json = test::petrelJson();
    json["wires"][0].erase("length_m");
    EXPECT_THAT(read(json.dump()).error().text(),
                testing::AllOf(testing::HasSubstr("/wires/0"), testing::HasSubstr("length_m")));
}

TEST(JobFile, NewerVersionThatIsUnderstoodKeepsItsVersion)
{
    auto json = test::petrelJson();
    json["vicegrip"] = kVersion + 1;
    json["invented_later"] = {{"a", 1}};
    const auto newer = read(json.dump());
    ASSERT_TRUE(newer) << newer.error().text();
    EXPECT_EQ(newer->version, kVersion + 1);
    EXPECT_EQ(newer->extra["invented_later"]["a"], 1);
}

TEST(JobFile, NewerVersionThatIsNotUnderstoodSaysSo)
{
    const auto refused = read(R"({"vicegrip": 99, "everything": "else"})");
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::Version);
    EXPECT_THAT(refused.error().sentence, testing::HasSubstr("newer"));
}

TEST(JobFile, TruncationAnywhereIsAnErrorWithALine)
{
    const std::string text = write(petrel());
    for (size_t length = 0; length + 2 < text.size(); length += 997) {
        const auto refused = read(text.substr(0, length));
        ASSERT_FALSE(refused);
        EXPECT_GT(refused.error().place.line, 0) << length;
    }
    EXPECT_THAT(read(text.substr(0, text.size() / 2)).error().sentence, testing::HasSubstr("cut off"));
}

TEST(JobFile, HostileShapesAreRefusedQuickly)
{
    EXPECT_EQ(read(std::string(200000, '[')).error().code, ErrorCode::TooBig);
    std::string nested = R"({"vicegrip": 1, "x": )";
    for (int i = 0; i < 5000; ++i)
        nested += "{\"a\":";
    EXPECT_EQ(read(nested).error().code, ErrorCode::TooBig);
    EXPECT_FALSE(read("null"));
    EXPECT_FALSE(read("[]"));
    EXPECT_FALSE(read("\xff\xfe"));
    EXPECT_FALSE(read(R"({"vicegrip": 1e999})"));
    EXPECT_FALSE(read(R"({"vicegrip": -1})"));
    EXPECT_FALSE(read("{\"vicegrip\": 1, \"name\": \"\xC3\x28\"}"));
}

TEST(JobFile, TwoHundredMegabytesAreNotReadIntoMemory)
{
    const auto file = std::filesystem::temp_directory_path() / ("vicegrip-huge-" + std::to_string(getpid()));
    std::ofstream(file) << "{";
    std::filesystem::resize_file(file, 200U << 20U); // sparse
    const auto refused = readFile(file);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::TooBig);
    EXPECT_THAT(refused.error().text(), testing::HasSubstr(file.string()));
    std::filesystem::remove(file);
}

TEST(JobFile, MissingFileAndFolderAreSaid)
{
    EXPECT_EQ(readFile("/nowhere/at/all.vicegrip").error().code, ErrorCode::Io);
    EXPECT_THAT(readFile("/tmp").error().sentence, testing::HasSubstr("folder"));
}

TEST(JobFile, MutatedBytesNeverCrash)
{
    const std::string text = write(petrel());
    std::mt19937 random(5); // NOLINT(bugprone-random-generator-seed): the same mutations every time
    int accepted = 0;
    for (int run = 0; run < 400; ++run) {
        std::string mutated = text;
        for (auto n = 1 + random() % 6; n > 0; --n) {
            const size_t where = random() % mutated.size();
            switch (random() % 3) {
            case 0:
                mutated[where] = static_cast<char>(random() % 256);
                break;
            case 1:
                mutated.erase(where, random() % 40);
                break;
            default:
                mutated.insert(where, mutated.substr(random() % mutated.size(), random() % 40));
                break;
            }
        }
        const auto job = read(mutated);
        if (!job) {
            EXPECT_FALSE(job.error().sentence.empty());
            continue;
        }
        ++accepted; // a changed digit or comment is still a job; it must then be one we can analyse
        const auto analysis = test::analysed(*job);
        EXPECT_EQ(analysis.circuits.size(), job->circuits.size());
    }
    EXPECT_LT(accepted, 400);
}

TEST(Facts, AChangedPullUpIsSaidInTheTradesWords)
{
    Job job = petrel();
    const Facts before = facts(job);
    EXPECT_TRUE(changes(before, before).empty());
    findInput(job, parts::InputId{"AN3"})->pull_up_ohm = 1000;
    EXPECT_THAT(changes(before, facts(job)), testing::ElementsAre("input AN3 pull-up changed from 2k49 Ω to 1k Ω"));
    findInput(job, parts::InputId{"AN3"})->pull_up_ohm.reset();
    EXPECT_THAT(changes(before, facts(job)), testing::ElementsAre("input AN3 pull-up changed from 2k49 Ω to none"));
}

TEST(Facts, EveryElectricalChangeIsAFact)
{
    const Facts before = facts(petrel());
    const std::pair<const char*, std::function<void(Job&)>> edits[] = {
        {"length", [](Job& j) { test::wire(j, "w5").length_m += 0.1; }},
        {"area", [](Job& j) { test::wire(j, "w5").area_m2 = 0.75e-6; }},
        {"repinned", [](Job& j) { test::wire(j, "w6").to.cavity = "15"; }},
        {"colour", [](Job& j) { test::wire(j, "w6").colour = "RD"; }},
        {"part",
         [](Job& j) {
             std::get<parts::Thermistor>(j.parts[2].model).curve = parts::BetaCurve{2500, 3500};
         }},
        {"supply", [](Job& j) { j.ecu.supply.volts = 5.1; }},
        {"firmware", [](Job& j) { j.ecu.firmware = "0.5"; }},
        {"input", [](Job& j) { j.circuits[1].input = {"AN6"}; }},
        {"points", [](Job& j) { j.circuits[1].scaling.points = 8; }},
        {"cavity", [](Job& j) { j.ecu.pins.back().at = "A.20"; }},
    };
    for (const auto& [name, edit] : edits) {
        Job job = petrel();
        edit(job);
        EXPECT_FALSE(changes(before, facts(job)).empty()) << name;
    }
}

} // namespace
} // namespace vicegrip::job
