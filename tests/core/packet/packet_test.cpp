#include "core/packet/folder.h"
#include "core/packet/packet.h"
#include "core/packet/zip.h"
#include "core/scaling/exchange.h"
#include "tests/support/petrel.h"
#include "tests/support/tool.h"

#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <sstream>

namespace vicegrip {
namespace {

namespace fs = std::filesystem;
using testing::HasSubstr;

packet::Packet packetFor(const job::Job& job, const std::vector<packet::Log>& logs = {})
{
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(job));
    auto made = packet::packetOf(analysis, {}, logs);
    EXPECT_TRUE(made);
    return made.value_or(packet::Packet{});
}

/// Petrel's, made once.
const packet::Packet& petrelPacket()
{
    static const packet::Packet packet = packetFor(test::petrel(), {{"drive.csv", "time,rpm\n0,900\n"}});
    return packet;
}

const std::string& fileOf(const packet::Packet& packet, const std::string& path)
{
    static const std::string none;
    const auto at = std::ranges::find(packet.files, path, &packet::File::path);
    EXPECT_NE(at, packet.files.end()) << path;
    return at == packet.files.end() ? none : at->bytes;
}

class PacketOnDisk : public testing::Test
{
  protected:
    PacketOnDisk() : folder(fs::temp_directory_path() / ("packet-" + std::to_string(getpid())))
    {
        fs::create_directories(folder);
    }
    ~PacketOnDisk() override { fs::remove_all(folder); }

    fs::path folder;
};

TEST_F(PacketOnDisk, TheZipIsReadByOthersAndIsTheSameBytes)
{
    const auto zip = packet::zipOf(petrelPacket());
    ASSERT_TRUE(zip);
    const packet::Packet again = packetFor(test::petrel(), {{"drive.csv", "time,rpm\n0,900\n"}});
    EXPECT_TRUE(*packet::zipOf(again) == *zip); // not EXPECT_EQ: a difference is a megabyte
    const std::string file = (folder / "p.zip").string();
    std::ofstream(file, std::ios::binary) << *zip;
    const test::Said tested = test::tool("unzip -tq " + file);
    EXPECT_EQ(tested.code, 0) << tested.out;
    // Python reads each file as it was put in.
    const test::Said unpacked = test::tool("/usr/bin/python3 -m zipfile -e " + file + " " + folder.string());
    ASSERT_EQ(unpacked.code, 0) << unpacked.out;
    size_t files = 0;
    for (const auto& entry : fs::recursive_directory_iterator(folder / petrelPacket().name))
        files += entry.is_regular_file() ? 1 : 0;
    EXPECT_EQ(files, petrelPacket().files.size());
    for (const packet::File& f : petrelPacket().files) {
        std::ifstream in(folder / petrelPacket().name / f.path, std::ios::binary);
        std::ostringstream read;
        read << in.rdbuf();
        EXPECT_TRUE(read.str() == f.bytes) << f.path;
    }
}

TEST_F(PacketOnDisk, AFolderIsReplacedAsAWhole)
{
    const fs::path to = folder / "petrel-packet";
    ASSERT_TRUE(packet::writeFolder(petrelPacket(), to));
    std::ofstream(to / "tables" / "of-last-year.csv") << "old";
    ASSERT_TRUE(packet::writeFolder(petrelPacket(), to));
    EXPECT_FALSE(fs::exists(to / "tables" / "of-last-year.csv"));
    EXPECT_TRUE(fs::exists(to / "book.pdf"));
    EXPECT_EQ(std::distance(fs::directory_iterator(folder), {}), 1); // nothing hidden is left
}

TEST_F(PacketOnDisk, WhatIsNoPacketStaysAsItWas)
{
    const fs::path to = folder / "holiday";
    fs::create_directories(to);
    std::ofstream(to / "photo.txt") << "the sea";
    const auto refused = packet::writeFolder(petrelPacket(), to);
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.error().sentence, HasSubstr("no packet"));
    EXPECT_TRUE(fs::exists(to / "photo.txt"));
    EXPECT_FALSE(packet::writeFolder(petrelPacket(), folder / "holiday" / "photo.txt" / "p"));
    EXPECT_EQ(std::distance(fs::directory_iterator(folder), {}), 1);
}

/// Every table as the stage Scale exports it, and the budgets in numbers that a spreadsheet reads (Python's csv).
TEST_F(PacketOnDisk, TablesAndBudgetsAreThoseOfTheJob)
{
    const job::Job job = test::petrel();
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(job));
    size_t tables = 0;
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const auto& table = analysis.circuits[i].table;
        const parts::Part* sensor = job::sensorOf(job, job.circuits[i]);
        if (!table || sensor == nullptr)
            continue;
        ++tables;
        EXPECT_EQ(fileOf(petrelPacket(), "tables/" + job.circuits[i].id.value + ".csv"),
                  scaling::toCsv(scaling::asTaken(*table, job, job.circuits[i]), *sensor, job.circuits[i].scaling));
    }
    EXPECT_GT(tables, 5U);
    const test::Written csv("budgets.csv", fileOf(petrelPacket(), "budgets.csv"));
    const test::Said read =
        test::tool("/usr/bin/python3 -c \"import csv,sys;rows=list(csv.DictReader(open('" + csv.path() +
                   "')));print(len(rows),min(float(r['worst_error'])-float(r['sigma']) for r in "
                   "rows)>=0,all(abs(float(r['leanest_lambda'])-1/(1-float(r['fuel_share_worst'])))"
                   "<1e-4 for r in rows if r['fuel_share_worst']))\"");
    EXPECT_THAT(read.out, HasSubstr("True True")) << read.out;
    const auto json = nlohmann::json::parse(fileOf(petrelPacket(), "budgets.json"));
    EXPECT_EQ(std::stoul(read.out), json["budgets"].size());
}

