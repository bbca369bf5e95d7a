#include "core/diagram/placing.h"

#include <algorithm>
#include <cmath>
#include <deque>
#include <map>
#include <set>

namespace vicegrip::diagram {
namespace {

constexpr double kApart_mm = 0.6; ///< two ends nearer than this would be drawn as one

/// Blocks and runs before anything is ordered.
class Columns
{
  public:
    Columns(const job::Job& job, const Sheet& sheet) : m_job(job), m_sheet(sheet) {}

    Placed made()
    {
        for (const Link& link : m_sheet.links)
            for (const job::PointRef& end : {link.from, link.to})
                m_of.emplace(blockOf(m_job, end), m_of.size());
        rank();
        for (size_t i = 0; i < m_sheet.links.size(); ++i)
            run(i);
        m_placed.columns.resize(static_cast<size_t>(m_last) + 1);
        for (size_t b = 0; b < m_placed.blocks.size(); ++b)
            m_placed.columns[static_cast<size_t>(m_placed.blocks[b].column)].push_back(b);
        return std::move(m_placed);
    }

  private:
    /// Plugs and fixtures stand at an end; what lies between them as far in as it has to.
    void rank()
    {
        std::vector<std::string> names(m_of.size());
        for (const auto& [name, index] : m_of)
            names[index] = name;
        std::vector<std::set<size_t>> beside(names.size());
        for (const Link& link : m_sheet.links) {
            const size_t a = m_of.at(blockOf(m_job, link.from)), b = m_of.at(blockOf(m_job, link.to));
            beside[a].insert(b);
            beside[b].insert(a);
        }
        std::vector<int> column(names.size(), -1);
        std::deque<size_t> open;
        for (size_t i = 0; i < names.size(); ++i)
            if (std::ranges::find(m_sheet.first, names[i]) != m_sheet.first.end()) {
                column[i] = 0;
                open.push_back(i);
            }
        int deepest = 0;
        while (!open.empty()) {
            const size_t at = open.front();
            open.pop_front();
            deepest = std::max(deepest, column[at]);
            for (const size_t next : beside[at])
                if (column[next] < 0 && isBetween(names[next])) {
                    column[next] = column[at] + 1;
                    open.push_back(next);
                }
        }
        m_last = deepest + 1;
        for (size_t i = 0; i < names.size(); ++i) {
            Block block;
            block.name = names[i];
            block.column = column[i] < 0 ? m_last : column[i];
            block.kind = names[i].find('|') != std::string::npos          ? BlockKind::Pass
                         : job::findConnector(m_job, names[i]) != nullptr ? BlockKind::Plug
                                                                          : BlockKind::Joint;
            block.fixed = m_sheet.inOrder && block.column == 0;
            m_placed.blocks.push_back(std::move(block));
        }
    }
    bool isBetween(const std::string& name) const
    {
        if (name.find('|') != std::string::npos)
            return true;
        const job::Joint* joint = job::findJoint(m_job, name);
        return joint != nullptr && !job::isFixture(joint);
    }

