#include "cli/printing.h"

#include "core/base/shipped.h"

#include <algorithm>
#include <ctime>
#include <iostream>

namespace vicegrip::cli {

int refuse(const Error& error, int code)
{
    return refuse(error.text(), code);
}

int refuse(const std::string& sentence, int code)
{
    std::cerr << sentence << '\n';
    return code;
}

parts::Library library()
{
    auto read = parts::readLibrary(parts::libraryFolders(shippedFolder() / "library"));
    for (const Error& e : read.complaints)
        std::cerr << "left out of the library: " << e.text() << '\n';
    return read;
}

std::string nowText()
{
    const std::time_t now = std::time(nullptr);
    std::tm utc{};
    gmtime_r(&now, &utc);
    char text[21] = {};
    std::strftime(text, sizeof text, "%Y-%m-%dT%H:%M:%SZ", &utc);
    return text;
}

namespace {

size_t widthOf(const std::string& text)
{
    return static_cast<size_t>(
        std::ranges::count_if(text, [](char c) { return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U; }));
}

} // namespace

std::string padded(const std::string& text, size_t to)
{
    const size_t width = widthOf(text);
    return text + std::string(width < to ? to - width : 1, ' ');
}

void Columns::print() const
{
    std::vector<size_t> widths;
    for (const Row& r : m_rows) {
        widths.resize(std::max(widths.size(), r.cells.size()));
        for (size_t i = 0; i < r.cells.size(); ++i)
            widths[i] = std::max(widths[i], widthOf(r.cells[i]));
    }
    for (const Row& r : m_rows) {
        std::string line = r.indent;
        for (size_t i = 0; i < r.cells.size(); ++i)
            line += i + 1 < r.cells.size() ? padded(r.cells[i], widths[i] + 2) : r.cells[i];
        line.erase(line.find_last_not_of(' ') + 1);
        std::cout << line << '\n';
    }
}

} // namespace vicegrip::cli
