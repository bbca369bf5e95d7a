#include "core/dbc/dbc.h"

#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <random>
#include <set>
#include <unistd.h>

/// Random databases and frames, as another program reads them: python3-canmatrix.
namespace vicegrip::dbc {
namespace {

namespace fs = std::filesystem;

/// A database as text, with frames for its messages.
class RandomBus
{
  public:
    explicit RandomBus(unsigned seed) : m_random(seed)
    {
        const int messages = 1 + below(3);
        for (int m = 0; m < messages; ++m)
            add(m);
    }

    std::string text = "VERSION \"\"\n\nNS_ :\n\tCM_\n\tVAL_\n\nBS_:\n\nBU_: ECU\n\n";
    std::string after;
    nlohmann::json frames = nlohmann::json::array(); ///< id, extended, bytes

  private:
    int below(int n) { return static_cast<int>(m_random() % static_cast<unsigned>(n)); }

    void add(int number)
    {
        Message m;
        m.extended = below(2) == 0;
        m.id = static_cast<std::uint32_t>(m.extended ? 0x18FF0000 + 16 * number + below(9) : 0x100 + 16 * number);
        m.bytes = below(5) == 0 ? 16 + below(49) : 1 + below(8);
        const bool multiplexed = below(3) == 0;
        std::set<std::string> kinds;
        for (int tries = 0; tries < 30 && m.carries.size() < 12; ++tries) {
            Signal s = signal(m, "s" + std::to_string(m.carries.size()));
            if (multiplexed && m.carries.empty()) {
                s.bits = std::min(s.bits, 3);
                s.coding = Coding::Unsigned;
                s.scale = 1;
                s.offset = 0;
                s.chooses = true;
            } else if (multiplexed && below(3) != 0) {
                const auto value = static_cast<std::uint64_t>(below(4));
                s.multiplexed = Multiplexed{"s0", {{value, value}}};
            }
            m.carries.push_back(s);
            if (s.end() > m.bytes || !overlaps(m).empty())
                m.carries.pop_back();
        }
        if (!m.carries.empty() && (!multiplexed || m.carries.front().chooses))
            write(m);
    }

    Signal signal(const Message& m, std::string name)
    {
        Signal s;
        s.name = std::move(name);
        s.order = below(2) == 0 ? ByteOrder::Little : ByteOrder::Big;
        s.start = below(8 * m.bytes);
        s.bits = 1 + below(below(3) == 0 ? 64 : 16);
        s.coding = below(2) == 0 ? Coding::Unsigned : Coding::Signed;
        if (below(6) == 0) {
            s.coding = below(2) == 0 ? Coding::Float : Coding::Double;
            s.bits = s.coding == Coding::Float ? 32 : 64;
        }
        static constexpr double kScales[] = {1, 0.1, 0.25, 2, -0.5, 1e-3};
        static constexpr double kOffsets[] = {0, -40, 100.5, 0, -273.15};
        s.scale = kScales[below(6)];
        s.offset = kOffsets[below(5)];
        return s;
    }

    void write(const Message& m)
    {
        const std::uint32_t flagged = m.id | (m.extended ? 0x80000000U : 0U);
        text +=
            "BO_ " + std::to_string(flagged) + " M" + std::to_string(m.id) + ": " + std::to_string(m.bytes) + " ECU\n";
        for (const Signal& s : m.carries) {
            std::string chosen = s.chooses ? " M" : "";
            if (s.multiplexed)
                chosen = " m" + std::to_string(s.multiplexed->values.front().first);
            text += " SG_ " + s.name + chosen + " : " + std::to_string(s.start) + "|" + std::to_string(s.bits) + "@" +
                    (s.isLittle() ? "1" : "0") + (s.coding == Coding::Unsigned ? "+" : "-") + " (" +
                    nlohmann::json(s.scale).dump() + "," + nlohmann::json(s.offset).dump() + ") [0|0] \"\" ECU\n";
            if (s.coding == Coding::Float || s.coding == Coding::Double)
                after += "SIG_VALTYPE_ " + std::to_string(flagged) + " " + s.name + " : " +
                         (s.coding == Coding::Float ? "1" : "2") + ";\n";
        }
        text += "\n";
        for (int i = 0; i < 8; ++i) {
            std::vector<int> bytes;
            for (int b = 0; b < m.bytes; ++b)
                bytes.push_back(below(256));
            frames.push_back({{"id", m.id}, {"extended", m.extended}, {"bytes", bytes}});
        }
    }

