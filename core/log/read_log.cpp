#include "core/log/read_log.h"

#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/log/one_clock.h"
#include "core/log/rows_of_piece.h"

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <cmath>
#include <condition_variable>
#include <cstring>
#include <fstream>
#include <istream>
#include <mutex>
#include <numeric>
#include <sstream>
#include <thread>

namespace vicegrip::log {
namespace {

constexpr std::size_t kHead = 1U << 20; ///< bytes that say how it is laid out
constexpr std::size_t kPiece = 1U << 20;
constexpr std::size_t kLongestLine = 16U << 20;
constexpr std::size_t kLineEvery = 1024; ///< rows

/// Whole lines of a stream, one piece after another.
class Pieces
{
  public:
    Pieces(std::istream& in, std::string held) : m_in(in), m_rest(std::move(held)) {}

    /// False at the end. A piece ends with a line's end, but for the last of the file.
    bool next(std::string& out)
    {
        out = std::exchange(m_rest, {});
        for (;;) {
            const std::size_t end = out.size() < kPiece && m_in ? std::string::npos : out.rfind('\n');
            if (end != std::string::npos) {
                m_rest.assign(out, end + 1);
                out.resize(end + 1);
                break;
            }
            if (!m_in || out.size() > kLongestLine)
                break;
            const std::size_t had = out.size();
            out.resize(had + kPiece);
            m_in.read(out.data() + had, static_cast<std::streamsize>(kPiece));
            out.resize(had + static_cast<std::size_t>(m_in.gcount()));
        }
        m_passed += out.size();
        return !out.empty();
    }
    [[nodiscard]] std::size_t passed() const { return m_passed; }

  private:
    std::istream& m_in;
    std::string m_rest;
    std::size_t m_passed = 0;
};

/// Puts pieces together in their order.
class Joined
{
  public:
    Joined(const Layout& layout, double expectedBytes)
        : m_layout(layout),
          m_expected(expectedBytes),
          m_clock(layout.form == TimeForm::Number ? layout.second : 1, layout.form == TimeForm::Clock && !layout.day),
          m_words(layout.fields.size()),
          m_line(layout.line)
    {
        m_out.remarks = layout.remarks;
        for (std::size_t f = 0; f < layout.fields.size(); ++f)
            if (f != layout.time && f != layout.day && f != layout.events)
                m_fields.push_back(f);
        m_out.columns.resize(m_fields.size());
        for (std::size_t c = 0; c < m_fields.size(); ++c)
            m_out.columns[c] = {layout.fields[m_fields[c]].name, layout.fields[m_fields[c]].unit, {}};
    }

    /// False where nothing more is wanted.
    bool add(const Piece& piece, std::size_t bytes)
    {
        if (m_out.time_s.empty())
            foresee(piece, bytes);
        const std::size_t before = m_out.time_s.size();
        addTimes(piece, before);
        for (std::size_t c = 0; c < m_fields.size(); ++c) {
            const auto& more = piece.values[m_fields[c]];
            m_out.columns[c].values.insert(m_out.columns[c].values.end(), more.begin(), more.end());
        }
        for (const auto& [row, text] : piece.events)
            m_events.emplace_back(before + row, text);
        for (std::size_t f = 0; f < m_words.size(); ++f)
            m_words[f].add(piece.words[f], m_line);
        m_cut.add(piece.cut, m_line);
        m_timeless.add(piece.timeless, m_line);
        if (piece.other) {
            m_other = m_line + *piece.other;
            return false;
        }
        m_line += piece.lineCount;
        return m_out.time_s.size() * m_fields.size() <= kMostValues;
    }

    [[nodiscard]] Result<Log> finish(bool lastLineIsWhole)
    {
        if (m_out.time_s.size() * m_fields.size() > kMostValues)
            return fail(ErrorCode::TooBig,
                        phrase("it has more than {} million values", std::to_string(kMostValues / 1'000'000)));
        if (m_out.time_s.empty())
            return fail(ErrorCode::Range, phrase("there is no row of numbers with a time"),
                        {{}, {}, static_cast<int>(m_layout.line), 0});
        for (auto& [row, text] : m_events)
            m_out.events.push_back({m_out.time_s[std::min(row, m_out.time_s.size() - 1)], std::move(text)});
        if (m_late.count > 0)
            sort();
        remark(lastLineIsWhole);
        return std::move(m_out);
    }

