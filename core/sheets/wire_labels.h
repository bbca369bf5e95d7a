#pragma once

#include "core/materials/cut_list.h"
#include "core/sheets/paper.h"

#include <optional>
#include <vector>

/// Labels for both ends of every wire.
namespace vicegrip::sheets {

enum class LabelForm {
    Flag, ///< folded round the wire and stuck to itself; both halves say the same
    Wrap ///< wound round the wire, read along it; said over and over, so that it is read from every side
};

/// A sheet of labels by measure. Without margins it is plain paper: as many as fit, with lines to cut along.
struct LabelStock
{
    LabelForm form = LabelForm::Flag;
    Size paper = kA4;
    Size label{50, 9};
    Size gap{0, 0}; ///< between neighbours
    std::optional<Size> margin = std::nullopt; ///< from the paper's edges to the first label; the same at the far ones
    int used = 0; ///< so many are gone from the first sheet
    bool operator==(const LabelStock&) const = default;
};

/// How many labels a sheet has, across and down. Error (Range): not one fits.
struct Grid
{
    int across = 0, down = 0;
    double left_mm = 0, top_mm = 0;
};
[[nodiscard]] Result<Grid> gridOf(const LabelStock& stock);

/// Letters below this are not read at arm's length (typical).
inline constexpr double kLeastType_mm = 1.5;

/// A wire whose ends a label of this stock cannot name.
struct TooSmall
{
    job::WireId wire;
    Size needed; ///< of a label that can, in halves of a mm
};

struct Labels
{
    std::vector<drawn::Figure> pages;
    int count = 0; ///< of labels
    std::vector<TooSmall> tooSmallFor; ///< wires that have none on these pages
};

/// Two labels for each wire in the order it is cut, its first end first: the wire with its colour, the place this end
/// goes to, the place the other does. "wire w12" names what belongs to one. Error (Range): no label fits on the paper.
[[nodiscard]] Result<Labels> labelSheets(const job::Job& job, const std::vector<materials::Cut>& cuts,
                                         const LabelStock& stock);

/// Which wires have no label there and what size would do, in one sentence; empty: all have.
[[nodiscard]] std::string tooSmallText(const Labels& labels);

} // namespace vicegrip::sheets
