#pragma once

#include "core/job/job.h"
#include "core/log/log.h"

#include <optional>
#include <vector>

/// What is each column of a log? The circuit whose value it holds, as far as a job has it, and what it is to an engine.
///
///     const auto meant = log_columns::meaningsOf(log, &job);
///     meant[3].quantity            // Quantity::Manifold
///     meant[3].circuit             // "map"
///     meant[3].toSi(251.5)         // 251500: the column is in kPa
namespace vicegrip::log_columns {

/// What rules ask for. `Other` is any number that nothing is known of.
enum class Quantity {
    Other,
    EngineSpeed,
    Throttle,
    SecondThrottle,
    Pedal,
    SecondPedal,
    Manifold,
    Charge,
    AskedPressure, ///< what the boost control asks for
    Mixture,
    AskedMixture,
    Correction, ///< of closed loop: a share that is added, or a factor about 1
    Gear,
    RoadSpeed,
    Battery,
    Supply, ///< of the sensors
    IntakeAir,
    Coolant,
    OilTemp,
    GearboxTemp,
    OilPressure,
    Ethanol,
    Consumer ///< something that is on or off
};

struct Meaning
{
    Quantity quantity = Quantity::Other;
    std::optional<job::CircuitId> circuit; ///< whose input it is
    job::Tells tells = job::Tells::Value; ///< of the circuit
    units::Dimension measures = units::Dimension::Ratio;
    double scale = 1, offset = 0; ///< SI = value * scale + offset
    bool gauge = false; ///< a pressure above the air outside, which the offset holds

    [[nodiscard]] double toSi(double value) const { return value * scale + offset; }
    [[nodiscard]] double fromSi(double si) const { return (si - offset) / scale; }
};

/// Of each column. Circuits are matched by words and units as the signals of a stream are (stream::Matcher); what is
/// asked for, corrected or switched is no circuit. A pressure without a zero is taken as above the air outside where it
/// was below a tenth of it; what is asked for counts from where the reading of the same unit does. Without a job, words
/// alone tell.
[[nodiscard]] std::vector<Meaning> meaningsOf(const log::Log& log, const job::Job* job);

/// The first column of this quantity; none when there is none.
[[nodiscard]] std::optional<std::size_t> columnOf(const std::vector<Meaning>& meanings, Quantity quantity);

/// A value of the column as people read it: "251.5 kPa abs", "6,500 rpm".
[[nodiscard]] std::string valueText(const log::Column& column, const Meaning& meaning, double value);
/// A difference of two pressures, Pa: "1.2 kPa".
[[nodiscard]] std::string pressureDifferenceText(double pa);
/// A difference of two values.
[[nodiscard]] std::string differenceText(const log::Column& column, const Meaning& meaning, double difference);

} // namespace vicegrip::log_columns