  private:
    /// Room for all rows at once: a vector that grows takes twice the room.
    void foresee(const Piece& piece, std::size_t bytes)
    {
        constexpr double kMore = 1.03;
        const double all =
            std::min(static_cast<double>(piece.time_s.size()) * kMore * m_expected /
                         static_cast<double>(std::max<std::size_t>(bytes, 1)),
                     static_cast<double>(kMostValues) / static_cast<double>(std::max<std::size_t>(m_fields.size(), 1)));
        const auto rows = static_cast<std::size_t>(all) + kLineEvery;
        m_out.time_s.reserve(rows);
        for (Column& c : m_out.columns)
            c.values.reserve(rows);
    }

    void addTimes(const Piece& piece, std::size_t before)
    {
        auto begins = piece.begins.begin();
        for (std::size_t i = 0; i < piece.time_s.size(); ++i) {
            for (; begins != piece.begins.end() && *begins == i; ++begins)
                m_anew = true;
            const std::size_t row = before + i;
            const auto [at_s, what] = m_clock.at(piece.time_s[i], m_anew);
            m_anew = false;
            const std::uint64_t line = m_line + piece.lines[i];
            if (what == OneClock::What::Late)
                m_late.add(line, {});
            else if (what == OneClock::What::Wraps)
                m_wraps.add(line, {});
            else if (what == OneClock::What::BeginsAnew) {
                m_begins.add(line, {});
                m_out.begins.push_back(row);
            }
            if (row % kLineEvery == 0)
                m_out.lineAt.push_back(line);
            m_out.time_s.push_back(at_s);
        }
        m_anew = m_anew || begins != piece.begins.end();
    }

    /// By time, rows of one time as they came.
    void sort()
    {
        std::vector<std::uint32_t> order(m_out.time_s.size());
        std::iota(order.begin(), order.end(), 0U);
        std::ranges::stable_sort(order, {}, [&](std::uint32_t i) { return m_out.time_s[i]; });
        const auto apply = [&](auto& values) {
            auto sorted = values;
            for (std::size_t i = 0; i < order.size(); ++i)
                sorted[i] = values[order[i]];
            values.swap(sorted);
        };
        apply(m_out.time_s);
        for (Column& c : m_out.columns)
            apply(c.values);
    }

    void remark(bool lastLineIsWhole)
    {
        const auto say = [&](const Trouble& trouble, std::string sentence, const std::string& column = {}) {
            if (trouble.count > 0)
                m_out.remarks.push_back({std::move(sentence), trouble.line, column});
        };
        const auto times = [](const Trouble& t) { return std::to_string(t.count); };
        const bool onlyTheLast = m_cut.count == 1 && !lastLineIsWhole && m_cut.line + 1 == m_line;
        say(m_cut, onlyTheLast ? phrase("the last line is cut short: it was left out")
                               : phrase("rows of another length were left out: {}", times(m_cut)));
        say(m_timeless, phrase("rows without a time were left out: {}", times(m_timeless)));
        say(m_late, phrase("rows written after later ones were put in their order: {}", times(m_late)));
        say(m_wraps, phrase("the clock wraps and goes on: {} times", times(m_wraps)));
        say(m_begins, phrase("another log begins in the same file: {} times", times(m_begins)));
        if (m_other)
            m_out.remarks.push_back({phrase("other columns begin: what follows was left out"), *m_other, {}});
        for (std::size_t f = 0; f < m_words.size(); ++f)
            say(m_words[f],
                phrase("cells that are no number were left empty: {}, such as \"{}\"", times(m_words[f]),
                       m_words[f].sample),
                m_layout.fields[f].name);
        std::erase_if(m_out.columns, [&](const Column& c) {
            const bool empty = std::ranges::all_of(c.values, [](float v) { return std::isnan(v); });
            if (empty)
                m_out.remarks.push_back({phrase("there is no number in it: it was left out"), 0, c.name});
            return empty;
        });
    }

    const Layout& m_layout;
    double m_expected; ///< bytes
    OneClock m_clock;
    Log m_out;
    std::vector<std::size_t> m_fields; ///< of the columns
    std::vector<std::pair<std::size_t, std::string>> m_events;
    std::vector<Trouble> m_words;
    Trouble m_cut, m_timeless, m_late, m_wraps, m_begins;
    std::optional<std::uint64_t> m_other;
    std::uint64_t m_line;
    bool m_anew = false;
};

/// Threads that take pieces in turn, read them side by side and join them in turn.
class Crew
{
  public:
    Crew(Pieces& pieces, const Layout& layout, Joined& joined, const GoesOn& goesOn, double size)
        : m_pieces(pieces), m_layout(layout), m_joined(joined), m_goesOn(goesOn), m_size(size)
    {
    }

