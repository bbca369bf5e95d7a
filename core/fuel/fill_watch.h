#pragma once

#include "core/fuel/blend.h"

#include <optional>
#include <span>
#include <string>

/// A fill as the sensor shows it, beside what was worked out of it before.
namespace vicegrip::fuel {

/// What the sensor showed, so many seconds after the engine idled on the fill.
struct Shown
{
    double at_s = 0;
    double content = 0; ///< share by volume
};

/// What is poured into what is there.
struct Pour
{
    Fill in, add;
};

struct Watched
{
    enum class State {
        Line, ///< the line still holds the old fuel
        OnItsWay,
        AsSaid, ///< it stands where the sum of both said
        Elsewhere, ///< it stands, and somewhere else
        Unmoved ///< the fill should have come long ago
    };
    State state = State::Line;
    double now = 0; ///< of the last five seconds
    double due = 0; ///< by the curve, now
    std::optional<double> added; ///< ethanol that what was poured in must have had; none: nothing can be said of it
    std::string sentence;
};

/// Two readings are the same within this, share by volume: what a sensor and two volumes read off a pump leave
/// (typical).
inline constexpr double kSameContent = 0.03;

/// `shown` in the order of time. Errors (Range): nothing was shown yet, or the fills cannot be mixed.
[[nodiscard]] Result<Watched> watchFill(std::span<const Shown> shown, const Settling& settling, const Pour& pour);

} // namespace vicegrip::fuel
