#include "core/lists/lists.h"

#include "core/compare/compare.h"
#include "core/job/json.h"
#include "core/lists/csv_table.h"
#include "tests/support/cli.h"
#include "tests/support/petrel.h"

#include <array>
#include <filesystem>
#include <gmock/gmock.h>
#include <random>

/// Lists for a spreadsheet, and back.
namespace vicegrip::lists {
namespace {

using testing::HasSubstr;
using testing::IsEmpty;

Reading taken(const job::Job& job, const std::string& text, const std::vector<parts::Part>& library = {})
{
    auto reading = read(job, text, library);
    if (!reading) {
        ADD_FAILURE() << text << ": " << reading.error().text();
        return {};
    }
    return std::move(*reading);
}

/// The only sentence that stops it.
std::string stops(const job::Job& job, const std::string& text)
{
    const Reading reading = taken(job, text);
    EXPECT_FALSE(reading.job) << text;
    for (const Note& n : reading.notes)
        if (n.stops)
            return std::to_string(n.line) + ": " + n.sentence;
    return {};
}

const job::Wire* named(const job::Job& job, const char* id)
{
    const auto it = std::ranges::find(job.wires, job::WireId{id}, &job::Wire::id);
    return it == job.wires.end() ? nullptr : &*it;
}

TEST(Lists, WhatGoesOutChangesNothingWhenItComesBack)
{
    for (const char* file : {"petrel", "curlew"}) {
        const auto job =
            job::readFile(std::filesystem::path(VICEGRIP_SOURCE_DIR) / "data/jobs" / (std::string(file) + ".vicegrip"));
        ASSERT_TRUE(job);
        for (const Kind kind : allKinds()) {
            const Reading reading = taken(*job, toCsv(*job, kind));
            EXPECT_EQ(reading.kind, kind);
            EXPECT_THAT(reading.notes, IsEmpty()) << kindName(kind) << reading.notes[0].sentence;
            ASSERT_TRUE(reading.job) << kindName(kind);
            EXPECT_EQ(*reading.job, *job) << kindName(kind);
        }
    }
}

TEST(Lists, EveryOrderOfRowsAndColumnsIsTheSameList)
{
    const job::Job job = test::petrel();
    const std::string csv = toCsv(job, Kind::Wires);
    const auto table = readTable(csv);
    ASSERT_TRUE(table);
    std::mt19937 random(5);
    for (const char* between : {",", ";", "\t"}) {
        std::vector<std::string> columns = table->columns;
        std::vector<Row> rows = table->rows;
        std::ranges::shuffle(columns, random);
        std::ranges::shuffle(rows, random);
        std::string text = "\xEF\xBB\xBF"; // as spreadsheets begin
        const auto line = [&](auto cell) {
            for (const std::string& c : columns)
                text += (&c == columns.data() ? "" : between) + ("\"" + cell(c) + "\"");
            text += "\r\n";
        };
        line([](const std::string& c) { return c; });
        for (const Row& r : rows)
            line([&](const std::string& c) { return r.cells.at(c); });
        const Reading reading = taken(job, text);
        ASSERT_TRUE(reading.job) << reading.notes[0].sentence;
        EXPECT_EQ(*reading.job, job) << between;
    }
}

TEST(Lists, AWireIsChangedDrawnAndTakenOut)
{
    const job::Job job = test::petrel();
    const Reading reading = taken(job, "wire;from;to;colour;area_mm2;length_m\n"
                                       "w5;CLT.1;BE.6;gn-ye;20 AWG;85 cm\n"
                                       ";CLT.1;B5;;;\n"
                                       "w999;TPS.2;b 6;RD;0,75;1,25\n"
                                       "w6;;;;;\n");
    ASSERT_TRUE(reading.job) << reading.notes[0].sentence;
    const job::Job& now = *reading.job;
    EXPECT_EQ(named(now, "w5")->colour, "GN/YE");
    EXPECT_NEAR(named(now, "w5")->area_m2 * 1e6, 0.518, 0.001); // ASTM B258
    EXPECT_NEAR(named(now, "w5")->length_m, 0.85, 1e-12);
    EXPECT_EQ(named(now, "w6"), nullptr);
    ASSERT_NE(named(now, "w999"), nullptr);
    EXPECT_EQ(named(now, "w999")->to.text(), "B.6");
    EXPECT_NEAR(named(now, "w999")->length_m, 1.25, 1e-12);
    EXPECT_EQ(now.wires.size(), job.wires.size() + 1);
    ASSERT_EQ(reading.notes.size(), 1U) << "what was assumed is said";
    EXPECT_EQ(reading.notes[0].line, 3);
    EXPECT_THAT(reading.notes[0].sentence, HasSubstr("no length: 1.5 m"));
}

TEST(Lists, AWireToldFromItsOtherEndIsTheSame)
{
    const job::Job job = test::petrel();
    const job::Wire& w = *named(job, "w5");
    const Reading reading = taken(job, "wire,from,to\nw5," + w.to.text() + "," + w.from.text() + "\n");
    ASSERT_TRUE(reading.job);
    EXPECT_EQ(*reading.job, job);
}

TEST(Lists, TwoWiresThatChangeCavitiesAreSwapped)
{
    const job::Job job = test::petrel();
    // In one file both stand in the other's cavity: nobody is lost on the way.
    const job::Wire& a = *named(job, "w6");
    const auto b = std::ranges::find_if(job.wires, [&](const job::Wire& w) {
        return w.id != a.id && job::findConnector(job, w.to.owner) != nullptr && w.to.owner == a.to.owner;
    });
    ASSERT_NE(b, job.wires.end());
    const Reading reading = taken(job, "plug,cavity,wire\n" + a.to.owner + "," + a.to.cavity + "," + b->id.value +
                                           "\n" + b->to.owner + "," + b->to.cavity + "," + a.id.value + "\n");
    ASSERT_TRUE(reading.job) << reading.notes[0].sentence;
    EXPECT_EQ(named(*reading.job, a.id.value.c_str())->to, b->to);
    EXPECT_EQ(named(*reading.job, b->id.value.c_str())->to, a.to);
    EXPECT_EQ(named(*reading.job, a.id.value.c_str())->from, a.from);
    const auto told = compare::differences(test::analysed(job), test::analysed(*reading.job));
    int moved = 0;
    for (const compare::Difference& d : told)
        moved += d.about == compare::About::Cavity ? 1 : 0;
    EXPECT_EQ(moved, 2) << "both cavities are told, and no other";
}

TEST(Lists, NoNameIsAFormulaInASpreadsheetAndAllComeBack)
{
    job::Job job = test::petrel();
    // What spreadsheets work out or run (common practice: =, @, and a sign before a call), and what only looks like it.
    const std::array<std::pair<const char*, const char*>, 8> names{
        {{"=1+1", "'=1+1"},
         {"@SUM(1)", "'@SUM(1)"},
         {"-2+3+cmd|' /C calc'!A0", "'-2+3+cmd|' /C calc'!A0"},
         {"'=1", "''=1"},
         {"+5 V sensors", "+5 V sensors"},
         {"-40 °C end", "-40 °C end"},
         {"'quoted'", "'quoted'"},
         {"  blanks beside  ", "  blanks beside  "}}};
    for (size_t i = 0; i < names.size(); ++i)
        job.circuits[i].name = names[i].first;
    const std::string csv = toCsv(job, Kind::Parts);
    for (size_t i = 0; i < names.size(); ++i)
        EXPECT_THAT(csv, HasSubstr(job.circuits[i].id.value + "," + names[i].second + ","));
    const Reading reading = taken(job, csv);
    ASSERT_TRUE(reading.job) << reading.notes[0].sentence;
    EXPECT_EQ(*reading.job, job);
}

TEST(Lists, APartANameAndSwappedSeatsAreTaken)
{
    const job::Job job = test::petrel();
    const std::string csv = toCsv(job, Kind::Parts);
    const std::string clt = job::seatOf(*job::find(job, job::CircuitId{"clt"}));
    const std::string iat = job::seatOf(*job::find(job, job::CircuitId{"iat"}));
    std::string swapped = "circuit,name,seat\nclt,Coolant at the head," + iat + "\niat,Intake air temp," + clt + "\n";
    const Reading reading = taken(job, swapped);
    ASSERT_TRUE(reading.job) << reading.notes[0].sentence;
    EXPECT_EQ(job::seatOf(*job::find(*reading.job, job::CircuitId{"clt"})), iat);
    EXPECT_EQ(job::seatOf(*job::find(*reading.job, job::CircuitId{"iat"})), clt);
    EXPECT_EQ(job::find(*reading.job, job::CircuitId{"clt"})->name, "Coolant at the head");

    std::string umlauts;
    for (int i = 0; i < 80; ++i)
        umlauts += "ü"; // as many characters as a name has, in twice as many bytes
    EXPECT_EQ(job::find(*taken(job, "circuit,name\nclt," + umlauts + "\n").job, job::CircuitId{"clt"})->name, umlauts);
    EXPECT_THAT(stops(job, "circuit,name\nclt," + umlauts + "u\n"), HasSubstr("2: a name has 1 to 80"));

    parts::Part other = *job::partOf(job, *job::find(job, job::CircuitId{"clt"}));
    other.id = {"another-thermistor"};
    EXPECT_THAT(stops(job, "circuit,part\nclt,another-thermistor\n"), HasSubstr("2: neither the job nor the library"));
    const Reading fitted = taken(job, "circuit,part\nclt,another-thermistor\n", {other});
    ASSERT_TRUE(fitted.job);
    EXPECT_EQ(job::partOf(*fitted.job, *job::find(*fitted.job, job::CircuitId{"clt"}))->id.value, "another-thermistor");
}

TEST(Lists, WhatCannotBeTakenIsSaidWithItsLineAndStopsAll)
{
    const job::Job job = test::petrel();
    const std::pair<const char*, const char*> wrong[] = {
        {"wire,from,to\nw5,CLT.1,XX.9\n", "2: no plug or joint is called \"XX.9\""},
        {"wire,length_m\nw5,-1\n", "2: "},
        {"wire,length_m\nw5,1,5\n", "2: 3 cells under 2 columns"},
        {"wire,from,to\nw5,CLT.1\n", "2: 2 cells under 3 columns"},
        {"wire,colour\nw5,\"mauve\nstripe\"\n", "2: "},
        {"wire,length_m\n\nw5,1\nw5,2\n", "4: w5 stands in line 3 too"},
        {"wire,length_m\nw998,1\n", "2: a new wire has its two ends"},
        {"wire,from,to\nw5,CLT.1,CLT.1\n", "2: both ends are at CLT.1"},
        {"wire,from,to\nw998,,\n", "2: no wire w998 is there"},
        {"plug,cavity,wire\nCLT,9,w5\n", "2: CLT has no cavity 9"},
        {"plug,cavity,wire\nCLT,1,w998\n", "2: no wire is called w998"},
        {"plug,cavity,wire\nCLT,2,w26\nCLT,1,\n", "3: w5 comes out of CLT.1 and goes nowhere"},
        {"plug,cavity,wire\nB,5,w5\n", "2: w5 has both its ends elsewhere already"},
        {"circuit,name\nclt,\n", "2: a name has 1 to 80"},
        {"circuit,name\nnobody,x\n", "2: the job has no circuit \"nobody\""},
        {"circuit,seat\nclt,AN99\n", "2: no unit of this job has an input"},
        {"circuit,seat\nclt,AN1\niat,AN1\n", "2: AN1 is the seat of another line too"}};
    for (const auto& [text, sentence] : wrong)
        EXPECT_THAT(stops(job, text), testing::StartsWith(sentence)) << text;
    const std::pair<const char*, const char*> none[] = {{"", "empty"},
                                                        {"\n\n;;\n", "empty"},
                                                        {"some,thing\n1,2\n", "no list of wires"},
                                                        {"wire,wire\nw5,w5\n", "stands there twice"},
                                                        {"wire,colour\nw5,\"BU\n", "not closed"},
                                                        {"wire,colour\nw5,B\"U\n", "not closed"},
                                                        {"wire\nw\xff\n", "UTF-8"}};
    for (const auto& [text, sentence] : none) {
        const auto reading = read(job, text);
        ASSERT_FALSE(reading) << text;
        EXPECT_THAT(reading.error().text(), HasSubstr(sentence)) << text;
    }
    EXPECT_EQ(read(job, std::string(5 << 20, 'x')).error().code, ErrorCode::TooBig);
    std::string many = "wire\n";
    for (int i = 0; i < 50002; ++i)
        many += "w5\n";
    EXPECT_EQ(read(job, many).error().code, ErrorCode::TooBig);
}

/// Whatever a list has been through: it is refused, or leaves a job that can be written and read.
TEST(Lists, BrokenListsLeaveAWholeJobOrNone)
{
    const job::Job job = test::petrel();
    std::mt19937 random(11);
    int whole = 0;
    for (const Kind kind : allKinds())
        for (int i = 0; i < 40; ++i) {
            std::string text = toCsv(job, kind);
            for (int k = 0; k < 1 + i % 3; ++k) {
                const size_t at = random() % text.size();
                switch (random() % 4) {
                case 0:
                    text.erase(at, 1 + random() % 20);
                    break;
                case 1:
                    text.insert(at, 1, ",;\"\n\t\0x9"[random() % 8]);
                    break;
                case 2:
                    text.resize(at + 1);
                    break;
                default:
                    std::swap(text[at], text[random() % text.size()]);
                }
            }
            const auto reading = read(job, text);
            if (!reading || !reading->job)
                continue;
            ++whole;
            const auto again = job::read(job::write(*reading->job));
            ASSERT_TRUE(again) << again.error().text() << text;
            EXPECT_EQ(*again, *reading->job);
        }
    EXPECT_GT(whole, 10) << "some are understood";
}

/// RFC 4180 as another program has it: Python's csv module reads what goes out and writes what comes back.
TEST(Lists, AnotherProgramReadsAndWritesThem)
{
    const std::string petrel = std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip";
    const test::Written edit("edit.py", "import csv, sys\n"
                                        "rows = list(csv.DictReader(open(sys.argv[1], newline='')))\n"
                                        "for r in rows:\n"
                                        "    if r['wire'] == 'w5': r['length_m'] = '2.345'\n"
                                        "out = csv.DictWriter(open(sys.argv[2], 'w', newline=''), list(rows[0])[::-1], "
                                        "delimiter=';', quoting=csv.QUOTE_ALL)\n"
                                        "out.writeheader()\n"
                                        "out.writerows(rows)\n"
                                        "print(len(rows))\n");
    const test::Written list("wires.csv", test::run("list " + petrel + " wires").out);
    const test::Written back("back.csv", ""), to("after.vicegrip", "");
    const auto python = test::tool("python3 " + edit.path() + " " + list.path() + " " + back.path());
    ASSERT_EQ(python.code, 0) << python.out;
    EXPECT_EQ(std::stoul(python.out), test::petrel().wires.size());
    const auto took = test::run("take " + petrel + " " + back.path() + " --out " + to.path());
    ASSERT_EQ(took.code, 0) << took.out;
    EXPECT_THAT(took.out, HasSubstr("Wire w5, length"));
    const auto after = job::readFile(to.path());
    ASSERT_TRUE(after);
    EXPECT_NEAR(named(*after, "w5")->length_m, 2.345, 1e-12);
    const test::Written bad("bad.csv", "wire,from,to\nw5,CLT.1,XX.9\n");
    const auto refused = test::run("take " + petrel + " " + bad.path() + " 2>&1");
    EXPECT_NE(refused.code, 0);
    EXPECT_THAT(refused.out, HasSubstr("bad.csv:2: no plug or joint"));
}

} // namespace
} // namespace vicegrip::lists
