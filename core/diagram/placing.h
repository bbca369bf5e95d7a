#pragma once

#include "core/diagram/net.h"

#include <array>
#include <string>
#include <vector>

/// Inside: the blocks of a sheet in columns, in the order with the fewest crossings that was found, and where each row
/// of them stands.
namespace vicegrip::diagram {

enum class BlockKind { Plug, Pass, Joint, Through };
enum BlockSide { kLeft, kRight };

/// An end of a run: of its left or of its right block.
struct RunEnd
{
    int run = -1; ///< -1: none
    size_t end = 0;
    [[nodiscard]] bool is() const { return run >= 0; }
    [[nodiscard]] size_t index() const { return static_cast<size_t>(run); }
};

/// Where wires come to a block: one to its left, one to its right.
struct Row
{
    std::array<RunEnd, 2> ends; ///< by side
    std::array<job::PointRef, 2> places;
    double y_mm = 0;
};

struct Block
{
    std::string name;
    BlockKind kind = BlockKind::Joint;
    int column = 0;
    bool fixed = false; ///< its rows keep their order
    std::vector<Row> rows;
    double top_mm = 0;
};

/// A stretch of a link between two columns that are neighbours, or from a column back to itself.
struct Run
{
    size_t link = 0;
    std::array<size_t, 2> blocks{}; ///< the left one first
    std::array<BlockSide, 2> sides = {kRight, kLeft};
    std::array<double, 2> y_mm{}; ///< of its two ends
    /// Whether it leads from one column to the next, and not back to its own.
    [[nodiscard]] bool crosses() const { return sides[0] != sides[1]; }
    /// The channel right of this column.
    [[nodiscard]] int channel(const std::vector<Block>& all) const
    {
        return all[blocks[0]].column - (sides[0] == kLeft ? 1 : 0);
    }
};

struct Placed
{
    std::vector<Block> blocks;
    std::vector<std::vector<size_t>> columns; ///< their blocks from the top
    std::vector<Run> runs; ///< those of one link follow one another, from the left
    int crossings = 0; ///< of runs between columns
};

inline constexpr double kRowPitch_mm = 5, kBlockTitle_mm = 5, kBlockGap_mm = 3, kBlockEdge_mm = 3;

/// How high a block is from its top, its title included, and how far below it a row stands.
[[nodiscard]] double heightOf(const Block& block);
[[nodiscard]] double offsetOf(const Block& block, size_t row);

[[nodiscard]] Placed place(const job::Job& job, const Sheet& sheet);

} // namespace vicegrip::diagram
