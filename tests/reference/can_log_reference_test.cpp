#include "core/can_log/can_log.h"

#include <cstdio>
#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <random>
#include <sstream>
#include <unistd.h>

/// Recorded frames as another program reads them: log2asc of can-utils.
namespace vicegrip::can_log {
namespace {

namespace fs = std::filesystem;

TEST(CanLogByLog2asc, EveryFrameIsWhatItWas)
{
    const fs::path log = fs::temp_directory_path() / ("frames-" + std::to_string(getpid()) + ".log");
    const fs::path said = log.string() + ".asc";
    std::mt19937 random(3);
    std::vector<Frame> all;
    {
        std::ofstream out(log);
        for (int i = 0; i < 500; ++i) {
            Frame f;
            f.time_s = 1000 + i / 100.0;
            f.bus = "can0";
            f.extended = random() % 2 == 0;
            f.id = static_cast<std::uint32_t>(random()) & (f.extended ? 0x1FFFFFFFU : 0x7FFU);
            for (auto b = random() % 9; b > 0; --b)
                f.data.push_back(static_cast<std::uint8_t>(random()));
            out << line(f) << '\n';
            all.push_back(std::move(f));
        }
    }
    const std::string command = "log2asc -I " + log.string() + " -O " + said.string() + " can0";
    ASSERT_EQ(std::system(command.c_str()), 0); // NOLINT(cert-env33-c,concurrency-mt-unsafe)
    std::ifstream in(said);
    size_t at = 0;
    for (std::string text; std::getline(in, text);) { // "   0.010000 1  18FEF100x       Rx   d 2 01 02"
        std::istringstream words(text);
        double time = 0;
        std::string bus, id, way, kind;
        size_t bytes = 0;
        if (!(words >> time >> bus >> id >> way >> kind >> bytes) || way != "Rx")
            continue;
        ASSERT_LT(at, all.size());
        const Frame& f = all[at++];
        EXPECT_NEAR(time, f.time_s - 1000, 1e-6);
        EXPECT_EQ(id.back() == 'x', f.extended) << text;
        EXPECT_EQ(std::stoul(id, nullptr, 16), f.id) << text;
        ASSERT_EQ(bytes, f.data.size()) << text;
        for (const std::uint8_t byte : f.data) {
            std::string shown;
            words >> shown;
            EXPECT_EQ(std::stoul(shown, nullptr, 16), byte) << text;
        }
    }
    EXPECT_EQ(at, all.size());
    fs::remove(log);
    fs::remove(said);
}

} // namespace
} // namespace vicegrip::can_log
