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

} // namespace
} // namespace vicegrip
