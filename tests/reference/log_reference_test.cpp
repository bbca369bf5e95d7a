#include "core/log/log.h"
#include "core/review/steps.h"
#include "tests/support/cli.h"
#include "tests/support/petrel.h"

#include <array>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <nlohmann/json.hpp>
#include <random>
#include <unistd.h>

/// Logs as other programs read them: every statistic as pandas and Miller have it; steps as SciPy finds them.
namespace vicegrip::log {
namespace {

namespace fs = std::filesystem;

std::string output(const std::string& command)
{
    FILE* pipe = popen(command.c_str(), "r"); // NOLINT(cert-env33-c)
    std::string out;
    std::array<char, 4096> some{};
    while (pipe != nullptr && fgets(some.data(), some.size(), pipe) != nullptr)
        out += some.data();
    EXPECT_EQ(pipe == nullptr ? -1 : pclose(pipe), 0) << command;
    return out;
}

class LogBeside : public testing::Test
{
  protected:
    void SetUp() override { fs::create_directories(m_folder); }
    void TearDown() override { fs::remove_all(m_folder); }
    [[nodiscard]] std::string file(const std::string& name, const std::string& content) const
    {
        std::ofstream(m_folder / name, std::ios::binary) << content;
        return (m_folder / name).string();
    }

    fs::path m_folder = fs::temp_directory_path() / ("log-beside-" + std::to_string(getpid()));
};

/// Numbers as loggers write them: signs, decimals, exponents, blanks, many digits.
std::string numbers(size_t rows, const char* fifth)
{
    std::mt19937_64 chance(41);
    std::string text = "time (s)";
    for (int c = 0; c < 6; ++c)
        text += ",c" + std::to_string(c);
    text += "\n";
    std::array<char, 64> cell{};
    for (size_t i = 0; i < rows; ++i) {
        text += std::to_string(i) + ".5";
        for (int c = 0; c < 6; ++c) {
            const double v =
                std::ldexp(static_cast<double>(chance() % 2'000'000) - 1e6, static_cast<int>(chance() % 20) - 15);
            const std::array<const char*, 6> forms = {"%.3f", "%.6g", "%.0f", "%.9e", fifth, "%.17g"};
            std::snprintf(cell.data(), cell.size(), forms[static_cast<size_t>(c)], v);
            text += ",";
            if (chance() % 11 != 0)
                text += cell.data();
        }
        text += "\n";
    }
    return text;
}

TEST_F(LogBeside, PandasAndMillerAgreeOnEveryStatistic)
{
    const std::string csv = file("numbers.csv", numbers(20'000, "%.2f"));
    const auto ran = test::run("review " + csv + " " + test::petrelPath() + " --json");
    ASSERT_TRUE(ran.code == 0 || ran.code == 1) << ran.out;
    const auto ours = nlohmann::json::parse(ran.out);
    const std::string script =
        file("stats.py", "import pandas as pd, sys, json\n"
                         "d = pd.read_csv(sys.argv[1], float_precision='round_trip')\n"
                         "print(json.dumps({c: [int(d[c].count()), d[c].mean(), d[c].std(), d[c].min(), "
                         "d[c].max()] for c in d.columns[1:]}))\n");
    const auto pandas = nlohmann::json::parse(output("/usr/bin/python3 " + script + " " + csv));
    const auto miller = nlohmann::json::parse(
        output("mlr --icsv --ojson stats1 -a count,mean,stddev,min,max -f c0,c1,c2,c3,c4,c5 " + csv))[0];
    ASSERT_EQ(ours["columns"].size(), 6U);
    for (const auto& column : ours["columns"]) {
        const std::string name = column["name"];
        constexpr std::array<const char*, 5> kOurs = {"count", "mean", "spread", "least", "most"};
        constexpr std::array<const char*, 5> kMiller = {"count", "mean", "stddev", "min", "max"};
        for (size_t s = 0; s < kOurs.size(); ++s) {
            const double own = column[kOurs[s]];
            const double size = std::max(std::abs(double(column["spread"])), 1e-12);
            EXPECT_NEAR(own, double(pandas[name][s]), 2e-7 * std::max(size, std::abs(own))) << name << " " << kOurs[s];
            if (s != 0) { // Miller counts empty cells
                EXPECT_NEAR(own, double(miller[name + "_" + kMiller[s]]), 2e-7 * std::max(size, std::abs(own)))
                    << name << " " << kMiller[s];
            }
        }
    }
}

/// Each number to the last bit of a float, as strtod has it.
TEST_F(LogBeside, NumbersAreThoseOfTheCLibrary)
{
    const std::string text = numbers(5'000, "%+.2f");
    const auto log = readLogText(text);
    ASSERT_TRUE(log);
    std::istringstream lines(text);
    std::string line;
    std::getline(lines, line);
    for (size_t row = 0; std::getline(lines, line); ++row) {
        size_t at = line.find(',') + 1;
        for (const Column& c : log->columns) {
            const size_t end = std::min(line.find(',', at), line.size());
            const std::string cell = line.substr(at, end - at);
            if (cell.empty()) {
                EXPECT_TRUE(std::isnan(c.values[row]));
            } else {
                ASSERT_EQ(c.values[row], static_cast<float>(std::strtod(cell.c_str(), nullptr))) << cell;
            }
            at = end + 1;
        }
    }
}

/// Steps of three times the noise: at least 95 % are found, and less than one an hour is found that is none, in two
/// signals at the same time. SciPy's convolution with the same four windows and its own search for peaks find the same.
TEST_F(LogBeside, StepsAsSciPyFindsThem)
{
    constexpr size_t kRate = 25, kSeconds = 3600, kWidth = kRate, kSteps = 100;
    constexpr double kLeast = 4.5;
    std::mt19937 chance(13);
    std::normal_distribution<double> gauss(0, 1);
    std::string text = "time (s),a,b\n";
    std::array<std::vector<float>, 2> signals;
    std::vector<size_t> truth;
    for (size_t i = 0; i < kRate * kSeconds; ++i) {
        const size_t period = kRate * kSeconds / kSteps;
        if (i % period == period / 2)
            truth.push_back(i);
        const bool up = (i + period / 2) / period % 2 == 1;
        for (auto& s : signals)
            s.push_back(static_cast<float>(gauss(chance) + (up ? 3 : 0)));
        text += std::to_string(i) + "," + std::to_string(signals[0].back()) + "," + std::to_string(signals[1].back()) +
                "\n";
    }
    std::vector<size_t> both;
    const auto first = review::stepsIn(signals[0], kWidth, 1, kLeast),
               second = review::stepsIn(signals[1], kWidth, 1, kLeast);
    for (const auto& s : first)
        if (std::ranges::any_of(
                second, [&](const auto& o) { return std::max(s.at, o.at) - std::min(s.at, o.at) <= kWidth / 4; }))
            both.push_back(s.at);
    const auto near = [&](size_t at, const std::vector<size_t>& of) {
        return std::ranges::any_of(of, [&](size_t t) { return std::max(at, t) - std::min(at, t) <= kWidth / 2; });
    };
    const auto hits = std::ranges::count_if(truth, [&](size_t t) { return near(t, both); });
    const auto alarms = std::ranges::count_if(both, [&](size_t at) { return !near(at, truth); });
    EXPECT_GE(hits, std::ssize(truth) * 95 / 100);
    EXPECT_LT(alarms, 1); // in an hour

    const std::string csv = file("steps.csv", text);
    const std::string script = file(
        "steps.py", "import pandas as pd, numpy as np, sys, json\nfrom scipy.signal import find_peaks\nfrom "
                    "scipy.ndimage import convolve1d\n"
                    "v = pd.read_csv(sys.argv[1])['a'].to_numpy()\nw = " +
                        std::to_string(kWidth) +
                        "\nkernel = np.repeat([0.5, -1.5, 1.5, -0.5], w) / w\n"
                        "z = np.abs(np.correlate(v, kernel, 'valid')) / np.sqrt(5 / w)\n"
                        "p, _ = find_peaks(z, height=4.5, distance=2 * w)\nprint(json.dumps((p + 2 * w).tolist()))\n");
    const auto peaks =
        nlohmann::json::parse(output("/usr/bin/python3 " + script + " " + csv)).get<std::vector<size_t>>();
    EXPECT_GE(peaks.size(), truth.size() * 95 / 100);
    size_t same = 0;
    for (const auto& s : first)
        same += near(s.at, peaks) ? 1U : 0U;
    EXPECT_GE(same, first.size() - 1);
    EXPECT_NEAR(static_cast<double>(first.size()), static_cast<double>(peaks.size()), 2);
}

} // namespace
} // namespace vicegrip::log
