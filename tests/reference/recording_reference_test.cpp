#include "core/can_log/can_log.h"
#include "core/recording/recording.h"
#include "tests/support/cli.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <unistd.h>

/// Recordings as another program reads them (pandas), and the command line's way to them and back.
namespace vicegrip::recording {
namespace {

namespace fs = std::filesystem;
using testing::HasSubstr;

const std::string kDbc = std::string(VICEGRIP_SOURCE_DIR) + "/tests/data/links/other_unit.dbc";

/// Four seconds of a coolant that warms from 20 °C by 1 °C a second, in the other unit's frames.
std::string warmingLog()
{
    const auto database = dbc::readFile(kDbc).value().database;
    const auto m = std::ranges::find(database.messages(), "SlowPages", &dbc::Message::name);
    std::string out;
    for (int i = 0; i < 400; ++i) {
        can_log::Frame f{1000 + i * 0.01, "can0", m->id, m->extended, false, false, false, 0, {}};
        f.data.resize(8);
        for (const auto& [name, value] : {std::pair<const char*, double>{"ECT", 20 + i / 100}, {"ECT_mV", 2500 - i}}) {
            const auto s = std::ranges::find(m->carries, name, &dbc::Signal::name);
            dbc::put(*s, dbc::rawFor(*s, value), f.data);
        }
        out += can_log::line(f) + "\n";
    }
    return out;
}

TEST(RecordingByPandas, ColumnsWithUnitsAndNothingLost)
{
    const fs::path log = fs::temp_directory_path() / ("warm-" + std::to_string(getpid()) + ".log");
    const std::string csv = log.string() + ".csv", script = log.string() + ".py";
    std::ofstream(log) << warmingLog();
    const auto ran =
        test::run("record " + csv + " --job " + test::petrelPath() + " --dbc " + kDbc + " < " + log.string());
    ASSERT_EQ(ran.code, 0) << ran.out;
    EXPECT_THAT(ran.out, HasSubstr("AN3 value: SlowPages.ECT"));
    std::ofstream(script) << "import pandas as pd\nd = pd.read_csv('" << csv
                          << "')\nv, u = d['AN3 value (°C)'].dropna(), d['AN3 volts (V)'].dropna()\n"
                             "print(len(v), float(v.min()), float(v.max()), len(u), round(u.iloc[-1], 6), "
                             "round(d['time (s)'].iloc[-1], 4))\n";
    FILE* pipe = popen(("/usr/bin/python3 " + script).c_str(), "r"); // NOLINT(cert-env33-c)
    ASSERT_NE(pipe, nullptr);
    std::array<char, 200> said{};
    EXPECT_NE(fgets(said.data(), said.size(), pipe), nullptr);
    EXPECT_EQ(pclose(pipe), 0);
    EXPECT_STREQ(said.data(), "400 20.0 23.0 400 2.101 3.99\n");

    // What was recorded is heard again, and the frames themselves say the same.
    const std::string job = " --speed 0 --job " + test::petrelPath();
    const auto rows = test::run("replay " + csv + job + " 2>/dev/null | grep AN3.value | tail -1");
    EXPECT_EQ(rows.out, "3.9900,AN3,value,23,°C\r\n");
    const auto frames =
        test::run("replay " + log.string() + job + " --dbc " + kDbc + " 2>/dev/null | grep AN3.value | tail -1");
    EXPECT_EQ(frames.out, "3.9900,AN3,value,23,°C\r\n");
    EXPECT_EQ(test::run("replay " + log.string() + job).code, 2) << "frames that nothing describes";
    std::ofstream(csv, std::ios::app) << "4,hot\n";
    const auto bad = test::run("replay " + csv + job + " > /dev/null");
    EXPECT_EQ(bad.code, 3);
    EXPECT_THAT(test::run("replay " + csv + job).out, HasSubstr(csv + ":402:"));
    std::ofstream(log, std::ios::app) << "nonsense\n";
    EXPECT_THAT(
        test::run("record " + csv + " --job " + test::petrelPath() + " --dbc " + kDbc + " < " + log.string()).out,
        HasSubstr("standard input:401"));
    for (const std::string& gone : {log.string(), csv, script})
        fs::remove(gone);
}

} // namespace
} // namespace vicegrip::recording