    /// False when it was stopped.
    bool work()
    {
        std::vector<std::jthread> threads;
        for (unsigned t = 1; t < std::max(1U, std::thread::hardware_concurrency()); ++t)
            threads.emplace_back([this] { takeTurns(); });
        takeTurns();
        threads.clear();
        return !m_stopped;
    }
    [[nodiscard]] bool endsWithALine() const { return m_endsWithALine; }
    [[nodiscard]] bool hasTooLongALine() const { return m_tooLong; }

  private:
    void takeTurns()
    {
        std::string text;
        Piece piece;
        for (;;) {
            std::size_t turn = 0;
            {
                const std::lock_guard lock(m_taking);
                if (m_done || !m_pieces.next(text))
                    return;
                turn = m_taken++;
                m_endsWithALine = text.ends_with('\n');
                m_tooLong = text.size() > kLongestLine && !m_endsWithALine;
                if (m_tooLong) {
                    m_done = true;
                    return;
                }
                if (m_goesOn && !m_goesOn(std::min(1.0, static_cast<double>(m_pieces.passed()) / m_size)))
                    m_stopped = m_done = true;
            }
            if (m_done)
                text.clear();
            readPiece(text, m_layout, piece);
            std::unique_lock lock(m_joining);
            m_turned.wait(lock, [&] { return m_joinedCount == turn; });
            if (!m_done && !m_joined.add(piece, text.size()))
                m_done = true;
            ++m_joinedCount;
            m_turned.notify_all();
        }
    }

    Pieces& m_pieces;
    const Layout& m_layout;
    Joined& m_joined;
    const GoesOn& m_goesOn;
    double m_size;
    std::mutex m_taking, m_joining;
    std::condition_variable m_turned;
    std::size_t m_taken = 0, m_joinedCount = 0;
    std::atomic<bool> m_done = false;
    bool m_stopped = false, m_endsWithALine = true, m_tooLong = false;
};

Result<Log> read(std::istream& in, double size, const GoesOn& goesOn)
{
    const bool isSmall = size > 0 && size < static_cast<double>(kHead);
    std::string head(isSmall ? static_cast<std::size_t>(size) + 1 : kHead, '\0'); // to its end, and that it is one
    in.read(head.data(), static_cast<std::streamsize>(head.size()));
    head.resize(static_cast<std::size_t>(in.gcount()));
    const std::size_t firstEnd = head.find('\n');
    if (firstEnd == std::string::npos && in)
        return fail(ErrorCode::TooBig, phrase("its first line is longer than 1 MB"), {{}, {}, 1, 0});
    const auto layout = layoutOf(std::string_view(head).substr(0, in ? head.rfind('\n') : head.size()));
    if (!layout)
        return tl::make_unexpected(layout.error());
    Joined joined(*layout, size);
    head.erase(0, layout->begin);
    Pieces pieces(in, std::move(head));
    Crew crew(pieces, *layout, joined, goesOn, std::max(size, 1.0));
    if (!crew.work())
        return fail(ErrorCode::Io, phrase("reading it was stopped"));
    if (crew.hasTooLongALine())
        return fail(ErrorCode::TooBig, phrase("a line is longer than 16 MB"));
    if (in.bad())
        return fail(ErrorCode::Io, phrase("the file cannot be read to its end"));
    if (goesOn)
        goesOn(1);
    return joined.finish(crew.endsWithALine());
}

} // namespace

Result<Log> readLog(const std::filesystem::path& file, const GoesOn& goesOn)
{
    std::error_code none;
    std::ifstream in(file, std::ios::binary);
    if (!in || std::filesystem::is_directory(file, none))
        return fail(ErrorCode::Io, phrase("the file cannot be opened: ") + std::strerror(in ? EISDIR : errno),
                    {file.string(), {}, 0, 0});
    const auto size = std::filesystem::file_size(file, none);
    return document::inFile(read(in, none ? 0.0 : static_cast<double>(size), goesOn), file);
}

Result<Log> readLogText(std::string_view text)
{
    std::istringstream in{std::string(text)};
    return read(in, static_cast<double>(text.size()), {});
}

std::uint64_t lineOf(const Log& log, std::size_t row)
{
    const std::size_t known = std::min(row / kLineEvery, log.lineAt.size() - 1);
    return log.lineAt.empty() ? 0 : log.lineAt[known] + (row - known * kLineEvery);
}

} // namespace vicegrip::log
