#include "core/capture/read_capture.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/capture/columns.h"
#include "core/capture/vcd.h"
#include "core/capture/wave_file.h"

#include <array>
#include <fstream>

namespace vicegrip::capture {
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
        return document::inFile(TextLines::ofFile(file).and_then([](TextLines&& l) { return readVcd(std::move(l)); }),
                                file);
    return document::inFile(readColumns(file), file);
}

} // namespace vicegrip::capture
