#pragma once

#include <span>
#include <vector>

/// Where the points of a table go so that straight lines between them miss a curve by as little as can be.
namespace vicegrip::scaling {

/// A place of the curve, by rising x.
/// Curves of no more samples are placed exactly: beyond it the exact answer would be noticed while typing.
inline constexpr size_t kExactSamples = 512;

struct Sample
{
    double x = 0, y = 0;
    double rounding = 0; ///< what a table would hold there, less y
    bool breakpoint = true; ///< it may be one; else it is only looked at
};

/// Indices of `count` breakpoints on the curve whose straight lines, flat beyond the outermost, have the least worst
/// error, the rounding at the breakpoints included. Exact for up to 512 samples (ways of so many chords within a
/// tolerance by dynamic programming, after Imai and Iri, "Computational-geometric methods for polygonal approximations
/// of a curve", Computer Vision, Graphics and Image Processing 36, 1986; the tolerance halved down to). With more, no
/// worse than taking the farthest chord each time over all samples, nor than the exact answer over every n-th. Needs 2
/// <= count <= the samples that may be breakpoints. Errors beyond the outermost breakpoints weigh 1 / `endShare`: with
/// 0 the first and the last sample are breakpoints; with 1/2, what suits values beside the curve, which halve what a
/// chord leaves but not what a flat end does.
[[nodiscard]] std::vector<size_t> bestBreakpoints(std::span<const Sample> curve, size_t count, double endShare = 1);

/// The largest distance in y between the curve and straight lines through these breakpoints, as rounded, flat beyond
/// them.
[[nodiscard]] double worstOff(std::span<const Sample> curve, const std::vector<size_t>& breakpoints);

/// The values at these breakpoints that make the worst error least, flat beyond them, beside the curve where that
/// helps, and never turning back against its direction: a linear program over a few samples, to which those are added
/// where its answer is worst until that changes nothing. On a smooth bend it is half of what breakpoints on the curve
/// leave.
[[nodiscard]] std::vector<double> bestValues(std::span<const Sample> curve, const std::vector<size_t>& breakpoints);

} // namespace vicegrip::scaling
