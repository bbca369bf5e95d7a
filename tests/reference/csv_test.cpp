#include "core/base/csv.h"

#include <cstdio>
#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <random>
#include <unistd.h>

/// Tables as another program reads them: Python's csv module, which follows RFC 4180 in its default dialect.
namespace vicegrip::csv {
namespace {

namespace fs = std::filesystem;

/// What Python makes of a table, as JSON.
nlohmann::json readByPython(const std::string& table)
{
    const fs::path folder = fs::temp_directory_path() / ("csv-" + std::to_string(getpid()));
    fs::create_directories(folder);
    const fs::path in = folder / "table.csv", out = folder / "table.json";
    std::ofstream(in, std::ios::binary) << table;
    const std::string command =
        "/usr/bin/python3 -c \"import csv, json, sys; json.dump(list(csv.reader(open(sys.argv[1], "
        "newline='', encoding='utf-8'))), open(sys.argv[2], 'w'))\" " +
        in.string() + " " + out.string();
    EXPECT_EQ(std::system(command.c_str()), 0); // NOLINT(cert-env33-c,concurrency-mt-unsafe)
    std::ifstream read(out);
    const auto json = nlohmann::json::parse(read, nullptr, false);
    fs::remove_all(folder);
    return json;
}

TEST(CsvByPython, RandomTablesComeBackAsTheyWere)
{
    static const std::vector<std::string> kPieces = {"a",     "0.5 mm²", ",", "\"", "\"\"", "\n", "\r\n",
                                                     "BU/WH", " ",       ";", "Ω",  "'",    "\t", "=1+1"};
    std::mt19937 random(6); // NOLINT(bugprone-random-generator-seed)
    std::vector<std::vector<std::string>> rows;
    std::string table;
    for (int row = 0; row < 300; ++row) {
        std::vector<std::string> fields;
        for (unsigned field = 0; field < 2 + random() % 6; ++field) {
            std::string text;
            for (unsigned piece = 0; piece < random() % 5; ++piece)
                text += kPieces[random() % kPieces.size()];
            fields.push_back(text);
        }
        table += csv::row(fields);
        rows.push_back(std::move(fields));
    }
    const auto read = readByPython(table);
    ASSERT_EQ(read.size(), rows.size());
    for (size_t row = 0; row < rows.size(); ++row) {
        std::vector<std::string> fields;
        for (const auto& field : read[row].get<std::vector<std::string>>()) {
            EXPECT_FALSE(field.starts_with('=')) << row << " would be worked out";
            fields.emplace_back(unguarded(field));
        }
        EXPECT_EQ(fields, rows[row]) << row;
    }
}

TEST(CsvByPython, AnEmptyTableIsEmpty)
{
    EXPECT_TRUE(readByPython("").empty());
    EXPECT_EQ(readByPython(csv::row({"", ""}))[0].size(), 2U);
}

} // namespace
} // namespace vicegrip::csv
