#include "core/capture/capture.h"
#include "core/trigger/trigger.h"
#include "tests/support/cli.h"

#include <array>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <nlohmann/json.hpp>
#include <sstream>
#include <unistd.h>

/// Wheels, edges and files of captures against programs that share no code with these: SciPy, sigrok, SoX.
namespace vicegrip::trigger {
namespace {

namespace fs = std::filesystem;

std::string outputOf(const std::string& command)
{
    std::string out;
    FILE* pipe = popen(command.c_str(), "r"); // NOLINT(cert-env33-c)
    std::array<char, 4096> piece{};
    while (pipe != nullptr && fgets(piece.data(), piece.size(), pipe) != nullptr)
        out += piece.data();
    EXPECT_EQ(pipe == nullptr ? -1 : pclose(pipe), 0) << command << '\n' << out;
    return out;
}

class TriggerReference : public testing::Test
{
  protected:
    TriggerReference() : folder(fs::temp_directory_path() / ("trigger-" + std::to_string(getpid())))
    {
        fs::create_directories(folder);
    }
    ~TriggerReference() override { fs::remove_all(folder); }

    [[nodiscard]] std::string file(const std::string& name) const { return (folder / name).string(); }

    fs::path folder;
};

/// How far two rows of steps are from each other, turned to their best place.
double apart(const std::vector<double>& a, const std::vector<double>& b)
{
    if (a.size() != b.size())
        return 360;
    double best = 360;
    for (size_t first = 0; first < a.size(); ++first) {
        double worst = 0;
        for (size_t i = 0; i < a.size(); ++i)
            worst = std::max(worst, std::abs(a[(first + i) % a.size()] - b[i]));
        best = std::min(best, worst);
    }
    return best;
}

TEST_F(TriggerReference, TwentyWheelsOfAnotherGeneratorAreRecognised)
{
    std::istringstream all(
        outputOf("/usr/bin/python3 " VICEGRIP_SOURCE_DIR "/tests/reference/wheels.py " + folder.string()));
    int wheels = 0;
    for (std::string line; std::getline(all, line); ++wheels) {
        const std::string capture = line.substr(0, line.find('|')), said = line.substr(line.find('|') + 1);
        const auto ran = test::run("trigger " + capture + " --json");
        EXPECT_EQ(ran.code, 0) << said << ran.out;
        const auto told = nlohmann::json::parse(ran.out, nullptr, false);
        ASSERT_TRUE(told.is_object()) << said << ": " << ran.out;
        if (said.find(',') == std::string::npos) {
            EXPECT_EQ(told["wheel"], said);
            continue;
        }
        std::vector<double> steps;
        std::istringstream numbers(said);
        for (std::string one; std::getline(numbers, one, ',');)
            steps.push_back(std::stod(one));
        EXPECT_LT(apart(stepsOf(readWheel(told["wheel"].get<std::string>()).value(), false), steps), 2) << said;
    }
    EXPECT_EQ(wheels, 20);
}

/// Edges by SciPy: where a straight line between two samples passes the middle; and how fast the wheel turns by them.
TEST_F(TriggerReference, EdgesAreThoseOfAnotherProgram)
{
    ASSERT_EQ(test::run("wheel 36-1 --rpm 240 --ripple 0.2 --coil --out " + file("coil.csv")).code, 0);
    std::ofstream(file("edges.py")) << "import numpy as np\n"
                                       "from scipy.interpolate import interp1d\n"
                                       "t, v = np.loadtxt('"
                                    << file("coil.csv")
                                    << "', delimiter=',', skiprows=1).T\n"
                                       "down = np.flatnonzero((v[:-1] >= 0) & (v[1:] < 0) & (v[:-1] - v[1:] > 1e-6))\n"
                                       "for i in down:\n"
                                       "    print('%.9f' % interp1d(v[i:i + 2][::-1], t[i:i + 2][::-1])(0))\n";
    std::istringstream theirs(outputOf("/usr/bin/python3 " + file("edges.py")));
    const auto seen = capture::readCapture(file("coil.csv"));
    ASSERT_TRUE(seen) << seen.error().text();
    const auto& volts = seen->channels.front().volts;
    const auto ours = timesOf(edgesIn(volts, *coilLevels(volts), seen->step_s), false);
    std::vector<double> times;
    for (std::string line; std::getline(theirs, line);)
        times.push_back(std::stod(line));
    ASSERT_GT(ours.size(), 250U);
    // Theirs has every crossing, also what creeps through zero in the long gap; ours is among them.
    for (const double t : ours) {
        const auto near = std::ranges::min_element(times, {}, [&](double x) { return std::abs(x - t); });
        EXPECT_NEAR(*near, t, 2e-7);
    }
}

/// What a strip's lie costs in gap, against Poisson's integral and a root of SciPy: every harmonic, every point of the
/// strip.
TEST_F(TriggerReference, AStripSeemsAsMuchFartherAsInAnotherField)
{
    struct Case
    {
        double pitch, gap, wide, length, lies, beside, thick; // mm, degrees
    };
    for (const Case& c :
         {Case{13.09, 1.25, 1, 5, 60, 0, 0}, Case{13.09, 0.8, 3, 5, 90, 0, 0}, Case{7.85, 1.0, 1, 5, 45, 0, 0},
          Case{7.85, 1.0, 2, 6, 75, 0, 0}, Case{13.09, 1.25, 1, 5, 0, 3, 5}, Case{13.09, 1.5, 3, 5, 30, 2, 6}}) {
        std::ostringstream command;
        command << "/usr/bin/python3 " << VICEGRIP_SOURCE_DIR << "/tests/reference/strip.py " << c.pitch << ' ' << c.gap
                << ' ' << c.wide << ' ' << c.length << ' ' << c.lies << ' ' << c.beside << ' ' << c.thick;
        const double theirs = std::stod(outputOf(command.str()));
        const double ours = seemsFarther(
            {c.pitch * 1e-3, c.wide * 1e-3, c.length * 1e-3, c.lies, c.beside * 1e-3, c.thick * 1e-3}, c.gap * 1e-3);
        EXPECT_NEAR(ours * 1e3, theirs, 0.01 + 0.01 * theirs) << command.str();
    }
}

TEST_F(TriggerReference, SigrokReadsOurChangesAndSoxOurSound)
{
    ASSERT_EQ(test::run("wheel 12-1 --rpm 300 --seconds 1 --out " + file("w.vcd")).code, 0);
    ASSERT_EQ(test::run("wheel 12-1 --rpm 300 --seconds 1 --out " + file("w.wav")).code, 0);
    const auto seen = capture::readCapture(file("w.vcd"));
    ASSERT_TRUE(seen) << seen.error().text();
    const auto& channel = seen->channels.front();
    EXPECT_EQ(channel.name, "crank");
    // Bits at a megahertz, as sigrok has them: every change of ours is one of theirs, at its microsecond.
    std::istringstream csv(
        outputOf("sigrok-cli -i " + file("w.vcd") + " -I vcd:downsample=1000 -O csv:header=false 2>/dev/null"));
    std::vector<double> changes;
    std::string before;
    long row = 0;
    for (std::string line; std::getline(csv, line);) {
        if (line.empty() || (line[0] != '0' && line[0] != '1'))
            continue;
        if (!before.empty() && line != before)
            changes.push_back(static_cast<double>(row) * 1e-6);
        before = line;
        ++row;
    }
    ASSERT_EQ(changes.size() + 1, channel.changes_s.size()) << "ours begin with the first level";
    for (size_t i = 0; i < changes.size(); ++i)
        EXPECT_NEAR(changes[i], channel.changes_s[i + 1], 1.5e-6);
    EXPECT_EQ(outputOf("soxi -s " + file("w.wav")), "96000\n");
    EXPECT_EQ(outputOf("soxi -r " + file("w.wav")), "96000\n");
    // A file that SoX wrote is read: of another kind, two channels, another rate.
    outputOf("sox " + file("w.wav") + " -r 48000 -c 2 " + file("two.wav") + " 2>&1");
    const auto two = capture::readCapture(file("two.wav"));
    ASSERT_TRUE(two);
    EXPECT_EQ(two->channels.size(), 2U);
    EXPECT_NEAR(two->step_s, 1 / 48000.0, 1e-12);
    EXPECT_THAT(test::run("trigger " + file("two.wav")).out, testing::StartsWith("wheel: 12-1, by its "));
}

} // namespace
} // namespace vicegrip::trigger
