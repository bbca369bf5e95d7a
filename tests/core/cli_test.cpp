#include "tests/support/cli.h"
#include "tests/support/petrel.h"

#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <unistd.h>

/// The command line, run as a program.
namespace vicegrip {
namespace {

using test::Ran;
using test::run;

/// What the bench would send, recorded: 4104 counts, 2.5 V, 22 (IEEE 754: 0x41B00000).
TEST(Cli, DecodesRecordedFrames)
{
    const auto log = std::filesystem::temp_directory_path() / ("decode-" + std::to_string(getpid()) + ".log");
    std::ofstream(log) << "(1.000000) can0 502#1008271041B00000\n(1.25) can0 503#000000007FC00000\n(1.5) can0 123#00\n";
    const std::string call =
        "decode " + log.string() + " --dbc " + std::string(VICEGRIP_SOURCE_DIR) + "/data/links/bench.dbc";
    const test::Ran ran = test::run(call);
    EXPECT_EQ(ran.code, 0) << ran.out;
    EXPECT_THAT(ran.out, testing::HasSubstr("1.000000,can0,Input2,Input2Counts,4104,counts"));
    EXPECT_THAT(ran.out, testing::HasSubstr("1.000000,can0,Input2,Input2Volts,2.5,V"));
    EXPECT_THAT(ran.out, testing::HasSubstr("1.000000,can0,Input2,Input2Value,22,"));
    EXPECT_THAT(ran.out, testing::HasSubstr("Input3Value,nan")) << "an input without a table";
    EXPECT_THAT(ran.out, testing::HasSubstr("3 frames, 1 that the file does not describe"));
    std::ofstream(log, std::ios::app) << "nonsense\n";
    const test::Ran bad = test::run(call);
    EXPECT_EQ(bad.code, 3) << bad.out;
    EXPECT_THAT(bad.out, testing::HasSubstr(log.string() + ":4:"));
    std::filesystem::remove(log);
}

TEST(Cli, ExpectAgreesWithTheCore)
{
    const Ran ran = run("expect " + test::petrelPath() + " --circuit clt --ambient 60C --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto json = nlohmann::json::parse(ran.out);
    job::Job hot = test::petrel();
    hot.surroundings.ambient_k = 333.15;
    const double promised = test::at(test::analysed(hot), "clt", "A.7").expectation.due.si();
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

/// The battery's post under each condition: 12.6 V, 12.6 V less what the starter's 140 A and some 25 A of pump, fan,
/// injectors and coils lose in 15 mOhm, 14.2 V.
TEST(Cli, ExpectKnowsEveryCondition)
{
    for (const auto& [condition, volts] : {std::pair("key-on", 12.6), {"cranking", 10.1}, {"running", 14.2}}) {
        const Ran ran =
            run("expect " + test::petrelPath() + " --circuit gt --json --condition " + std::string(condition));
        ASSERT_EQ(ran.code, 0) << ran.out;
        const auto json = nlohmann::json::parse(ran.out);
        EXPECT_EQ(json["condition"], condition);
        bool found = false;
        for (const auto& s : json["circuits"][0]["stations"])
            if (s["station"] == "BAT+") {
                found = true;
                EXPECT_NEAR(s["expected"].get<double>(), volts, 0.25) << condition;
            }
        EXPECT_TRUE(found) << condition;
    }
    const Ran running = run("netlist " + test::petrelPath() + " --running");
    EXPECT_EQ(running.out, run("netlist " + test::petrelPath() + " --condition running").out) << "its old name";
}

TEST(Cli, FusesSayWhatHangsOnThem)
{
    const Ran ran = run("fuses " + test::petrelPath() + " --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto fuses = nlohmann::json::parse(ran.out)["fuses"];
    ASSERT_EQ(fuses.size(), 6U);
    EXPECT_EQ(fuses[1]["feeds"][0]["name"], "Fuel pump");
    EXPECT_EQ(fuses[1]["current_a"], 12.0);
    EXPECT_EQ(fuses[1]["proposed_a"], 20.0) << "12 A are 60 % of it, and 80 % of 15 A";
    EXPECT_THAT(run("fuses " + test::petrelPath()).out, testing::HasSubstr("Pump fuse, 20 A"));
    const auto proposals = nlohmann::json::parse(ran.out)["proposals"];
    ASSERT_EQ(proposals.size(), 1U) << "the ECU shares its fuse";
    EXPECT_THAT(proposals[0]["do"].get<std::string>(), testing::HasSubstr("on a fuse of its own: 2 A"));
    EXPECT_THAT(run("fuses " + test::petrelPath()).out, testing::HasSubstr("  to do: "));
    const Ran van = run("fuses " + std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip");
    EXPECT_THAT(van.out, testing::HasSubstr("CAN gateway"));
    EXPECT_THAT(van.out, testing::Not(testing::HasSubstr("Vehicle network"))) << "it has power of its own";
    EXPECT_EQ(run("fuses /no/such/job").code, 3);
}

TEST(Cli, FindNamesFaultsAndTheNextReading)
{
    const std::string petrel = test::petrelPath();
    const Ran ran = run("find " + petrel + " --circuit fp --reading FP.3@key-on=0.01V --next 2 --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto json = nlohmann::json::parse(ran.out);
    EXPECT_THAT(json["groups"][0]["members"][0]["what"].get<std::string>(), testing::HasSubstr("w20"));
    double shares = 0;
    for (const auto& g : json["groups"])
        shares += g["share"].get<double>();
    EXPECT_GT(shares, 0.9);
    EXPECT_LT(shares, 1 + 1e-9);
    ASSERT_EQ(json["next"].size(), 2U);
    EXPECT_GT(json["next"][0]["seconds"].get<double>(), 0);
    EXPECT_FALSE(json["next"][0]["outcomes"].empty());
    // In words; and the circuit follows from the reading.
    EXPECT_THAT(run("find " + petrel + " --reading FP.3@key-on=0.01V").out,
                testing::HasSubstr("pull at both its ends"));
    for (const char* bad : {"--reading FP.3@key-on", "--reading FP.3@noon=1V", "--reading NO.1@key-on=1V",
                            "--reading FP.3@key-on=fish", "--reading fp:value@battery-off=3", "--circuit nobody", ""}) {
        const Ran refused = run("find " + petrel + " " + bad);
        EXPECT_EQ(refused.code, 4) << bad << refused.out;
    }
    EXPECT_EQ(run("find /no/such/job --circuit fp").code, 3);
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
    EXPECT_EQ(json["seats"].size(), 20U);
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
        if (n["standing"] == "your own") // a bus is nothing that the brief asks for
            continue;
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
    EXPECT_EQ(plan["steps"].front()["id"], "battery-off");
    EXPECT_EQ(run("plan " + test::petrelPath() + " --closed bonnet").code, 2);
    EXPECT_THAT(run("plan " + test::petrelPath()).out, testing::HasSubstr("changes of place"));
}

TEST(Cli, UnitsAreThoseAReaderAskedFor)
{
    const std::string job = test::petrelPath();
    EXPECT_THAT(run("budget " + job + " --circuit clt --at 80").out, testing::HasSubstr("at 80.0 °C"));
    for (const std::string& asked : {"--units us budget " + job, "budget " + job + " --units us"})
        EXPECT_THAT(run(asked + " --circuit clt --at 176").out, testing::HasSubstr("at 176.0 °F (")) << asked;
    EXPECT_THAT(run("--units us expect " + job + " --ambient 500").out,
                testing::HasSubstr("between -76 °F and 158 °F"));
    // What programs read is the same whoever asks.
    const std::string json = "expect " + job + " --circuit clt --ambient \"60 C\" --json";
    EXPECT_EQ(run("--units us " + json).out, run(json).out);
    const std::string csv = "scale " + job + " --circuit clt --csv";
    EXPECT_EQ(run("--units us " + csv).out, run(csv).out);
    EXPECT_EQ(run("--units cubits check " + job).code, 2);
}

/// 1.9 mm, 1.0 to 1.5 mm, a thread of 1 mm: two thirds of a turn (arithmetic); lying along 36-1 over 150 mm, half of
/// one.
TEST(Cli, GapSaysWhatHandsDo)
{
    const std::string asked = "gap --now 1.9mm --window 1.0-1.5mm";
    EXPECT_THAT(run(asked + " --pitch 1mm").out,
                testing::HasSubstr("in by 0.67 of a turn (4 flats of its nut): 1.90 mm to 1.23 mm"));
    EXPECT_THAT(run(asked).out, testing::HasSubstr("take 0.65 mm off below its flange: 1.90 mm to 1.25 mm"));
    EXPECT_THAT(
        run(asked + " --pitch 1mm --wheel 36-1 --across 150mm --lies 0").out,
        testing::AllOf(testing::HasSubstr("0.50 of a turn"), testing::HasSubstr("from 1.90 mm now, and from 1.40")));
    EXPECT_EQ(run(asked + " --pitch 1mm --wheel 36-1 --across 150mm --lies '75 deg'").out,
              run(asked + " --pitch 1mm --wheel 36-1 --across 150mm --lies 255°").out)
        << "half a turn is none";
    const Ran beside = run(asked + " --pitch 1mm --wheel 36-1 --across 150mm --thick 6mm --beside 9mm");
    EXPECT_EQ(beside.code, 1);
    EXPECT_THAT(beside.out, testing::HasSubstr("senses nothing of the teeth"));
    const Ran runsOut = run(asked + " --pitch 1mm --run-out 0.6mm");
    EXPECT_EQ(runsOut.code, 1);
    EXPECT_THAT(runsOut.out, testing::HasSubstr("runs out farther than the window is wide"));
    EXPECT_EQ(run(asked + " --pitch 1mm --lies 30").code, 2) << "of which wheel?";
    EXPECT_EQ(run(asked + " --wheel 36-1 --across 0mm --lies 30").code, 2);
    EXPECT_EQ(run(asked + " --wheel 36-1 --lies 30").code, 2) << "how far across?";
    EXPECT_EQ(run(asked + " --thick 6mm").code, 2) << "nothing typed goes unheard";
    EXPECT_EQ(run(asked + " --wheel 36-1 --across 150mm --beside=-1mm").code, 2);
    EXPECT_EQ(run("gap --now 1.9mm --window 1.0mm").code, 2);
}

TEST(Cli, NonsenseIsACommandLineThatIsWrong)
{
    const std::string speed = "speed --tyre '205/55 R16' --teeth ";
    for (const std::string& wrong :
         {speed + "nan", speed + "8 --pulses -5", speed + "8 --ratio inf",
          std::string("probe --tip 5000C --joint 20C --box 20C"), std::string("blend --in 20L@E10 --tank=-10L"),
          std::string("bundle 1.6x2.5"), "expect " + test::petrelPath() + " --ambient 300C"}) {
        const Ran ran = run(wrong);
        EXPECT_EQ(ran.code, 2) << wrong << ran.out;
        EXPECT_FALSE(ran.out.empty()) << wrong;
    }
    EXPECT_THAT(run("--version").out, testing::ContainsRegex("vicegrip-cli [0-9]+"));
    EXPECT_EQ(run("--version").code, 0);
}

TEST(Cli, ColumnsThatAreRefusedAreNamedWithTheirFile)
{
    const std::string file =
        (std::filesystem::temp_directory_path() / ("columns" + std::to_string(getpid()) + ".csv")).string();
    for (const auto& [text, command] : {std::pair("1e200,1\n2e200,2\n3e200,3\n", "fit "),
                                        {"0x10,1\n2,2\n3,3\n", "fit "},
                                        {"0,1\n", "throttle "},
                                        {"0,1\n0.1,500\n", "throttle "}}) {
        std::ofstream(file) << text;
        const Ran ran = run(command + file);
        EXPECT_NE(ran.code, 0) << text;
        EXPECT_THAT(ran.out, testing::HasSubstr(file)) << text;
        EXPECT_THAT(ran.out, testing::Not(testing::HasSubstr("nan")));
    }
    std::filesystem::remove(file);
}

} // namespace
} // namespace vicegrip
