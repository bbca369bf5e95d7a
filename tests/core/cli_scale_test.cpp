#include "tests/support/cli.h"
#include "tests/support/petrel.h"

#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <unistd.h>

/// The commands of curves, tables, budgets, limits and fuel, run as a program.
namespace vicegrip {
namespace {

using test::Ran;
using test::run;

TEST(Cli, CurvesAreFittedToFilesOfReadings)
{
    const auto folder = std::filesystem::temp_directory_path() / ("fit-" + std::to_string(getpid()));
    std::filesystem::create_directories(folder);
    const auto file = [&](const char* name, const char* text) {
        std::ofstream(folder / name) << text;
        return " " + (folder / name).string();
    };
    const std::string line = file("line.csv", "bar;V\n0;0,5\n5;2,5\n10;4,5\n");
    const auto fitted = nlohmann::json::parse(run("fit" + line + " --json").out);
    EXPECT_NEAR(fitted["slope"].get<double>(), 0.4, 1e-12);
    EXPECT_NEAR(fitted["intercept"].get<double>(), 0.5, 1e-12);
    EXPECT_THAT(run("fit" + line).out, testing::HasSubstr("y = 0.5"));
    const std::string ntc = file("ntc.csv", "0,32650\n25,10000\n50,3603\n");
    EXPECT_NEAR(nlohmann::json::parse(run("fit" + ntc + " --kind ntc --json").out)["b"].get<double>(), 2.34e-4, 4e-6)
        << "the common 10 kOhm curve, from memory";
    EXPECT_THAT(run("fit" + ntc + " --kind ntc").out, testing::HasSubstr("K off"));
    const std::string known = file("known.csv", "0,32650,0.1\n25,10000,0.1\n50,3603,0.1\n75,1490,0.1\n");
    EXPECT_LT(nlohmann::json::parse(run("fit" + known + " --kind ntc --json").out)["band_sigma_k"][1].get<double>(),
              0.1);
    EXPECT_THAT(run("fit" + known + " --kind ntc").out, testing::HasSubstr("(one sigma)"));
    EXPECT_THAT(run("fit" + file("off.csv", "0,0,0.01\n1,1.5,0.01\n2,2,0.01\n3,3,0.01\n")).out,
                testing::HasSubstr("scatter more than their sigmas explain"));
    EXPECT_THAT(run("fit" + line + " --kind monotone").out, testing::HasSubstr("\n5,2.5\n"));
    EXPECT_EQ(run("fit" + file("bad.csv", "1,2\n3,x\n")).code, 3);
    EXPECT_THAT(run("fit" + file("bad.csv", "1,2\n3,x\n")).out, testing::HasSubstr("bad.csv:2"));
    EXPECT_EQ(run("fit" + file("two.csv", "1,2\n3,4\n")).code, 4);
    EXPECT_EQ(run("fit" + line + " --kind spline").code, 2);
    std::filesystem::remove_all(folder);
}

TEST(Cli, ScalePlacesPointsAndComparesWithWhatTheEcuHolds)
{
    const std::string job = test::petrelPath();
    const auto worst = [&](const std::string& more) {
        const Ran ran = run("scale " + job + " --circuit clt --json " + more);
        EXPECT_EQ(ran.code, 0) << ran.out;
        return nlohmann::json::parse(ran.out)["worst_error"].get<double>();
    };
    EXPECT_LT(worst("--breakpoints best"), worst("--breakpoints even") / 2);
    EXPECT_LE(worst("--breakpoints free"), worst("--breakpoints best"));

    const Ran line = run("scale " + job + " --circuit map --kind line");
    EXPECT_EQ(line.code, 0);
    EXPECT_THAT(line.out, testing::ContainsRegex("value \\(kPa\\) of x \\(V\\): c0 [+] c1 x"));
    EXPECT_THAT(line.out, testing::ContainsRegex("c0,-37[.][0-9]+\r\nc1,75[.][0-9]+"));
    EXPECT_THAT(run("scale " + job + " --circuit map --counts").out, testing::StartsWith("input (counts),value (kPa)"));
    const auto cubic = nlohmann::json::parse(run("scale " + job + " --circuit clt --kind polynomial --json").out);
    EXPECT_EQ(cubic["terms"].size(), 4U);
    const auto seventh =
        nlohmann::json::parse(run("scale " + job + " --circuit clt --kind polynomial --degree 7 --json").out);
    EXPECT_LT(seventh["worst_error"].get<double>(), cubic["worst_error"].get<double>() / 2);
    const Ran coefficients = run("scale " + job + " --circuit clt --kind steinhart --json");
    EXPECT_GT(nlohmann::json::parse(coefficients.out)["terms"]["B"].get<double>(), 2e-4);
    EXPECT_EQ(run("scale " + job + " --circuit map --kind steinhart").code, 4) << "no thermistor";

    const std::string old = testing::TempDir() + "old-scaling.csv";
    std::ofstream(old) << "input (V),value (kPa)\n0.5,-100\n4.5,200\n"; // gauge for absolute
    const Ran against = run("scale " + job + " --circuit map --against " + old);
    EXPECT_EQ(against.code, 0) << against.out;
    EXPECT_THAT(against.out, testing::ContainsRegex("at worst (99|100)[.]"));
    std::ofstream(old) << "0.5,0\n4.5,x\n";
    const Ran bad = run("scale " + job + " --circuit map --against " + old);
    EXPECT_EQ(bad.code, 3);
    EXPECT_THAT(bad.out, testing::HasSubstr("old-scaling.csv:2"));
}

TEST(Cli, CountsAreInTheJsonToo)
{
    const Ran ran = run("scale " + test::petrelPath() + " --circuit clt --counts --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto json = nlohmann::json::parse(ran.out);
    for (const auto& p : json["points"])
        EXPECT_NEAR(p["counts"].get<double>() * 5 / 4095, p["volts"].get<double>(), 1e-6) << "12 bits of 5 V";
}

TEST(Cli, BudgetSaysHowWrongAndWhatItCosts)
{
    const std::string job = test::petrelPath();
    const Ran one = run("budget " + job + " --circuit map --at 100kPa --json");
    ASSERT_EQ(one.code, 0) << one.out;
    const auto json = nlohmann::json::parse(one.out)["budgets"][0];
    double sum = 0;
    for (const auto& part : json["parts"])
        sum += part["worst"].get<double>();
    const double worst = json["worst"];
    EXPECT_GT(worst, 3) << "the sensor alone is good to 3 kPa";
    EXPECT_NEAR(worst, sum, 0.05 * sum) << "all together, not far from the parts one by one";
    EXPECT_NEAR(json["mixture"]["worst"].get<double>(), worst / 100, 1e-9);
    EXPECT_THAT(run("budget " + job + " --circuit clt --at 80C").out, testing::HasSubstr("pull-up"));
    EXPECT_THAT(run("budget " + job + " --circuit wb --at 0.918").out, testing::HasSubstr("at 0.918 λ"));
    EXPECT_EQ(run("budget " + job + " --circuit map --at 9bar").code, 4);
    EXPECT_EQ(run("budget " + job + " --circuit map --at 9V").code, 2);
    EXPECT_EQ(run("budget " + job + " --circuit nothing").code, 4);
}

TEST(Cli, BlendPlansATank)
{
    const Ran ran = run("blend --in 20L@E10 --add 25L@E85 --tank 55L --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto json = nlohmann::json::parse(ran.out);
    EXPECT_NEAR(json["ethanol"].get<double>(), 23.25 / 45, 1e-9);
    EXPECT_NEAR(json["hz"].get<double>(), 50 + 100 * 23.25 / 45, 1e-9);
    EXPECT_THAT(run("blend --in 20L@E10 --add 1L@E85 --target E40").out, testing::HasSubstr("add 13.3 l of E85"));
    const Ran several = run("blend --in 20L@E9 --add 14.3L@E30 --add 9L@E85 --target E49");
    EXPECT_THAT(several.out, testing::HasSubstr("add 29.8 l of E85")) << "34.3 l at E17.8 first, by hand: 29.77 l";
    EXPECT_THAT(several.out, testing::HasSubstr("of E49.0"));
    const Ran over = run("blend --in 20L@E10 --add 40L@E85 --tank 55L");
    EXPECT_EQ(over.code, 4);
    EXPECT_THAT(over.out, testing::HasSubstr("5.0 l too much"));
    EXPECT_EQ(run("blend --in 20L").code, 2);
    EXPECT_EQ(run("blend --in 20L@E10 --target E40").code, 2);
}

TEST(Cli, ThrottleFindsRestsInARecording)
{
    const std::string file = testing::TempDir() + "strokes.csv";
    {
        std::ofstream out(file);
        out << "time (ms);volts\n";
        int t = 0;
        const auto way = [&](double from, double to, int samples) {
            for (int i = 0; i < samples; ++i)
                out << (t += 10) << ';' << from + (to - from) * i / samples << '\n';
        };
        for (int stroke = 0; stroke < 2; ++stroke) {
            way(0.2, 0.2, 80);
            way(0.2, 4.5, 150);
            way(4.5, 4.5, 80);
            way(4.5, 0.2, 150);
        }
        way(0.2, 0.2, 80);
    }
    const Ran ran = run("throttle " + file + " --json");
    ASSERT_EQ(ran.code, 0) << ran.out;
    const auto json = nlohmann::json::parse(ran.out);
    EXPECT_EQ(json["strokes"], 4);
    EXPECT_NEAR(json["closed_v"].get<double>(), 0.2, 1e-3);
    EXPECT_NEAR(json["open_limit_v"].get<double>(), 4.5 - 5.0 / 4095, 1e-3);
    EXPECT_THAT(run("throttle " + file).out, testing::HasSubstr("closed rests at 0.200 V"));
    std::ofstream(file, std::ios::app) << "99999;0.2\n";
    const Ran gap = run("throttle " + file);
    EXPECT_EQ(gap.code, 3);
    EXPECT_THAT(gap.out, testing::HasSubstr("a gap of"));
}

TEST(Cli, SwitchesSpeedAndProbes)
{
    const std::string van = std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip";
    const auto clutch = nlohmann::json::parse(run("switch " + van + " --circuit clutch --json").out);
    EXPECT_TRUE(clutch["apart"].get<bool>());
    EXPECT_LT(clutch["low_below_v"].get<double>(), clutch["high_above_v"].get<double>());
    EXPECT_EQ(run("switch " + van + " --circuit clt").code, 4) << "no switch";
    EXPECT_EQ(run("switch " + van + " --circuit nothing").code, 4);

    const std::string shaft = "speed --tyre '205/55 R16' --teeth 8 --ratio 4";
    EXPECT_THAT(run(shaft).out, testing::HasSubstr("16604 pulses per km"));
    EXPECT_THAT(run(shaft + " --pulses 33300").out, testing::HasSubstr("both edges"));
    EXPECT_EQ(run(shaft + " --pulses 20 --distance 1m").code, 4) << "too short to tell";
    EXPECT_EQ(run("speed --tyre round --teeth 8").code, 2);

    const std::string bath = "probe --tip 100C --joint 60C --box 22C";
    EXPECT_THAT(run(bath + " --shown 100C").out, testing::HasSubstr("wired right"));
    EXPECT_THAT(run(bath + " --shown 62.4C").out, testing::HasSubstr("copper"));
    EXPECT_NEAR(nlohmann::json::parse(run(bath + " --json").out)["would_show_c"]["right"].get<double>(), 100, 1e-6);
    EXPECT_EQ(run("probe --tip warm --joint 1C --box 1C").code, 2);
}

} // namespace
} // namespace vicegrip
