#include "core/capture/columns.h"

#include "core/base/number_table.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <set>

namespace vicegrip::capture {
namespace {

constexpr double kEven = 0.3; // of a step: how far a time written with few digits may be off its place
constexpr std::size_t kMostSamples = 400'000'000; // of all channels
constexpr std::size_t kFewLevels = 8; // a signal of more is no logic

/// Which steps would put every time so far at its place.
class EvenSteps
{
  public:
    /// The time after the first, at the row's number from 0.
    void take(std::size_t row, double since_s)
    {
        const auto n = static_cast<double>(row);
        m_least_s = std::max(m_least_s, since_s / (n + kEven));
        if (n > kEven)
            m_most_s = std::min(m_most_s, since_s / (n - kEven));
    }
    [[nodiscard]] bool allow(double step_s) const { return step_s > 0 && step_s >= m_least_s && step_s <= m_most_s; }

  private:
    double m_least_s = 0, m_most_s = std::numeric_limits<double>::infinity();
};

/// What a first reading tells of the rows.
struct Rows
{
    std::size_t count = 0;
    double began_s = 0, ended_s = 0;
    double longest_s = 0; ///< from one row to the next
    bool even = false;
    std::vector<std::set<float>> levels; ///< of each column, as long as they are few

    [[nodiscard]] double step_s() const { return (ended_s - began_s) / static_cast<double>(count - 1); }
    /// Whether a column is of changes: of few levels, or told only when it changed, with nothing in between.
    [[nodiscard]] bool changes(std::size_t column) const
    {
        constexpr double kMostUneven = 4; // of a mean step
        return !even && (levels[column].size() <= kFewLevels || longest_s > kMostUneven * step_s());
    }
};

Result<void> eachRow(const std::filesystem::path& file, const std::function<Result<void>(const NumberRows&)>& take)
{
    auto lines = TextLines::ofFile(file);
    if (!lines)
        return tl::make_unexpected(lines.error());
    NumberRows rows(std::move(*lines), 2);
    for (;;) {
        const auto there = rows.next();
        if (!there)
            return tl::make_unexpected(there.error());
        if (!*there)
            return {};
        if (auto taken = take(rows); !taken)
            return taken;
    }
}

/// Room for all samples at once, when the rows so far tell how many there will be: a vector that grows takes twice
/// the room.
void foresee(std::vector<Channel>& channels, const NumberRows& rows, std::size_t count)
{
    constexpr double kMore = 1.02;
    const auto all = static_cast<double>(rows.text().size()) / static_cast<double>(rows.text().passed()) *
                     static_cast<double>(count) * kMore;
    const auto most = static_cast<double>(kMostSamples) / static_cast<double>(channels.size());
    for (Channel& c : channels)
        c.volts.reserve(static_cast<std::size_t>(std::min(all, most)));
}

/// Fills the channels as if the times were even, and says whether they are.
Result<Rows> readSamples(const std::filesystem::path& file, std::vector<Channel>& channels)
{
    constexpr std::size_t kTells = 4096; // rows
    Rows out;
    EvenSteps steps;
    return eachRow(
               file,
               [&](const NumberRows& rows) -> Result<void> {
                   const auto row = rows.row();
                   if (out.count == 0) {
                       out.began_s = out.ended_s = row[0];
                       out.levels.resize(row.size() - 1);
                       for (std::size_t c = 1; c < row.size(); ++c)
                           channels.push_back({c < rows.names().size() ? rows.names()[c] : std::to_string(c), {}, {}});
                   }
                   if (!(row[0] >= out.ended_s))
                       return fail(ErrorCode::Malformed, phrase("time goes back"), {{}, {}, rows.line(), 1});
                   if (out.count >= kMostSamples / channels.size())
                       return fail(ErrorCode::TooBig, phrase("it has more than {} million samples", "400"),
                                   {{}, {}, rows.line(), 0});
                   out.longest_s = std::max(out.longest_s, row[0] - out.ended_s);
                   out.ended_s = row[0];
                   if (out.count > 0)
                       steps.take(out.count, row[0] - out.began_s);
                   for (std::size_t c = 1; c < row.size(); ++c) {
                       const auto v = static_cast<float>(row[c]);
                       channels[c - 1].volts.push_back(v);
                       if (out.levels[c - 1].size() <= kFewLevels)
                           out.levels[c - 1].insert(v);
                   }
                   if (++out.count == kTells)
                       foresee(channels, rows, out.count);
                   return {};
               })
        .and_then([&]() -> Result<Rows> {
            if (out.count < 2)
                return fail(ErrorCode::Range, phrase("one row is no capture"));
            out.even = steps.allow(out.step_s());
            return std::move(out);
        });
}

/// Each of the channels by its changes, or at even times along straight lines.
Result<void> readUneven(const std::filesystem::path& file, const Rows& all, std::vector<Channel>& channels)
{
    for (Channel& c : channels)
        c.volts.clear();
    std::size_t count = 0;
    std::vector<double> before;
    return eachRow(file, [&](const NumberRows& rows) -> Result<void> {
        const auto row = rows.row();
        if (row.size() != channels.size() + 1 || count++ >= all.count) // it is written to meanwhile
            return {};
        const double at_s = row[0] - all.began_s;
        for (std::size_t c = 0; c < channels.size(); ++c) {
            auto& [name, volts, changes_s] = channels[c];
            const double v = row[c + 1];
            if (all.changes(c)) {
                if (volts.empty() || static_cast<float>(v) != volts.back()) {
                    volts.push_back(static_cast<float>(v));
                    changes_s.push_back(at_s);
                }
                continue;
            }
            const double before_s = before.empty() ? at_s : before[0];
            for (double due_s = 0;
                 volts.size() < all.count && (due_s = static_cast<double>(volts.size()) * all.step_s()) <= at_s;) {
                const double share = at_s > before_s ? (due_s - before_s) / (at_s - before_s) : 1;
                const double from = before.empty() ? v : before[c + 1];
                volts.push_back(static_cast<float>(from + share * (v - from)));
            }
        }
        before.assign(row.begin(), row.end());
        before[0] = at_s;
        return {};
    });
}

} // namespace

Result<Seen> readColumns(const std::filesystem::path& file)
{
    Seen out;
    const auto rows = readSamples(file, out.channels);
    if (!rows)
        return tl::make_unexpected(rows.error());
    out.seconds = rows->ended_s - rows->began_s;
    for (std::size_t c = 0; c < out.channels.size(); ++c)
        if (!rows->changes(c))
            out.step_s = rows->step_s();
    if (!rows->even)
        if (const auto read = readUneven(file, *rows, out.channels); !read)
            return tl::make_unexpected(read.error());
    return out;
}

} // namespace vicegrip::capture
