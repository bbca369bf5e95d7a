#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <map>
#include <regex>
#include <set>
#include <string>

/// Arrows point down only (docs/architecture.md): which folder may include which.
namespace {

namespace fs = std::filesystem;

/// A file's house: "app", "bench", "cli", "link", or "core/NAME".
std::string houseOf(const std::string& path)
{
    const size_t first = path.find('/');
    const std::string top = path.substr(0, first);
    if (top != "core" || first == std::string::npos)
        return top;
    return path.substr(0, path.find('/', first + 1));
}

const std::map<std::string, std::set<std::string>> kMayInclude = {
    {"core/base", {}},
    {"core/units", {"core/base"}},
    {"core/circuit", {"core/base"}},
    {"core/parts", {"core/base", "core/units", "core/circuit"}},
    {"core/job", {"core/base", "core/units", "core/circuit", "core/parts"}},
    {"core/electrics", {"core/base", "core/units", "core/circuit", "core/parts", "core/job"}},
    {"core/harness", {"core/base", "core/units", "core/parts", "core/job", "core/electrics"}},
    {"core/brief", {"core/base", "core/units", "core/parts", "core/job", "core/electrics", "core/harness"}},
    {"core/seating", {"core/base", "core/units", "core/parts", "core/job", "core/electrics", "core/harness"}},
    {"core/sheet",
     {"core/base", "core/units", "core/parts", "core/job", "core/electrics", "core/harness", "core/brief"}},
    {"core/fit", {"core/base", "core/units", "core/circuit", "core/parts"}},
    {"core/fuel", {"core/base", "core/units"}},
    {"core/throttle", {"core/base", "core/units"}},
    {"core/inputs", {"core/base", "core/units", "core/circuit", "core/parts", "core/job", "core/electrics"}},
    {"core/scaling",
     {"core/base", "core/units", "core/circuit", "core/parts", "core/job", "core/electrics", "core/harness", "core/fit",
      "core/fuel"}},
    {"core/proof", {"core/base", "core/units", "core/parts", "core/job", "core/electrics", "core/scaling"}},
    {"core/findings",
     {"core/base", "core/units", "core/parts", "core/job", "core/electrics", "core/scaling", "core/proof",
      "core/harness", "core/brief", "core/seating", "core/analysis"}},
    {"core/analysis",
     {"core/harness", "core/brief", "core/seating", "core/base", "core/units", "core/parts", "core/job",
      "core/electrics", "core/scaling", "core/proof", "core/findings"}},
    {"link", {"core"}},
    {"bench", {"core", "link"}},
    {"cli", {"core"}},
    {"app", {"core", "link"}},
};

bool allowed(const std::string& from, const std::string& to)
{
    if (from == to)
        return true;
    const auto& may = kMayInclude.at(from);
    return may.contains(to) || (to.starts_with("core/") && may.contains("core"));
}

TEST(Architecture, IncludesPointDownOnly)
{
    const fs::path root = VICEGRIP_SOURCE_DIR;
    const std::regex include(R"re(^\s*#include\s+[<"]([^>"]+)[>"])re");
    const std::regex qt("^Q[A-Z].*|^Qt.*");
    int seen = 0;
    for (const char* house : {"core", "link", "bench", "cli", "app"}) {
        for (const auto& entry : fs::recursive_directory_iterator(root / house)) {
            const std::string extension = entry.path().extension().string();
            if (extension != ".h" && extension != ".cpp")
                continue;
            const std::string file = fs::relative(entry.path(), root).string();
            ASSERT_TRUE(kMayInclude.contains(houseOf(file))) << file << " is in a folder this test does not know";
            std::ifstream in(entry.path());
            std::smatch found;
            for (std::string line; std::getline(in, line);) {
                if (!std::regex_search(line, found, include))
                    continue;
                ++seen;
                const std::string what = found[1];
                if (file.starts_with("core/") || file.starts_with("cli/")) {
                    EXPECT_FALSE(std::regex_match(what, qt)) << file << " includes " << what;
                }
                if (file.starts_with("link/") || file.starts_with("bench/")) {
                    EXPECT_EQ(what.find("QWidget"), std::string::npos) << file << " includes " << what;
                }
                if (fs::exists(root / what)) {
                    EXPECT_TRUE(allowed(houseOf(file), houseOf(what))) << file << " includes " << what;
                }
            }
        }
    }
    EXPECT_GT(seen, 100);
}

TEST(Architecture, ColoursAreWrittenInLookOnly)
{
    const fs::path root = VICEGRIP_SOURCE_DIR;
    const std::regex colour("#[0-9a-fA-F]{6}\\b|QColor\\([0-9]|Qt::(red|green|blue|white|black|gray)\\b");
    for (const auto& entry : fs::recursive_directory_iterator(root / "app")) {
        const std::string file = fs::relative(entry.path(), root).string();
        if (file.starts_with("app/look/") || entry.is_directory())
            continue;
        std::ifstream in(entry.path());
        for (std::string line; std::getline(in, line);)
            EXPECT_FALSE(std::regex_search(line, colour)) << file << ": " << line;
    }
}

} // namespace
