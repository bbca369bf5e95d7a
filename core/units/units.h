#pragma once

#include "core/base/result.h"

#include <string>
#include <string_view>

/// Quantities as people type them, and back. The core counts in SI; text meets numbers only here.
///
///     units::parse("2k49", Dimension::Resistance)              -> 2490 (ohm)
///     units::parse("185 °F", Dimension::Temperature)           -> 358.15 (K)
///     units::parse("2.52", Dimension::Voltage, "V")            -> 2.52: the field's own unit stands in
///     units::parse("20 psig", Dimension::AbsolutePressure)     -> error: that is a gauge pressure
///     units::parse("3 ft 4.5 in", Dimension::Length)           -> 1.0287 (m)
///     units::format(358.15, Dimension::Temperature, "°C", 1)   -> "85.0 °C", or "185.0 °F" where people read that
///
/// Nothing depends on the locale: the decimal mark is a point, or a comma where it can be nothing else ("1,83").
/// Factors are exact by definition (NIST SP 811, appendix B.8; the pound-force, the inch and the conventional
/// millimetre of mercury are defined numbers).
///
/// In this room: dimensions.h (the table of units and ranges), shown.h (the units a person reads in), document_range.h
/// (the ranges held to every number of a file).
namespace vicegrip::units {

/// What a number measures, and so which units fit. SI unit in brackets.
enum class Dimension {
    Resistance, ///< Ohm
    Voltage, ///< V
    Current, ///< A
    Length, ///< m
    Area, ///< m²
    Temperature, ///< K
    TemperatureDifference, ///< K
    Frequency, ///< Hz
    AbsolutePressure, ///< Pa above vacuum
    GaugePressure, ///< Pa above the barometer
    Ratio, ///< 1
    Speed, ///< m/s
    MassFlow, ///< kg/s
    Volume, ///< m³
    Lambda, ///< 1, air-fuel ratio over stoichiometric
    Counts, ///< 1, converter counts
};

/// What a quantity of this trade can be, SI: a voltage up to an ignition's, a temperature up to a flame's, a conductor
/// from a hair to a battery lead. What lies outside is a slip of the hand or a broken file.
struct Range
{
    double low = 0, high = 0;
    double least = 0; ///< magnitude, where it is not 0: less is a number that only breaks arithmetic
};

/// The number itself, or a Range error that says the range and the number in `unit`.
[[nodiscard]] Result<double> inRange(double si, Dimension dimension, std::string_view unit);

/// Reads one quantity, and refuses one that is out of its range. `assumedUnit` is used when the text has none; without
/// it a bare number is an error (except for Ratio, Lambda and Counts). On failure the sentence says what was expected,
/// with an example.
[[nodiscard]] Result<double> parse(std::string_view text, Dimension dimension, std::string_view assumedUnit = {});

/// `si` as a person reads it where the job says `unit` (shown.h), with as many decimals as resolve what `decimals` of
/// `unit` do: "2.520 V", "3.20 bar gauge", "46.4 psi gauge". A pressure says its zero; a conductor
/// is called by its size, whatever the decimals: "0.75 mm²", "18 AWG". A unit that does not fit the dimension falls
/// back to SI. Values that are not finite become "–".
[[nodiscard]] std::string format(double si, Dimension dimension, std::string_view unit, int decimals);

/// The same in `unit` and no other: what an ECU shows, what a file says.
[[nodiscard]] std::string formatIn(double si, Dimension dimension, std::string_view unit, int decimals);

/// Two ends as `format` writes them, with what both say said once: "0.0 to 300.0 kPa abs", "900 Ω to 2.5 kΩ".
[[nodiscard]] std::string rangeText(std::string low, const std::string& high);
[[nodiscard]] std::string formatRange(double low, double high, Dimension dimension, std::string_view unit,
                                      int decimals);

/// The number alone, as `format` writes it.
[[nodiscard]] std::string formatNumber(double value, int decimals);

/// Every digit that tells the number apart (shortest round trip), in the dimension's everyday unit: for fingerprints.
[[nodiscard]] std::string formatExact(double si, Dimension dimension);

/// A resistance as it is marked (IEC 60062): 2490 -> "2k49", 4.7 -> "4R7", 1e6 -> "1M".
[[nodiscard]] std::string formatOhms(double ohms);

/// A difference of two values of the dimension: it has the unit's factor and not its offset.
[[nodiscard]] double differenceToUnit(double si, Dimension dimension, std::string_view unit);
[[nodiscard]] double differenceFromUnit(double value, Dimension dimension, std::string_view unit);

/// Converts between SI and a unit of the dimension. Unknown units are taken as SI.
[[nodiscard]] double toUnit(double si, Dimension dimension, std::string_view unit);
[[nodiscard]] double fromUnit(double value, Dimension dimension, std::string_view unit);

/// Whether `unit` names a unit of this dimension.
[[nodiscard]] bool measures(std::string_view unit, Dimension dimension);

/// The unit a person expects first: "V", "kPa", "°C".
[[nodiscard]] std::string_view everydayUnit(Dimension dimension);

/// The dimension's name in a file ("absolute-pressure") and back.
[[nodiscard]] std::string_view name(Dimension dimension);
[[nodiscard]] Result<Dimension> dimensionFromName(std::string_view name);

/// Conductor area in m² of an American wire gauge size (ASTM B258: d = 0.127 mm * 92^((36 - n) / 39)). 1/0 is n = 0,
/// 2/0 is -1, and so on.
[[nodiscard]] double areaOfGauge(double gauge);

/// Shortest decimal text that reads back to the same double.
[[nodiscard]] std::string shortest(double value);

} // namespace vicegrip::units
