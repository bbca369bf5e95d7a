#include "core/capture/write_capture.h"

#include "core/base/phrase.h"
#include "core/capture/vcd.h"
#include "core/capture/wave_file.h"

#include <algorithm>
#include <charconv>
#include <fstream>

namespace vicegrip::capture {
namespace {

void addNumber(std::string& out, double value)
{
    char text[64];
    const auto end = std::to_chars(std::begin(text), std::end(text), value, std::chars_format::general, 9);
    out.append(text, end.ptr);
}

void writeColumns(const Seen& seen, std::ostream& to)
{
    constexpr std::size_t kAtOnce = std::size_t{1} << 20;
    std::string out = "time (s)";
    std::size_t rows = 0;
    for (const Channel& c : seen.channels) {
        std::string name = c.name;
        std::ranges::replace_if(
            name, [](char l) { return l == ',' || l == '\n'; }, ' ');
        out += "," + name;
        rows = std::max(rows, c.volts.size());
    }
    out += '\n';
    for (std::size_t i = 0; i < rows; ++i) {
        addNumber(out, static_cast<double>(i) * seen.step_s);
        for (const Channel& c : seen.channels) {
            out += ',';
            addNumber(out, i < c.volts.size() ? static_cast<double>(c.volts[i]) : 0);
        }
        out += '\n';
        if (out.size() > kAtOnce) {
            to << out;
            out.clear();
        }
    }
    to << out;
}

} // namespace

Result<void> writeCapture(const Seen& seen, const std::filesystem::path& file)
{
    if (file.extension() == ".wav")
        return writeWave(seen, file);
    std::ofstream out(file, std::ios::binary);
    if (file.extension() == ".vcd")
        out << writeVcd(seen);
    else
        writeColumns(seen, out);
    if (!out.flush())
        return fail(ErrorCode::Io, phrase("it cannot be written"), {file.string(), {}, 0, 0});
    return {};
}

} // namespace vicegrip::capture
