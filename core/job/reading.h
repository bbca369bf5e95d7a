#pragma once

#include "core/base/fields.h"
#include "core/units/units.h"

#include <limits>
#include <optional>
#include <string>
#include <string_view>

/// What an instrument shows, from its answer to the proof in the file.
namespace vicegrip::job {

enum class Condition {
    BatteryOff, ///< battery lead off, ECU plugs off: Ohm
    KeyOn, ///< key on, engine off: V
    Cranking, ///< the starter turns the engine, and the battery sags under it: V
    Running ///< the engine runs, the battery is charged, and what the ECU drives is at work: V
};

/// "key on", as people say it.
[[nodiscard]] std::string conditionWords(Condition condition);

/// Whether anything has power: volts are measured then, else Ohm.
[[nodiscard]] constexpr bool isLive(Condition condition)
{
    return condition != Condition::BatteryOff;
}

/// Whether the engine turns: loads may draw, and sensors read whatever it makes them.
[[nodiscard]] constexpr bool engineTurns(Condition condition)
{
    return condition == Condition::Cranking || condition == Condition::Running;
}

/// Hand meters show overload in Ohm from 20 to 60 MOhm on (common practice, no source): beyond this, nothing conducts.
inline constexpr double kMost_ohm = 20e6;

/// A quantity; or open, where an ohmmeter finds nothing that conducts; or an overload, where the instrument's range
/// ends before what is there. It bears what it measures and the condition it was taken under, so that volts are never
/// shown as Ohm, nor a reading of one condition proved under the other.
///
///     Reading::of(2.52, Dimension::Voltage, Condition::KeyOn)               2.52 V
///     Reading::beyond(Dimension::Resistance, Condition::BatteryOff)         open
///     Reading::beyond(Dimension::Voltage, Condition::KeyOn)                 an overload: no bounds allow it
class Reading
{
  public:
    Reading() = default;

    static Reading of(double si, units::Dimension dimension, Condition condition) { return {si, dimension, condition}; }

    /// Beyond the instrument's range: open in Ohm, an overload elsewhere.
    static Reading beyond(units::Dimension dimension, Condition condition)
    {
        return {std::nullopt, dimension, condition};
    }

    [[nodiscard]] bool isOpen() const { return !m_si && m_dimension == units::Dimension::Resistance; }
    [[nodiscard]] bool isOverload() const { return !m_si && !isOpen(); }
    [[nodiscard]] const std::optional<double>& quantity() const { return m_si; } ///< SI
    [[nodiscard]] units::Dimension dimension() const { return m_dimension; }
    [[nodiscard]] Condition condition() const { return m_condition; }

    /// For comparing with bounds, SI: open is more than any resistance; no comparison holds for an overload, which
    /// does not say in which direction it lies.
    [[nodiscard]] double si() const
    {
        if (m_si)
            return *m_si;
        return isOpen() ? std::numeric_limits<double>::infinity() : std::numeric_limits<double>::quiet_NaN();
    }

    bool operator==(const Reading&) const = default;

  private:
    Reading(std::optional<double> si, units::Dimension dimension, Condition condition)
        : m_si(si), m_dimension(dimension), m_condition(condition)
    {
    }

    std::optional<double> m_si = 0;
    units::Dimension m_dimension = units::Dimension::Voltage;
    Condition m_condition = Condition::KeyOn;
};

/// A reading as it is shown: three decimals for volts; Ohm, kOhm or MOhm by size, or "open"; counts whole; other values
/// in `unit`, or in their everyday one where the unit does not measure them.
[[nodiscard]] std::string readingText(const Reading& reading, std::string_view unit);

/// The same as a screen shows it that knows nothing of what a person prefers, such as the ECU's: in `unit` itself;
/// empty where that is how it is shown anyway.
[[nodiscard]] std::string readingTextOnEcu(const Reading& reading, std::string_view unit);

} // namespace vicegrip::job

template <> struct vicegrip::fields::EnumNames<vicegrip::job::Condition>
{
    static constexpr std::pair<vicegrip::job::Condition, std::string_view> kNames[] = {
        {vicegrip::job::Condition::BatteryOff, "battery-off"},
        {vicegrip::job::Condition::KeyOn, "key-on"},
        {vicegrip::job::Condition::Cranking, "cranking"},
        {vicegrip::job::Condition::Running, "running"}};
};
