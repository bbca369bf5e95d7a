#pragma once

#include "core/base/result.h"
#include "core/units/units.h"

#include <map>
#include <span>
#include <string>
#include <string_view>
#include <vector>

/// The units a person reads in. A job says each quantity in some unit, its own or its part's; whoever looks at it may
/// read another. What is shown follows `setShown`; what is kept, written or pasted never does.
///
///     setShown({System::US, {}})
///     format(2.0e5, Dimension::GaugePressure, "bar", 1)    -> "29.0 psi gauge"
///     parseShown("30", Dimension::GaugePressure, "bar")    -> 30 psi: the field showed psi
///     parse("30", Dimension::GaugePressure, "bar")         -> 30 bar, as a file means it
///
/// A system leaves its own units as they are: a sensor in bar stays in bar where people read metric.
namespace vicegrip::units {

enum class System { Metric, US };

/// One way to show a dimension.
struct Choice
{
    std::string_view name; ///< in preferences: "psi", "ft and in"
    System system;
    std::string_view unit; ///< that other units become
    std::span<const std::string_view> kept; ///< that stay as they are
};

/// What can be chosen for a dimension; empty where everybody reads the same.
[[nodiscard]] std::span<const Choice> choices(Dimension dimension);

/// The dimensions that can be chosen for, in the order people look for them.
[[nodiscard]] std::span<const Dimension> choosable();

/// A system for everything, and what is read otherwise: {AbsolutePressure, "inHg"}.
struct Shown
{
    System system = System::Metric;
    std::map<Dimension, std::string> own;

    [[nodiscard]] bool operator==(const Shown&) const = default;
};

/// For the whole process and every thread of it, from the next text on. Errors: a choice that its dimension has not,
/// with what it has; then nothing changes.
[[nodiscard]] Result<void> setShown(const Shown& shown);
[[nodiscard]] Shown shown();

/// Pounds of air a pound of the job's fuel burns with, for lambda shown as an air-fuel ratio.
void setStoichiometric(double ratio);
[[nodiscard]] double stoichiometricShown();

/// The unit a person reads where the job says `unit`: "psi" for "bar".
[[nodiscard]] std::string shownUnit(Dimension dimension, std::string_view unit);

/// The same with the zero of a pressure, for a heading: "psi gauge".
[[nodiscard]] std::string shownHeading(Dimension dimension, std::string_view unit);

/// A number and a difference in that unit, for axes and columns under such a heading.
[[nodiscard]] double toShown(double si, Dimension dimension, std::string_view unit);
[[nodiscard]] double differenceToShown(double si, Dimension dimension, std::string_view unit);
[[nodiscard]] double differenceFromShown(double value, Dimension dimension, std::string_view unit);

/// A difference of two values as a person reads it: "3.6 °F", with nothing said of a pressure's zero. Decimals are
/// those of `unit`; another unit gets as many as keep the resolution.
[[nodiscard]] std::string formatDifference(double si, Dimension dimension, std::string_view unit, int decimals);

/// Decimals of the shown unit that resolve what `decimals` of `unit` do.
[[nodiscard]] int shownDecimals(Dimension dimension, std::string_view unit, int decimals);

/// Reads what was typed where a number is shown: a bare one has the unit that stands there, a gauge or an air-fuel
/// ratio too ("18", "14.7"). Between feet and inches a bare one is refused. Errors as parse.
[[nodiscard]] Result<double> parseShown(std::string_view text, Dimension dimension, std::string_view unit);

/// What a bare number of a pasted list is in, where the list does not say: `unit`, as long as people read that; else
/// nothing, and the number is refused until its unit is written. What was copied from somewhere has whatever unit that
/// has.
[[nodiscard]] std::string_view pastedUnit(Dimension dimension, std::string_view unit);
[[nodiscard]] Result<double> parsePasted(std::string_view text, Dimension dimension, std::string_view unit);

} // namespace vicegrip::units
