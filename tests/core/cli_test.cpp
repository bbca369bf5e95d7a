#include "tests/support/petrel.h"

#include <array>
#include <cstdio>
#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <sys/wait.h>

/// The command line, run as a program.
namespace vicegrip {
namespace {

struct Ran
{
    int code = -1;
    std::string out; ///< both streams
};

Ran run(const std::string& arguments)
{
    Ran ran;
    FILE* pipe = popen((std::string(VICEGRIP_CLI) + " " + arguments + " 2>&1").c_str(), "r"); // NOLINT(cert-env33-c)
    if (pipe == nullptr)
        return ran;
    std::array<char, 4096> block{};
    while (const size_t got = fread(block.data(), 1, block.size(), pipe))
        ran.out.append(block.data(), got);
    const int status = pclose(pipe);
    ran.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return ran;
}

TEST(Cli, ExpectAgreesWithTheCore)
{
    const Ran ran = run("expect " + test::petrelPath() + " --circuit clt --ambient 80C --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto json = nlohmann::json::parse(ran.out);
    job::Job hot = test::petrel();
    hot.surroundings.ambient_k = 353.15;
    const double promised = test::at(test::analysed(hot), "clt", "A.7").expectation.value;
    bool found = false;
    for (const auto& s : json["circuits"][0]["stations"]) {
        if (s["station"] != "A.7")
            continue;
        found = true;
        EXPECT_NEAR(s["expected"].get<double>(), promised, 1e-9);
        EXPECT_EQ(s["unit"], "V");
    }
    EXPECT_TRUE(found);
}

TEST(Cli, ScalePrintsTheAskedPoints)
{
    const Ran ran = run("scale " + test::petrelPath() + " --circuit iat --points 6 --csv");
    ASSERT_EQ(ran.code, 0) << ran.out;
    EXPECT_EQ(std::ranges::count(ran.out, '\n'), 7);
    const auto json =
        nlohmann::json::parse(run("scale " + test::petrelPath() + " --circuit iat --points 6 --json").out);
    EXPECT_EQ(json["points"].size(), 6U);
    EXPECT_GT(json["worst_error"].get<double>(), 0);
}

TEST(Cli, CheckTellsFindingsByItsExitCode)
{
    const Ran ran = run("check " + test::petrelPath() + " --json");
    EXPECT_EQ(ran.code, 1);
    EXPECT_EQ(nlohmann::json::parse(ran.out)["job"], "Petrel");
}

TEST(Cli, ExitCodesAreAsDocumented)
{
    EXPECT_EQ(run("").code, 2);
    EXPECT_EQ(run("dance").code, 2);
    EXPECT_EQ(run("expect " + test::petrelPath() + " --condition driving").code, 2);
    EXPECT_EQ(run("expect " + test::petrelPath() + " --ambient warm").code, 2);
    EXPECT_EQ(run("check /nowhere.vicegrip").code, 3);
    EXPECT_EQ(run("check /dev/null").code, 3);
    EXPECT_EQ(run("expect " + test::petrelPath() + " --circuit none").code, 4);
    EXPECT_EQ(run("scale " + test::petrelPath() + " --circuit none").code, 4);
    EXPECT_EQ(run("--help").code, 0);
}

TEST(Cli, ErrorsNameFileAndPlace)
{
    const Ran ran = run("check " + std::string(VICEGRIP_SOURCE_DIR) + "/README.md");
    EXPECT_EQ(ran.code, 3);
    EXPECT_THAT(ran.out, testing::HasSubstr("README.md:1:1: "));
}

TEST(Cli, SeatPrintsSeatsRefusalsAndWaysOut)
{
    const std::string curlew = std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip";
    const Ran ran = run("seat " + curlew + " --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto json = nlohmann::json::parse(ran.out);
    EXPECT_TRUE(json["optimal"].get<bool>());
    EXPECT_EQ(json["moved"], 0);
    EXPECT_EQ(json["seats"].size(), 15U);
    EXPECT_TRUE(json["unseated"].empty());
    // The same van on the small ECU: who is left over is told why, input by input.
    auto job = *job::readFile(curlew);
    job.ecu.inputs.resize(4);
    std::erase_if(job.ecu.pins, [&](const parts::EcuPin& p) {
        return p.role == parts::EcuPinRole::Input && job::findInput(job, p.input) == nullptr;
    });
    for (job::Circuit& c : job.circuits)
        c.input = {};
    const std::string file = testing::TempDir() + "curlew_small.vicegrip";
    std::ofstream(file) << job::write(job);
    const auto tight = nlohmann::json::parse(run("seat " + file + " --json").out);
    ASSERT_FALSE(tight["unseated"].empty());
    for (const auto& u : tight["unseated"])
        EXPECT_FALSE(u["refusals"].empty()) << u["name"];
    EXPECT_THAT(run("seat " + file).out, testing::HasSubstr("way out:"));
    std::remove(file.c_str());
}

TEST(Cli, RangeRanksAndRefusesWhatIsNoPressure)
{
    const Ran ran = run("range " + test::petrelPath() + " --circuit map --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto json = nlohmann::json::parse(ran.out);
    EXPECT_EQ(json["marks"].size(), 5U);
    EXPECT_TRUE(json["ranking"][0]["reads"].get<bool>());
    EXPECT_EQ(run("range " + test::petrelPath() + " --circuit clt").code, 4);
    EXPECT_EQ(run("range " + test::petrelPath() + " --circuit nobody").code, 4);
    EXPECT_EQ(run("range " + test::petrelPath()).code, 2);
}

TEST(Cli, NeedsPrintsEachCircuitWithItsReason)
{
    const Ran ran = run("needs " + test::petrelPath() + " --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto json = nlohmann::json::parse(ran.out);
    for (const auto& n : json["needs"]) {
        EXPECT_EQ(n["standing"], "there") << n["name"];
        EXPECT_FALSE(n["reason"].get<std::string>().empty()) << n["name"];
    }
}

TEST(Cli, PinsSayWhatBelongsWhereAndHowToCountToIt)
{
    const auto json =
        nlohmann::json::parse(run("pins " + test::petrelPath() + " --connector A --face mating --json").out);
    EXPECT_EQ(json["side"], "mating");
    ASSERT_EQ(json["connectors"].size(), 1U);
    bool found = false;
    for (const auto& c : json["connectors"][0]["cavities"])
        if (c["cavity"] == "7") {
            found = true;
            EXPECT_EQ(c["for"], "Coolant temp, signal");
            EXPECT_EQ(c["count"], "first row, 7th from the left; the row starts at 13");
        }
    EXPECT_TRUE(found);
    EXPECT_THAT(run("pins " + test::petrelPath()).out, testing::HasSubstr("wire side"));
    EXPECT_EQ(run("pins " + test::petrelPath() + " --connector Q").code, 4);
    EXPECT_EQ(run("pins " + test::petrelPath() + " --face left").code, 2);
}

TEST(Cli, BundleSaysHowThickAndWhatGoesOver)
{
    const auto json = nlohmann::json::parse(run("bundle 1.6x7 --json").out);
    EXPECT_NEAR(json["packed_mm"].get<double>(), 4.8, 0.01) << "six round one (Kravitz 1967)";
    EXPECT_GT(json["sleeve_mm"].get<double>(), json["packed_mm"].get<double>());
    EXPECT_THAT(run("bundle 1.6x7 2.1x3").out, testing::HasSubstr("10 wires"));
    for (const char* bad : {"1.6xmany", "0x3", "1.6x0", "thick", "1x400 1x400"}) {
        const Ran ran = run(std::string("bundle ") + bad);
        EXPECT_EQ(ran.code, 2) << bad;
        EXPECT_FALSE(ran.out.empty()) << bad;
    }
}

TEST(Cli, CutBuyAndPlanComeFromTheDrawing)
{
    const auto cuts = nlohmann::json::parse(run("cut " + test::petrelPath() + " --json").out);
    EXPECT_EQ(cuts["cuts"].size(), test::petrel().wires.size());
    EXPECT_THAT(run("cut " + test::petrelPath() + " --csv").out, testing::StartsWith("wire,from,to,colour,area_mm2"));
    EXPECT_THAT(run("buy " + test::petrelPath() + " --csv").out, testing::HasSubstr("one more for each three"));
    EXPECT_THAT(run("buy " + test::petrelPath()).out, testing::HasSubstr("needed"));
    EXPECT_EQ(run("cut nothing.vicegrip").code, 3);
    const auto plan = nlohmann::json::parse(run("plan " + test::petrelPath() + " --closed intake --json").out);
    EXPECT_TRUE(plan["optimal"].get<bool>());
    EXPECT_EQ(plan["chores"].front()["id"], "battery-off");
    EXPECT_EQ(run("plan " + test::petrelPath() + " --closed bonnet").code, 2);
    EXPECT_THAT(run("plan " + test::petrelPath()).out, testing::HasSubstr("changes of place"));
}

} // namespace
} // namespace vicegrip