    void run(size_t link)
    {
        job::PointRef a = m_sheet.links[link].from, b = m_sheet.links[link].to;
        size_t from = m_of.at(blockOf(m_job, a)), to = m_of.at(blockOf(m_job, b));
        if (m_placed.blocks[from].column > m_placed.blocks[to].column) {
            std::swap(a, b);
            std::swap(from, to);
        }
        const int first = m_placed.blocks[from].column, last = m_placed.blocks[to].column;
        if (first == last) { // out to a side and back
            const BlockSide side = first == m_last ? kLeft : kRight;
            add(link, from, a, side, to, b, side);
            return;
        }
        size_t at = from;
        job::PointRef place = a;
        for (int column = first + 1; column < last; ++column) {
            Block through;
            through.kind = BlockKind::Through;
            through.column = column;
            m_placed.blocks.push_back(through);
            const size_t next = m_placed.blocks.size() - 1;
            add(link, at, place, kRight, next, {}, kLeft);
            at = next;
            place = {};
        }
        add(link, at, place, kRight, to, b, kLeft);
    }
    void add(size_t link, size_t a, const job::PointRef& atA, BlockSide sideA, size_t b, const job::PointRef& atB,
             BlockSide sideB)
    {
        const int index = static_cast<int>(m_placed.runs.size());
        m_placed.runs.push_back({link, {a, b}, {sideA, sideB}, {}});
        land(m_placed.blocks[a], sideA, atA, {index, 0});
        land(m_placed.blocks[b], sideB, atB, {index, 1});
    }
    /// Beside the other end of the same cavity, where that side is free.
    static void land(Block& block, BlockSide side, const job::PointRef& place, RunEnd end)
    {
        for (Row& row : block.rows)
            if (!row.ends[side].is() && row.places[1 - side].cavity == place.cavity) {
                row.ends[side] = end;
                row.places[side] = place;
                return;
            }
        Row row;
        row.ends[side] = end;
        row.places[side] = place;
        block.rows.push_back(std::move(row));
    }

    const job::Job& m_job;
    const Sheet& m_sheet;
    std::map<std::string, size_t> m_of;
    int m_last = 0;
    Placed m_placed;
};

const std::string& cavityOf(const Row& row)
{
    return row.places[row.ends[kLeft].is() ? kLeft : kRight].cavity;
}

/// Orders blocks and rows by where their neighbours stand, to and fro, and keeps the order that crossed least.
class Order
{
  public:
    Order(const job::Job& job, Placed& placed) : m_placed(placed)
    {
        for (const job::Connector& c : job.connectors)
            for (size_t i = 0; i < c.cavities.size(); ++i)
                m_number[{c.id, c.cavities[i]}] = i;
    }

    void find()
    {
        for (Block& b : m_placed.blocks)
            if (b.fixed)
                std::ranges::stable_sort(b.rows, {}, [&](const Row& row) {
                    const auto it = m_number.find(row.places[row.ends[kRight].is() ? kRight : kLeft]);
                    return it == m_number.end() ? m_number.size() : it->second;
                });
        m_placed.crossings = crossings();
        Placed best = m_placed;
        for (int sweep = 0; sweep < 12 && best.crossings > 0; ++sweep) {
            const bool rightward = sweep % 2 == 0;
            const int n = static_cast<int>(m_placed.columns.size());
            for (int k = 1; k < n; ++k)
                sort(rightward ? k : n - 1 - k, rightward ? kLeft : kRight);
            m_placed.crossings = crossings();
            if (m_placed.crossings < best.crossings)
                best = m_placed;
        }
        m_placed = std::move(best);
    }

  private:
    /// The place of every run's end in its column, counted in rows.
    void count()
    {
        m_at.assign(m_placed.runs.size(), {});
        for (const auto& column : m_placed.columns) {
            double at = 0;
            for (const size_t b : column)
                for (const Row& row : m_placed.blocks[b].rows) {
                    for (const BlockSide side : {kLeft, kRight})
                        if (row.ends[side].is())
                            m_at[row.ends[side].index()][row.ends[side].end] = at;
                    ++at;
                }
        }
    }
    int crossings()
    {
        count();
        int out = 0;
        for (size_t i = 0; i < m_placed.runs.size(); ++i)
            for (size_t j = i + 1; j < m_placed.runs.size(); ++j)
                if (m_placed.runs[i].crosses() && m_placed.runs[j].crosses() &&
                    m_placed.runs[i].channel(m_placed.blocks) == m_placed.runs[j].channel(m_placed.blocks) &&
                    (m_at[i][0] - m_at[j][0]) * (m_at[i][1] - m_at[j][1]) < 0)
                    ++out;
        return out;
    }

