#include "core/base/number_table.h"

#include <filesystem>
#include <fstream>
#include <gmock/gmock.h>
#include <unistd.h>

namespace vicegrip {
namespace {

using testing::HasSubstr;

std::filesystem::path written(const std::string& text)
{
    const auto file = std::filesystem::path(testing::TempDir()) /
                      (std::to_string(::getpid()) + "-numbers.csv"); // tests run side by side
    std::ofstream(file, std::ios::binary) << text;
    return file;
}

TEST(NumberFile, ReadsWhatTheTextReads)
{
    std::string text = "time (s),volts\n";
    for (int i = 0; i < 100000; ++i)
        text += std::to_string(i * 0.001) + "," + std::to_string((i % 5000) * 0.001) + "\n";
    const auto fromText = readNumbers(text, 2), fromFile = readNumberFile(written(text), 2);
    ASSERT_TRUE(fromText && fromFile);
    EXPECT_EQ(fromFile->size(), 100000U);
    EXPECT_EQ(fromFile->cells, fromText->cells);
    EXPECT_EQ(fromFile->lines, fromText->lines);
    EXPECT_EQ(fromFile->row(99999)[0], 99.999);
    EXPECT_EQ(fromFile->names.front(), "time (s)");
}

TEST(NumberFile, WhatIsNoFileIsSaidByItsName)
{
    const auto folder = readNumberFile(testing::TempDir(), 2);
    ASSERT_FALSE(folder);
    EXPECT_EQ(folder.error().code, ErrorCode::Io);
    EXPECT_THAT(folder.error().text(), HasSubstr("not a file"));
    const auto missing = readNumberFile("/nowhere/strokes.csv", 2);
    ASSERT_FALSE(missing);
    EXPECT_THAT(missing.error().text(), HasSubstr("/nowhere/strokes.csv"));
    EXPECT_THAT(readNumberFile(written(""), 2).error().text(), HasSubstr("empty"));
    const auto bad = readNumberFile(written("1,2\n3,4\n5,oops\n"), 2);
    ASSERT_FALSE(bad);
    EXPECT_EQ(bad.error().place.line, 3);
    EXPECT_THAT(bad.error().text(), HasSubstr("numbers.csv:3"));
}

TEST(NumberFile, CutOffAnywhereItEndsInAnErrorOrInRows)
{
    const std::string whole = "\xEF\xBB\xBFt;v\r\n0;0,5\r\n0,1;0,75\r\n0,2;1e0\r\n";
    for (size_t length = 0; length <= whole.size(); ++length) {
        const auto table = readNumberFile(written(whole.substr(0, length)), 2);
        if (table) {
            EXPECT_EQ(table->cells.size(), table->size() * table->columns);
        } else {
            EXPECT_FALSE(table.error().sentence.empty());
        }
    }
}

} // namespace
} // namespace vicegrip