    std::mt19937 m_random;
};

/// What the other program makes of all of them, frame by frame: values, and the bytes that their raw values make.
nlohmann::json askOther(const nlohmann::json& all)
{
    const fs::path folder = fs::temp_directory_path() / ("dbc-" + std::to_string(getpid()));
    fs::create_directories(folder);
    std::ofstream(folder / "all.json") << all;
    std::ofstream(folder / "ask.py") << R"(import json, math, sys, canmatrix, canmatrix.formats
folder = sys.argv[1]
out = []
for bus in json.load(open(folder + '/all.json')):
    open(folder + '/one.dbc', 'w').write(bus['text'])
    matrix = canmatrix.formats.loadp(folder + '/one.dbc')['']
    for f in bus['frames']:
        frame = matrix.frame_by_id(canmatrix.ArbitrationId(f['id'], extended=f['extended']))
        values = frame.decode(bytes(f['bytes']))
        shown = {n: float(v.phys_value) for n, v in values.items()}
        out.append({n: (v if math.isfinite(v) else str(v)) for n, v in shown.items()})
json.dump(out, open(folder + '/out.json', 'w'))
)";
    const std::string command =
        "/usr/bin/python3 " + (folder / "ask.py").string() + " " + folder.string() + " 2>/dev/null";
    EXPECT_EQ(std::system(command.c_str()), 0); // NOLINT(cert-env33-c,concurrency-mt-unsafe)
    std::ifstream read(folder / "out.json");
    auto json = nlohmann::json::parse(read, nullptr, false);
    fs::remove_all(folder);
    return json;
}

TEST(DbcByCanmatrix, AgreesOnRandomDatabases)
{
    nlohmann::json all = nlohmann::json::array();
    std::vector<RandomBus> buses;
    for (unsigned seed = 1; seed <= 300; ++seed) {
        const RandomBus& bus = buses.emplace_back(seed);
        all.push_back({{"text", bus.text + bus.after}, {"frames", bus.frames}});
    }
    const auto other = askOther(all);
    ASSERT_TRUE(other.is_array());
    size_t at = 0, compared = 0, multiplexed = 0;
    for (const RandomBus& bus : buses) {
        const auto read = dbc::read(bus.text + bus.after);
        ASSERT_TRUE(read) << read.error().text() << '\n' << bus.text;
        EXPECT_TRUE(read->remarks.empty());
        for (const auto& frame : bus.frames) {
            ASSERT_LT(at, other.size());
            const auto& theirs = other[at++];
            const Message* message = read->database.find(frame["id"], frame["extended"]);
            ASSERT_NE(message, nullptr);
            const auto bytes = frame["bytes"].get<std::vector<std::uint8_t>>();
            std::vector<Value> values;
            decode(*message, bytes, values);
            EXPECT_EQ(values.size(), theirs.size());
            std::vector<std::uint8_t> again = bytes;
            for (const Value& v : values) {
                const auto& their = theirs[v.signal->name];
                ++compared;
                multiplexed += v.signal->multiplexed ? 1 : 0;
                if (!their.is_number()) {
                    EXPECT_FALSE(std::isfinite(v.value)) << v.signal->name;
                    continue;
                }
                EXPECT_NEAR(v.value, their.get<double>(), 1e-9 * std::max(1.0, std::abs(v.value)))
                    << v.signal->name << '\n'
                    << bus.text;
                put(*v.signal, *rawOf(*v.signal, bytes), again);
            }
            EXPECT_EQ(again, bytes) << "bits that are put where they were change nothing";
        }
    }
    EXPECT_EQ(at, other.size());
    EXPECT_GT(compared, 10000U);
    EXPECT_GT(multiplexed, 800U);
}

} // namespace
} // namespace vicegrip::dbc