    /// Where the other end of what comes to a row from this side stands; `keep` where nothing does.
    double pull(const Row& row, BlockSide side, double keep) const
    {
        const RunEnd& end = row.ends[side];
        return end.is() && m_placed.runs[end.index()].crosses() ? m_at[end.index()][1 - end.end] : keep;
    }
    void sort(int column, BlockSide side)
    {
        count();
        auto& blocks = m_placed.columns[static_cast<size_t>(column)];
        std::map<size_t, double> pulled;
        double at = 0;
        for (const size_t b : blocks) {
            Block& block = m_placed.blocks[b];
            double sum = 0, of = 0, own = at;
            for (const Row& row : block.rows) {
                if (row.ends[side].is() && m_placed.runs[row.ends[side].index()].crosses()) {
                    sum += pull(row, side, 0);
                    ++of;
                }
                ++own;
            }
            pulled[b] = of > 0 ? sum / of : at;
            if (block.kind == BlockKind::Joint)
                sortJoint(block, side);
            else if (!block.fixed)
                sortRows(block, side, at);
            at = own;
        }
        std::ranges::stable_sort(blocks, {}, [&](size_t b) { return pulled[b]; });
    }
    /// Rows of one cavity stay together.
    void sortRows(Block& block, BlockSide side, double at) const
    {
        std::map<std::string, std::pair<double, double>> sums;
        for (const Row& row : block.rows) {
            auto& [sum, of] = sums[cavityOf(row)];
            sum += pull(row, side, at++);
            ++of;
        }
        std::ranges::stable_sort(block.rows, {}, [&](const Row& row) {
            const auto& [sum, of] = sums[cavityOf(row)];
            return sum / of;
        });
    }
    /// A joint is one place: its two sides are ordered each by its own.
    void sortJoint(Block& block, BlockSide side) const
    {
        std::array<std::vector<std::pair<RunEnd, job::PointRef>>, 2> sides;
        for (const Row& row : block.rows)
            for (const BlockSide s : {kLeft, kRight})
                if (row.ends[s].is())
                    sides[s].push_back({row.ends[s], row.places[s]});
        std::ranges::stable_sort(sides[side], {}, [&](const auto& end) {
            return m_at[end.first.index()]
                       [m_placed.runs[end.first.index()].crosses() ? 1 - end.first.end : end.first.end];
        });
        block.rows.assign(std::max(sides[kLeft].size(), sides[kRight].size()), {});
        for (const BlockSide s : {kLeft, kRight})
            for (size_t i = 0; i < sides[s].size(); ++i)
                std::tie(block.rows[i].ends[s], block.rows[i].places[s]) = sides[s][i];
    }

    Placed& m_placed;
    std::map<job::PointRef, size_t> m_number;
    std::vector<std::array<double, 2>> m_at;
};

/// Columns from the left: a block stands where its wires come in straight, as far as the blocks above it let it (least
/// squares under an order: pool adjacent violators).
class Heights
{
  public:
    explicit Heights(Placed& placed) : m_placed(placed) {}

    void set()
    {
        for (const auto& column : m_placed.columns)
            setColumn(column);
        double least = 0;
        for (const Block& b : m_placed.blocks)
            least = std::min(least, b.top_mm);
        for (Block& b : m_placed.blocks)
            b.top_mm -= least;
        for (size_t b = 0; b < m_placed.blocks.size(); ++b)
            settle(b);
    }

  private:
    struct Pool
    {
        double sum = 0;
        size_t blocks = 0;
        [[nodiscard]] double mean() const { return sum / static_cast<double>(blocks); }
    };

