#include "tests/support/cli.h"
#include "tests/support/petrel.h"
#include "tests/support/tool.h"

#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <unistd.h>

/// The commands of the stage Handover, run as a program.
namespace vicegrip {
namespace {

using testing::HasSubstr;
namespace fs = std::filesystem;

class CliHandover : public testing::Test
{
  protected:
    CliHandover() { fs::create_directories(folder); }
    ~CliHandover() override { fs::remove_all(folder); }

    [[nodiscard]] std::string in(const char* name) const { return (folder / name).string(); }
    [[nodiscard]] std::string read(const char* name) const
    {
        std::ifstream file(folder / name, std::ios::binary);
        return {std::istreambuf_iterator<char>(file), {}};
    }

    fs::path folder = fs::temp_directory_path() / ("handover-" + std::to_string(getpid()));
};

TEST_F(CliHandover, TheBookIsWrittenOnceOrNotAtAll)
{
    EXPECT_EQ(test::run("book " + test::petrelPath() + " --pdf " + in("b.pdf")).code, 0);
    EXPECT_THAT(read("b.pdf"), testing::StartsWith("%PDF-"));
    EXPECT_EQ(test::run("book " + test::petrelPath() + " --html " + in("b.html") + " --chapter plugs").code, 0);
    EXPECT_THAT(read("b.html"), HasSubstr("Plugs</h2>"));
    EXPECT_THAT(read("b.html"), testing::Not(HasSubstr("Logbook</h2>")));
    EXPECT_EQ(test::run("book " + test::petrelPath()).code, 2) << "it must be told where to";
    const test::Ran wrong = test::run("book " + test::petrelPath() + " --html " + in("c.html") + " --chapter paint");
    EXPECT_EQ(wrong.code, 2);
    EXPECT_THAT(wrong.out, HasSubstr("run-sheet"));
    EXPECT_FALSE(fs::exists(folder / "c.html"));
    const test::Ran nowhere = test::run("book " + test::petrelPath() + " --pdf " + in("no/such/b.pdf"));
    EXPECT_EQ(nowhere.code, 4);
    EXPECT_THAT(nowhere.out, HasSubstr("not saved: No such file or directory"));
    EXPECT_EQ(std::distance(fs::directory_iterator(folder), {}), 2);
}

/// A limit on the size of files refuses the write in the middle, as a full disk does.
TEST_F(CliHandover, AFullDiskLeavesWhatWasThere)
{
    std::ofstream(folder / "b.pdf") << "the book of last month";
    const test::Said ran = test::tool("sh -c 'trap \"\" XFSZ; ulimit -f 20; exec " + test::cli() + " book " +
                                      test::petrelPath() + " --pdf " + in("b.pdf") + "'");
    EXPECT_EQ(ran.code, 4) << ran.out;
    EXPECT_THAT(ran.out, HasSubstr("not saved"));
    EXPECT_EQ(read("b.pdf"), "the book of last month");
    EXPECT_EQ(std::distance(fs::directory_iterator(folder), {}), 1);
}

TEST_F(CliHandover, TheDiagramIsNamedAndDrawn)
{
    EXPECT_THAT(test::run("diagram " + test::petrelPath()).out, HasSubstr("temperatures"));
    EXPECT_EQ(test::run("diagram " + test::petrelPath() + " --svg " + in("sheets")).code, 0);
    EXPECT_THAT(read("sheets/temperatures.svg"), HasSubstr("data-about=\"wire w6\""));
    EXPECT_EQ(test::run("diagram " + test::petrelPath() + " --sheet paint --svg " + in("x.svg")).code, 4);
    EXPECT_FALSE(fs::exists(folder / "x.svg"));
}

TEST_F(CliHandover, AChangeSaysWhatItCosts)
{
    const test::Ran ran = test::run("recheck " + test::petrelPath() + " --after firmware");
    EXPECT_EQ(ran.code, 0);
    EXPECT_THAT(ran.out, HasSubstr("Manifold pressure, key on, the value the ECU reports: 98.8 kPa abs"));
    EXPECT_THAT(ran.out, HasSubstr("3 to prove again after: ECU firmware"));
    EXPECT_THAT(test::run("recheck " + test::petrelPath()).out, HasSubstr("plug CLT"));
    const auto json =
        nlohmann::json::parse(test::run("recheck " + test::petrelPath() + " --after 'plug clt' --json").out);
    EXPECT_EQ(json["again"].size(), 2U);
    EXPECT_EQ(test::run("recheck " + test::petrelPath() + " --after paint").code, 4);
}

TEST_F(CliHandover, TwoFilesAreCompared)
{
    job::Job job = test::petrel();
    job.ecu.firmware = "0.5";
    std::ofstream(folder / "after.vicegrip") << job::write(job);
    const std::string both = test::petrelPath() + " " + in("after.vicegrip");
    EXPECT_THAT(test::run("compare " + both).out, HasSubstr("ECU firmware"));
    EXPECT_THAT(test::run("compare " + both + " --csv").out, HasSubstr("setting,,ECU firmware,0.4,0.5"));
    EXPECT_THAT(test::run("compare " + test::petrelPath() + " " + test::petrelPath()).out,
                HasSubstr("nothing is different"));
    EXPECT_EQ(test::run("compare " + test::petrelPath() + " " + in("none.vicegrip")).code, 3);
}

TEST_F(CliHandover, LabelsAndPacketAreWritten)
{
    const std::string petrel = test::petrelPath();
    const test::Ran labels = test::run("labels " + petrel + " --label 90x12 --pdf " + in("l.pdf"));
    EXPECT_EQ(labels.code, 0) << labels.out;
    EXPECT_EQ(test::tool("qpdf --check " + in("l.pdf")).code, 0);
    // Every wire of the job is on a label (by pdftotext).
    const test::Said text = test::tool("pdftotext -layout " + in("l.pdf") + " -");
    for (const job::Wire& w : test::petrel().wires)
        EXPECT_THAT(text.out, HasSubstr(w.id.value + " " + w.colour));
    const test::Ran all =
        test::run("labels " + petrel + " --print faces --print holes --print strips --svg " + in("s"));
    EXPECT_EQ(all.code, 0) << all.out;
    EXPECT_GE(std::distance(fs::directory_iterator(folder / "s"), {}), 2);
    const test::Ran small = test::run("labels " + petrel + " --label 12x4 --pdf " + in("x.pdf"));
    EXPECT_THAT(small.out, HasSubstr("too small for"));
    EXPECT_EQ(test::run("labels " + petrel + " --label wide --pdf " + in("x.pdf")).code, 2);
    EXPECT_EQ(test::run("labels " + petrel + " --print stickers --pdf " + in("x.pdf")).code, 2);
    const test::Ran packed = test::run("packet " + petrel + " " + in("p.zip"));
    EXPECT_EQ(packed.code, 0) << packed.out;
    EXPECT_EQ(test::tool("unzip -tq " + in("p.zip")).code, 0);
    EXPECT_EQ(test::run("packet " + petrel + " " + in("p.zip") + " --log " + in("none.csv")).code, 3);
    EXPECT_EQ(test::run("packet " + petrel + " " + in("folder")).code, 0);
    EXPECT_TRUE(fs::exists(folder / "folder" / "start.html"));
}

} // namespace
} // namespace vicegrip
