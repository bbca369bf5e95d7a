#include <algorithm>
#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <map>
#include <regex>
#include <set>
#include <string>
#include <vector>

/// Arrows point down only (docs/architecture.md): which room leans on which.
namespace {

namespace fs = std::filesystem;

const fs::path kRoot = VICEGRIP_SOURCE_DIR;

/// A file's room: "core/NAME", "app/NAME", or "bench", "cli", "link", "app" for what lies in no room.
std::string roomOf(const std::string& path)
{
    const size_t first = path.find('/');
    const std::string house = path.substr(0, first);
    const size_t second = first == std::string::npos ? first : path.find('/', first + 1);
    return (house == "core" || house == "app") && second != std::string::npos ? path.substr(0, second) : house;
}

struct Room
{
    std::string name;
    std::set<std::string> leansOn;
};

/// From the ground up: a room leans on rooms that are named before it. Just these arrows are there, no more and no
/// fewer: "core" stands for any room of it.
const std::vector<Room> kRooms = {
    {"core/base", {}},
    {"core/help", {"base"}},
    {"core/drawn", {"base"}},
    {"core/units", {"base"}},
    {"core/circuit", {"base"}},
    {"core/alike", {"base"}},
    {"core/can_log", {"base"}},
    {"core/capture", {"base"}},
    {"core/dbc", {"base"}},
    {"core/log", {"base", "units", "alike"}},
    {"core/obd", {"base", "units", "dbc"}},
    {"core/road_speed", {"base", "units"}},
    {"core/thermocouple", {"base", "units"}},
    {"core/fuel", {"base", "units"}},
    {"core/trigger", {"base", "units"}},
    {"core/parts", {"base", "units"}},
    {"core/fit", {"base", "units", "parts"}},
    {"core/timing_light", {"base", "units", "fit"}},
    {"core/job", {"base", "units", "parts"}},
    {"core/engine", {"fuel", "job"}},
    {"core/logbook", {"base", "units", "job"}},
    {"core/faults", {"base", "units", "job"}},
    {"core/electrics", {"base", "circuit", "parts", "job", "faults"}},
    {"core/switches", {"base", "circuit", "job", "electrics"}},
    {"core/wires", {"base", "units", "parts", "job", "electrics"}},
    {"core/pinning", {"base", "units", "parts", "job", "electrics"}},
    {"core/diagram", {"base", "units", "drawn", "job", "electrics", "pinning"}},
    {"core/branches", {"base", "units", "parts", "job", "wires"}},
    {"core/harness", {"base", "job", "electrics", "wires"}},
    {"core/feeds", {"base", "units", "parts", "job", "electrics", "wires", "harness"}},
    {"core/bus", {"base", "units", "job", "electrics", "harness"}},
    {"core/materials", {"base", "units", "parts", "job", "wires", "pinning", "branches"}},
    {"core/sheets", {"base", "units", "parts", "drawn", "job", "branches", "materials"}},
    {"core/pasted", {"base", "units", "job", "wires", "harness"}},
    {"core/lists", {"base", "units", "parts", "job", "wires", "pinning", "harness", "pasted"}},
    {"core/remap", {"base", "alike", "job", "wires", "pinning", "pasted"}},
    {"core/brief", {"base", "units", "fuel", "parts", "job", "electrics", "harness"}},
    {"core/seating", {"base", "units", "parts", "job", "electrics", "feeds", "harness"}},
    {"core/scaling", {"base", "units", "fuel", "parts", "fit", "job", "electrics"}},
    {"core/stream", {"alike", "dbc", "job", "scaling"}},
    {"core/log_columns", {"base", "units", "alike", "dbc", "log", "job", "stream"}},
    {"core/pulls", {"base", "log", "log_columns"}},
    {"core/recording", {"base", "can_log", "job", "scaling", "stream"}},
    {"core/throttle", {"base", "units", "job", "electrics", "scaling"}},
    {"core/proof", {"base", "units", "job", "electrics", "scaling"}},
    {"core/findings",
     {"base", "units", "parts", "job", "electrics", "wires", "pinning", "branches", "harness", "brief", "seating",
      "scaling", "throttle", "proof", "feeds", "bus"}},
    {"core/clicks", {"base", "job", "electrics", "brief", "proof", "findings"}},
    {"core/wiggle", {"base", "units", "job", "faults", "electrics", "proof", "findings"}},
    {"core/hand_test", {"base", "units", "trigger", "job", "electrics", "proof", "findings"}},
    {"core/decoded", {"base", "trigger", "job", "electrics", "proof", "findings"}},
    {"core/work", {"base", "job", "wires", "pinning", "hand_test"}},
    {"core/analysis",
     {"base", "job", "electrics", "wires", "pinning", "brief", "scaling", "throttle", "proof", "findings", "clicks",
      "wiggle", "hand_test", "decoded", "feeds", "bus"}},
    {"core/diagnosis", {"base", "parts", "faults", "electrics", "work", "harness", "scaling", "analysis"}},
    {"core/run_sheet", {"base", "units", "timing_light", "job", "electrics", "feeds", "throttle", "proof", "analysis"}},
    {"core/recheck", {"base", "analysis"}},
    {"core/photos", {"base", "job", "logbook"}},
    {"core/compare", {"base", "units", "parts", "job", "logbook", "scaling", "analysis"}},
    {"core/book",
     {"base", "units", "parts", "drawn", "job", "diagram", "sheets", "wires", "pinning", "branches", "materials",
      "electrics", "scaling", "analysis", "logbook", "photos", "run_sheet", "recheck", "compare"}},
    {"core/packet", {"base", "job", "electrics", "scaling", "logbook", "run_sheet", "recheck", "analysis", "book"}},
    {"core/review", {"base", "log", "fuel", "electrics", "log_columns", "pulls", "analysis"}},
    {"core/practice", {"base", "units", "harness", "wiggle", "analysis", "diagnosis"}},
    {"core/lookup", {"base", "parts", "wires", "pinning", "analysis"}},
    {"link", {"core"}},
    {"bench", {"core", "link"}},
    {"cli", {"core"}},
    {"app/look", {}},
    {"app/widgets", {"core", "app/look"}},
    {"app/store", {"core", "app/look"}},
    {"app/live", {"core", "link"}},
    {"app/desk", {"core", "app/widgets", "app/store", "app/live"}},
    {"app/views", {"core", "app/look", "app/widgets", "app/desk"}},
    {"app/stages", {"core", "app/look", "app/widgets", "app/store", "app/desk", "app/views"}},
    {"app/shell", {"core", "app/look", "app/widgets", "app/store", "app/desk", "app/views", "app/stages"}},
    {"app", {"app/look", "app/shell"}},
};

struct Include
{
    std::string file, what;
};

/// Every include of the program's own sources.
std::vector<Include> includes()
{
    const std::regex include(R"re(^\s*#include\s+[<"]([^>"]+)[>"])re");
    std::vector<Include> out;
    for (const char* house : {"core", "link", "bench", "cli", "app"})
        for (const auto& entry : fs::recursive_directory_iterator(kRoot / house)) {
            const std::string extension = entry.path().extension().string();
            if (extension != ".h" && extension != ".cpp")
                continue;
            std::ifstream in(entry.path());
            std::smatch found;
            for (std::string line; std::getline(in, line);)
                if (std::regex_search(line, found, include))
                    out.push_back({fs::relative(entry.path(), kRoot).string(), found[1]});
        }
    return out;
}

TEST(Architecture, ARoomLeansOnJustTheRoomsItSays)
{
    std::map<std::string, std::set<std::string>> seen;
    for (const auto& [file, what] : includes()) {
        const std::string from = roomOf(file);
        std::string to = roomOf(what);
        if (!fs::exists(kRoot / what) || from == to)
            continue;
        if (to.starts_with("core/"))
            to = from.starts_with("core/") ? to.substr(5) : "core";
        seen[from].insert(to);
    }
    std::set<std::string> below;
    for (const Room& room : kRooms) {
        EXPECT_EQ(seen[room.name], room.leansOn) << room.name;
        for (const std::string& under : room.leansOn)
            EXPECT_TRUE(below.contains(under)) << room.name << " stands below " << under;
        below.insert(room.name.starts_with("core/") ? room.name.substr(5) : room.name);
        below.insert("core"); // all of it comes first
        seen.erase(room.name);
    }
    for (const auto& [room, on] : seen)
        ADD_FAILURE() << room << " is a room this test does not know";
}

TEST(Architecture, CoreAndCommandLineKnowNoInterface)
{
    const std::regex qt("^Q[A-Z].*|^Qt.*");
    const auto all = includes();
    EXPECT_GT(all.size(), 100U);
    for (const auto& [file, what] : all) {
        if (file.starts_with("core/") || file.starts_with("cli/")) {
            EXPECT_FALSE(std::regex_match(what, qt)) << file << " includes " << what;
        }
        if (file.starts_with("link/") || file.starts_with("bench/")) {
            EXPECT_EQ(what.find("QWidget"), std::string::npos) << file << " includes " << what;
        }
    }
}

/// The header that bears a room's name is its table of contents: every other header of the room is named there.
TEST(Architecture, EveryRoomOfTheCoreHasADoor)
{
    for (const auto& room : fs::directory_iterator(kRoot / "core")) {
        if (!room.is_directory())
            continue;
        const std::string name = room.path().filename().string();
        std::ifstream in(room.path() / (name + ".h"));
        ASSERT_TRUE(in) << name << " has no door";
        const std::string door{std::istreambuf_iterator<char>(in), {}};
        EXPECT_NE(door.find("///"), std::string::npos) << name;
        for (const auto& file : fs::directory_iterator(room))
            if (const std::string header = file.path().filename().string();
                header.ends_with(".h") && header != name + ".h") {
                EXPECT_NE(door.find(header), std::string::npos) << name << " does not name " << header;
            }
    }
}

TEST(Architecture, NoTwoHeadersShareAName)
{
    std::map<std::string, std::string> where;
    for (const char* house : {"core", "link", "bench", "cli", "app"})
        for (const auto& entry : fs::recursive_directory_iterator(kRoot / house))
            if (entry.path().extension() == ".h") {
                const auto [other, first] = where.emplace(entry.path().filename().string(), entry.path().string());
                EXPECT_TRUE(first) << entry.path() << " and " << other->second;
            }
}

TEST(Architecture, ColoursAreWrittenInLookOnly)
{
    const std::regex colour("#[0-9a-fA-F]{6}\\b|QColor\\([0-9]|Qt::(red|green|blue|white|black|gray)\\b");
    for (const auto& entry : fs::recursive_directory_iterator(kRoot / "app")) {
        const std::string file = fs::relative(entry.path(), kRoot).string();
        if (file.starts_with("app/look/") || entry.is_directory())
            continue;
        std::ifstream in(entry.path());
        for (std::string line; std::getline(in, line);)
            EXPECT_FALSE(std::regex_search(line, colour)) << file << ": " << line;
    }
}

} // namespace
