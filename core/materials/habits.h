#pragma once

/// How a workshop cuts and buys.
namespace vicegrip::materials {

/// What stands here is what a workshop may do that has not said otherwise (typical).
struct Habits
{
    double slack = 0.03; ///< of the drawn length: a harness does not lie straight
    double serviceLoop_m = 0.08; ///< at a plug, so that it can be pinned again
    double stagger_m = 0.04; ///< from splice to splice, so that their bulges do not pile up
    double spareWire_m = 1; ///< of each wire, for what is cut wrong
    int spareForEach = 3; ///< one terminal more for each so many (common practice: a small kit of three); 0: none

    [[nodiscard]] bool operator==(const Habits&) const = default;
};

} // namespace vicegrip::materials