    void setColumn(const std::vector<size_t>& column)
    {
        std::vector<Pool> pools;
        std::vector<double> before;
        double under = 0;
        for (const size_t b : column) {
            before.push_back(under);
            pools.push_back({wanted(b, under) - under, 1});
            under += heightOf(m_placed.blocks[b]) + kBlockGap_mm;
            while (pools.size() > 1 && pools[pools.size() - 2].mean() > pools.back().mean()) {
                pools[pools.size() - 2].sum += pools.back().sum;
                pools[pools.size() - 2].blocks += pools.back().blocks;
                pools.pop_back();
            }
        }
        size_t next = 0;
        double least = -1e9;
        for (const Pool& pool : pools)
            for (size_t i = 0; i < pool.blocks; ++i, ++next) {
                Block& block = m_placed.blocks[column[next]];
                stand(column[next], std::max(least, before[next] + pool.mean()), least);
                least = block.top_mm + heightOf(block) + kBlockGap_mm;
            }
    }
    double wanted(size_t b, double otherwise) const
    {
        const Block& block = m_placed.blocks[b];
        double sum = 0, of = 0;
        for (size_t r = 0; r < block.rows.size(); ++r)
            if (const RunEnd& end = block.rows[r].ends[kLeft]; end.is() && m_placed.runs[end.index()].crosses()) {
                sum += m_placed.runs[end.index()].y_mm[0] - offsetOf(block, r);
                ++of;
            }
        return of > 0 ? sum / of : otherwise;
    }
    /// Near there, where no end of its wires is level with another wire's in the same channel: the two would lie on one
    /// another.
    void stand(size_t b, double top, double least)
    {
        Block& block = m_placed.blocks[b];
        for (int step = 0; step < 41; ++step) {
            const int away = (step + 1) / 2 * (step % 2 == 0 ? 1 : -1);
            const double quarter = kRowPitch_mm / 4 * away;
            block.top_mm = std::round((top + quarter) / (kRowPitch_mm / 4)) * (kRowPitch_mm / 4);
            if (block.top_mm >= least && isClear(b))
                break;
            block.top_mm = std::max(top, least);
        }
        settle(b);
    }
    bool isClear(size_t b) const
    {
        const Block& block = m_placed.blocks[b];
        for (size_t r = 0; r < block.rows.size(); ++r) {
            const RunEnd& end = block.rows[r].ends[kLeft];
            if (!end.is())
                continue;
            const double y = block.top_mm + offsetOf(block, r);
            for (size_t i = 0; i < m_placed.runs.size(); ++i) {
                const Run& other = m_placed.runs[i];
                if (other.channel(m_placed.blocks) != block.column - 1 || other.sides[0] != kRight)
                    continue;
                const double off = std::abs(other.y_mm[0] - y);
                const bool own = i == end.index();
                if (off < kApart_mm && !(own && off < 1e-9))
                    return false;
                if (!other.crosses() && std::abs(other.y_mm[1] - y) < kApart_mm)
                    return false;
            }
        }
        return true;
    }
    void settle(size_t b)
    {
        Block& block = m_placed.blocks[b];
        for (size_t r = 0; r < block.rows.size(); ++r) {
            Row& row = block.rows[r];
            row.y_mm = block.top_mm + offsetOf(block, r);
            for (const RunEnd& end : row.ends)
                if (end.is())
                    m_placed.runs[end.index()].y_mm[end.end] = row.y_mm;
        }
    }

    Placed& m_placed;
};

} // namespace

double heightOf(const Block& block)
{
    if (block.kind == BlockKind::Through)
        return kRowPitch_mm;
    return kBlockTitle_mm + 2 * kBlockEdge_mm + static_cast<double>(block.rows.size() - 1) * kRowPitch_mm;
}

double offsetOf(const Block& block, size_t row)
{
    return block.kind == BlockKind::Through ? kRowPitch_mm / 2
                                            : kBlockTitle_mm + kBlockEdge_mm + static_cast<double>(row) * kRowPitch_mm;
}

Placed place(const job::Job& job, const Sheet& sheet)
{
    Placed out = Columns(job, sheet).made();
    Order(job, out).find();
    Heights(out).set();
    return out;
}

} // namespace vicegrip::diagram
