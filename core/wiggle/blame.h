#pragma once

#include "core/wiggle/holds.h"
#include "core/wiggle/watch.h"

#include <optional>
#include <string>
#include <vector>

namespace vicegrip::wiggle {

/// Watched so long with hands at a place, what is loose there has let go (common practice, no source).
inline constexpr double kLongEnough_s = 3;

/// What one place has shown.
struct Weighed
{
    double share = 0; ///< how likely it is what lets go
    double seconds = 0; ///< watched with hands there
    int dropOuts = 0; ///< that began with hands there
    std::vector<double> may; ///< of `share`, by Hold::may
};

struct Verdict
{
    std::vector<Weighed> holds; ///< in their order
    double byItself = 0; ///< how likely it is that it lets go wherever hands are
    std::optional<size_t> hold; ///< what lets go, when that is as good as sure
    std::vector<faults::Loose> what; ///< and which wires there may be it, by their depth; the likeliest first
    std::optional<size_t> next; ///< where hands go next, or again; none: there is no need
    bool rest = false; ///< hands go off: only that tells whether it lets go by itself
    std::string says, todo; ///< sentences: what was heard; what hands do about what is named
};

/// Which place explains the drop-outs. Each place may be the one: drop-outs then come at one rate with hands there and
/// at another else (Poisson; the rates are not known, and are integrated out over gamma densities: the marginal
/// likelihood of counts, as textbooks of Bayesian statistics have it for this conjugate pair). Each wire says besides
/// how deep they may go: anywhere between steady and what the input reads while it is open, most of all there. None can
/// be named by fewer than three. The place `named` a moment ago stays so until it is clearly less likely: what the
/// screen says does not go away while a key is on its way.
[[nodiscard]] Verdict judge(const job::Job& job, const job::Circuit& circuit, const std::vector<Hold>& holds,
                            const Watch& watch, std::optional<size_t> named = {});

/// "wire w20 or w8 at Plug FP".
[[nodiscard]] std::string endsText(const job::Job& job, const std::vector<faults::Loose>& what);

/// The logarithm of the chance of `count` events in `seconds`, in whatever order, where their rate is as likely as a
/// gamma density of shape `a` and scale 1/`b` has it: a over b is its mean.
[[nodiscard]] double logMarginal(int count, double seconds, double a, double b);

} // namespace vicegrip::wiggle
