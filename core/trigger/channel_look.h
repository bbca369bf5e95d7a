#pragma once

#include "core/trigger/report.h"

#include <optional>
#include <span>
#include <vector>

namespace vicegrip::trigger {

/// How far a signal keeps from where an edge would be seen that is none.
struct NoiseMargin
{
    double worst_v = 0; ///< the farthest it went from its level towards the other, edges left out
    double allowed_v = 0; ///< from there on it would have been an edge
};

/// All that one channel of a capture says.
struct Look
{
    bool coil = false;
    Levels levels;
    std::vector<Edge> edges;
    Report report; ///< by the kind of edge that counts
    std::optional<Report> other; ///< by the other kind; none: that one recognises nothing
    /// How far the teeth after its gaps are off by either kind, with how they scatter, in degrees of the crank: what
    /// the wrong edge smears. None where the wheel has no gap, or nothing knows where it stands.
    std::optional<double> smear_deg, otherSmear_deg;
    std::optional<NoiseMargin> noise;
    std::optional<OnceATurn> once; ///< of a coil's peaks in volts, of a Hall sensor's teeth in degrees of the crank
    std::optional<double> runOut_m; ///< from that, by what is usual of such sensors
    std::optional<double> leastPeak_v; ///< of a coil: its lowest tooth
    double leastPeak_rpm = 0; ///< how fast it turned then
};

/// What a sensor's signal becomes with the gap (typical; trigger/sensed.h).
struct Falls
{
    double decay_m = 0.7e-3; ///< a coil's volts fall to an e-th
    double narrows_deg_m = 400; ///< a Hall sensor's tooth, at each edge
};

/// Errors (Range): the signal stands still, or is no coil's; as `reportOn`.
[[nodiscard]] Result<Look> lookAt(std::span<const float> volts, double step_s, const Known& known, bool coil,
                                  const Falls& falls = {});

/// The same of a signal that is known by its changes: it has no noise and no peaks.
[[nodiscard]] Result<Look> lookAtChanges(std::span<const double> changes_s, std::span<const float> volts,
                                         const Known& known, const Falls& falls = {});

/// Whether samples look like a coil's: they go above and below zero, and are mostly on their way from one to the other.
[[nodiscard]] bool looksLikeCoil(std::span<const float> volts);

/// The first tooth after each gap of a wheel, by number.
[[nodiscard]] std::vector<std::size_t> afterGaps(const Wheel& wheel, bool trailing);

/// Whether no step differs from the usual one, but for those over gaps.
[[nodiscard]] bool isEven(const Wheel& wheel, bool trailing);

/// Whether teeth are so many and so alike that one of them, or a sine round the turn, can be told from what
/// compressions do to the speed: even, and no step but those over gaps is over 12 degrees of the crank.
[[nodiscard]] bool isFine(const Wheel& wheel);

/// Whether the other kind of edge is by far the better one.
[[nodiscard]] bool isEdgeWrong(const Look& look);

} // namespace vicegrip::trigger
