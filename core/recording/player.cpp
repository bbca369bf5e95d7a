#include "core/recording/player.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"

#include <algorithm>

namespace vicegrip::recording {
namespace {

/// A line of at most kLongestRow; what is longer is cut, and is no row then.
bool readLine(std::istream& in, std::string& line)
{
    line.clear();
    for (int c = in.get(); c != std::istream::traits_type::eof(); c = in.get()) {
        if (c == '\n')
            return true;
        if (line.size() <= kLongestRow)
            line += static_cast<char>(c);
    }
    return !line.empty();
}

bool isSilent(const std::string& line)
{
    const std::string said = typed::trimmed(line);
    return said.empty() || said.front() == '#';
}

} // namespace

Result<Player> Player::open(const std::filesystem::path& file, const job::Job& job)
{
    Player out;
    out.m_file = file;
    out.m_in.open(file, std::ios::binary);
    if (!out.m_in || std::filesystem::is_directory(file))
        return fail(ErrorCode::Io, phrase("it cannot be read"), {file.string(), {}, 0, 0});
    if (!out.next())
        return fail(ErrorCode::Malformed, phrase("it is empty"), {file.string(), {}, 0, 0});
    if (!can_log::readLine(out.m_line)) {
        auto rows = Reader::from(out.m_line, job);
        if (!rows)
            return tl::make_unexpected(out.placed(rows.error()));
        out.m_rows = std::move(*rows);
        if (!out.next())
            out.m_over = true;
    }
    if (!out.m_over) {
        const auto began = out.timeOf(out.m_line);
        if (!began)
            return tl::make_unexpected(out.placed(began.error()));
        out.m_began_s = *began;
        out.m_waits = true;
        out.measure();
    }
    return out;
}

/// The next line that says something.
bool Player::next()
{
    do {
        if (!readLine(m_in, m_line))
            return false;
        ++m_number;
    } while (isSilent(m_line));
    return true;
}

Result<double> Player::timeOf(const std::string& line) const
{
    if (m_rows)
        return Reader::time(line);
    return can_log::readLine(line).map([](const can_log::Frame& f) { return f.time_s; });
}

/// By the last line that has a time; then back to where it was.
void Player::measure()
{
    constexpr std::streamoff kTail = 1 << 16;
    const auto here = m_in.tellg();
    m_in.clear();
    m_in.seekg(0, std::ios::end);
    m_in.seekg(std::max<std::streamoff>(here, static_cast<std::streamoff>(m_in.tellg()) - kTail));
    for (std::string line; readLine(m_in, line);)
        if (const auto time_s = timeOf(line))
            m_length_s = std::max(m_length_s, *time_s - m_began_s);
    m_in.clear();
    m_in.seekg(here);
}

Error Player::placed(Error error) const
{
    error.place.file = m_file.string();
    error.place.line = m_number;
    return error;
}

Result<void> Player::until(double time_s, std::vector<stream::Heard>& heard,
                           const std::function<void(const can_log::Frame&)>& frame)
{
    while (!m_over) {
        if (!m_waits && !next()) {
            m_over = true;
            break;
        }
        m_waits = false;
        if (m_rows) {
            const auto at_s = Reader::time(m_line);
            if (at_s && *at_s - m_began_s > time_s) {
                m_waits = true;
                break;
            }
            const auto mark = m_rows->row(m_line, heard);
            if (!mark)
                return tl::make_unexpected(placed(mark.error()));
            m_mark = *mark > 0 ? *mark : m_mark;
        } else {
            const auto f = can_log::readLine(m_line);
            if (!f)
                return tl::make_unexpected(placed(f.error()));
            if (f->time_s - m_began_s > time_s) {
                m_waits = true;
                break;
            }
            frame(*f);
        }
    }
    return {};
}

const std::vector<std::string>& Player::left() const
{
    static const std::vector<std::string> kNone;
    return m_rows ? m_rows->left() : kNone;
}

} // namespace vicegrip::recording