/// Each of the questions is answered from numbers that stand in the job, and says where to read on: files it names are
/// in the packet.
TEST(Packet, AnswersTheQuestionsOfATuner)
{
    const job::Job job = test::petrel();
    const std::string& start = fileOf(petrelPacket(), "start.html");
    for (const char* question :
         {"What to trust how far", "Which ECU is in the car", "May it be powered", "Which sensor is read where",
          "Which output drives what", "Which table goes into the ECU", "How far may what the ECU shows be off",
          "From which reading on", "Where does the throttle rest", "What does it know of the fuel",
          "Which wheel is read", "What has nobody proved", "What must be measured again after other firmware"})
        EXPECT_THAT(start, HasSubstr(question));
    for (const parts::Ecu* unit : job::units(job))
        EXPECT_THAT(start, HasSubstr(unit->firmware));
    for (const job::Circuit& c : job.circuits) {
        EXPECT_THAT(start, HasSubstr(c.name));
        if (c.trigger) {
            EXPECT_THAT(start, HasSubstr(c.trigger->wheel));
        }
    }
    for (const packet::File& f : petrelPacket().files)
        EXPECT_TRUE(f.path == "start.html" || start.find(f.path) != std::string::npos) << f.path;
    const test::Written page("start.html", start);
    const test::Said tidy = test::tool("tidy -qe " + page.path());
    EXPECT_EQ(tidy.code, 0) << tidy.out;
    const auto facts = nlohmann::json::parse(fileOf(petrelPacket(), "facts.json"));
    EXPECT_EQ(facts["circuits"].size(), job.circuits.size());
    EXPECT_EQ(fileOf(petrelPacket(), "logs/drive.csv"), "time,rpm\n0,900\n");
}

/// What may not be trusted comes first: a reading that failed, then what nobody has measured.
TEST(Packet, PutsWhatIsNotToBeTrustedFirst)
{
    const std::string& start = fileOf(petrelPacket(), "start.html");
    const auto plan = start.find("nobody has measured it"), proved = start.find("as far as the error beside it");
    ASSERT_NE(plan, std::string::npos);
    ASSERT_NE(proved, std::string::npos);
    EXPECT_LT(start.find("not at all: "), plan);
    EXPECT_LT(plan, proved);
    // A pull-up was changed since the coolant's reading, and the fuel pressure's is out of its bounds.
    const auto stale = start.find("as it was before the last change");
    EXPECT_LT(plan, stale);
    EXPECT_LT(stale, proved);
    EXPECT_THAT(start, HasSubstr("not at all: what was read is outside of its bounds"));
}

/// A sensor with something to mend is not trusted because its wires were measured: it says what is to be mended.
TEST(Packet, TrustsNothingThatIsToBeMended)
{
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(test::petrel()));
    const std::string& start = fileOf(petrelPacket(), "start.html");
    bool any = false;
    for (const findings::Finding& f : analysis.findings)
        any = any || (f.severity == findings::Severity::Fix && !f.circuit.value.empty() &&
                      job::sensorOf(*analysis.job, *job::find(*analysis.job, f.circuit)) != nullptr);
    EXPECT_EQ(any, start.find("not before this is mended: ") != std::string::npos);
}

TEST(Packet, HostileNamesStayWordsAndFilesStayInTheirFolder)
{
    job::Job job = test::petrel();
    job.name = "../../etc/<script>";
    job.circuits[0].name = "<img src=x onerror=alert(1)>";
    const packet::Packet made = packetFor(job);
    EXPECT_THAT(made.name, testing::MatchesRegex("[A-Za-z0-9_-]+"));
    for (const packet::File& f : made.files) {
        EXPECT_THAT(f.path, testing::Not(HasSubstr("..")));
        if (f.path.ends_with(".html")) {
            EXPECT_THAT(f.bytes, testing::Not(HasSubstr("<img"))) << f.path;
        }
    }
}

TEST_F(PacketOnDisk, LogsAreTakenByNameAndWithinBounds)
{
    std::ofstream(folder / "a b.csv") << "1";
    fs::create_directories(folder / "other");
    std::ofstream(folder / "other" / "a b.csv") << "2";
    const auto logs = packet::readLogs({folder / "a b.csv", folder / "other" / "a b.csv"});
    ASSERT_TRUE(logs);
    EXPECT_EQ((*logs)[0].name, "a-b.csv");
    EXPECT_EQ((*logs)[1].name, "a-b-2.csv");
    EXPECT_FALSE(packet::readLogs({folder / "none.csv"}));
    // As large as 300 MB, but a hole: nothing is read of it.
    std::ofstream(folder / "huge.csv") << "x";
    fs::resize_file(folder / "huge.csv", 300U << 20U);
    const auto huge = packet::readLogs({folder / "huge.csv"});
    ASSERT_FALSE(huge);
    EXPECT_EQ(huge.error().code, ErrorCode::TooBig);
}

} // namespace
} // namespace vicegrip
