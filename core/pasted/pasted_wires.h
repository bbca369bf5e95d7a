#pragma once

#include "core/base/result.h"
#include "core/job/job.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

/// Wires from a list that somebody has: a spreadsheet, a mail, a maker's table typed off.
///
///     From    To    Colour    Area mm2    Length cm
///     CLT 1   A7    bu/wh     0,5         160
namespace vicegrip::pasted {

struct PastedWire
{
    int line = 0; ///< of the text, from 1
    std::string text; ///< as it was pasted
    std::optional<job::Wire> wire; ///< what it becomes; none: it is left out, and `trouble` says why
    std::string trouble; ///< or what was assumed
};

/// Reads a list against the places of a job. Columns: from, to, colour, area, length, in this order or as a first line
/// names them; bare numbers are mm² and m, or what the heading says. A line that cannot be a wire says why and the rest
/// is kept: a place that is not there, both ends in one place, a length of zero, a wire that is drawn already. Errors:
/// those of readList.
[[nodiscard]] Result<std::vector<PastedWire>> pasteWires(const job::Job& job, std::string_view text);

/// Draws the wires that were understood; how many there were.
int drawPasted(job::Job& job, const std::vector<PastedWire>& pasted);

} // namespace vicegrip::pasted
