#include "core/base/text_lines.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <limits>

namespace vicegrip {
namespace {

constexpr std::size_t kRead = std::size_t{1} << 18; // bytes at once
constexpr std::size_t kLongest = std::size_t{16} << 20; // of a line

} // namespace

TextLines::TextLines(std::string_view text) : m_rest(text), m_size(text.size()) {}

Result<TextLines> TextLines::ofFile(const std::filesystem::path& file)
{
    const Place place{file.string(), {}, 0, 0};
    std::error_code error;
    if (std::filesystem::is_directory(file, error))
        return fail(ErrorCode::Io, phrase("this is a folder, not a file"), place);
    TextLines out;
    out.m_isFile = true;
    out.m_file.open(file, std::ios::binary);
    if (!out.m_file)
        return fail(ErrorCode::Io, std::string(phrase("the file cannot be opened: ")) + std::strerror(errno),
                    place); // NOLINT(concurrency-mt-unsafe)
    if (const auto bytes = std::filesystem::file_size(file, error); !error)
        out.m_size = bytes;
    return out;
}

Error TextLines::tooLong() const
{
    return {ErrorCode::TooBig, phrase("a line is longer than 16 MB"), {{}, {}, m_number + 1, 0}};
}

/// More of the file behind the rest; false: there is no more.
bool TextLines::fill()
{
    if (!m_isFile || !m_file)
        return false;
    const std::size_t rest = m_rest.size();
    if (rest > kLongest) {
        m_trouble = tooLong();
        return false;
    }
    if (m_held.size() < rest + kRead) { // a line that is longer than any before
        std::vector<char> more(2 * (rest + kRead));
        std::copy(m_rest.begin(), m_rest.end(), more.begin());
        m_held = std::move(more);
    } else if (rest > 0) {
        std::memmove(m_held.data(), m_rest.data(), rest);
    }
    m_file.read(m_held.data() + rest, static_cast<std::streamsize>(m_held.size() - rest));
    const auto read = static_cast<std::size_t>(m_file.gcount());
    m_rest = {m_held.data(), rest + read};
    if (m_file.bad())
        m_trouble = Error{ErrorCode::Io, phrase("the file cannot be read to its end"), {{}, {}, m_number + 1, 0}};
    return read > 0 && !m_trouble;
}

bool TextLines::next()
{
    std::size_t searched = 0, end = m_rest.find('\n');
    while (end == std::string_view::npos) {
        searched = m_rest.size();
        if (!fill())
            break;
        end = m_rest.find('\n', searched);
    }
    if (std::min(end, m_rest.size()) > kLongest && !m_trouble)
        m_trouble = tooLong();
    if (m_trouble || m_rest.empty() || m_number == std::numeric_limits<int>::max())
        return false;
    end = std::min(end, m_rest.size());
    m_line = m_rest.substr(0, end);
    const std::size_t whole = std::min(end + 1, m_rest.size());
    m_rest.remove_prefix(whole);
    m_passed += whole;
    ++m_number;
    constexpr std::string_view kByteOrder = "\xEF\xBB\xBF";
    if (m_number == 1 && m_line.starts_with(kByteOrder))
        m_line.remove_prefix(kByteOrder.size());
    return true;
}

} // namespace vicegrip
