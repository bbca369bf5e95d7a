#include "core/capture/read_capture.h"

#include "core/base/document.h"
#include "core/base/number_table.h"
#include "core/base/phrase.h"
#include "core/capture/vcd.h"
#include "core/capture/wave_file.h"

#include <array>
#include <cmath>
#include <fstream>

namespace vicegrip::capture {
namespace {

constexpr std::size_t kMostText = std::size_t{512} << 20;
constexpr double kEven = 0.3; // of a step: how far a time written with few digits may be off its place

Result<Seen> fromColumns(const NumberTable& table)
{
    const std::size_t rows = table.size();
    if (rows < 2)
        return fail(ErrorCode::Range, phrase("one row is no capture"));
    for (std::size_t i = 1; i < rows; ++i)
        if (!(table.row(i)[0] >= table.row(i - 1)[0]))
            return fail(ErrorCode::Malformed, phrase("time goes back"), {{}, {}, table.lines[i], 1});
    Seen out;
    const double began_s = table.row(0)[0];
    out.seconds = table.row(rows - 1)[0] - began_s;
    const double step_s = out.seconds / static_cast<double>(rows - 1);
    bool even = step_s > 0;
    for (std::size_t i = 1; even && i < rows; ++i)
        even = std::abs(table.row(i)[0] - began_s - static_cast<double>(i) * step_s) <= kEven * step_s;
    out.step_s = even ? step_s : 0;
    for (std::size_t c = 1; c < table.columns; ++c) {
        Channel& channel = out.channels.emplace_back();
        channel.name = c < table.names.size() ? table.names[c] : std::to_string(c);
        for (std::size_t i = 0; i < rows; ++i) {
            const auto row = table.row(i);
            if (!even && !channel.volts.empty() && static_cast<float>(row[c]) == channel.volts.back())
                continue;
            channel.volts.push_back(static_cast<float>(row[c]));
            if (!even)
                channel.changes_s.push_back(row[0] - began_s);
        }
    }
    return out;
}

} // namespace

Result<Seen> readCapture(const std::filesystem::path& file)
{
    std::ifstream in(file, std::ios::binary);
    if (!in || std::filesystem::is_directory(file))
        return fail(ErrorCode::Io, phrase("it cannot be read"), {file.string(), {}, 0, 0});
    std::array<char, 4> head{};
    in.read(head.data(), head.size());
    if (std::string_view(head.data(), head.size()) == "RIFF")
        return readWave(file);
    in.seekg(0);
    char first = ' ';
    in >> first; // past blanks
    if (first == '$')
        return document::inFile(
            document::readFile(file, kMostText).and_then([](const std::string& text) { return readVcd(text); }), file);
    return document::inFile(readNumberFile(file, 2).and_then(fromColumns), file);
}

} // namespace vicegrip::capture
