#pragma once

#include "core/job/job.h"
#include "core/proof/expected.h"

#include <QString>

/// Words about a circuit that several views use.
namespace vicegrip::app {

/// "thermistor on 2k49 pull-up", "0.5-4.5 V of 5 V", "potentiometer".
[[nodiscard]] QString signalText(const job::Job& job, const job::Circuit& circuit);

/// Who hangs on the circuit's bus, in order: "ECU (120 Ω), 1.5 m, Display: 120 Ω across". Empty for what is on none.
[[nodiscard]] QString busText(const job::Job& job, const job::Circuit& circuit);

/// "key on, 22.0 °C, 98.4 kPa", "battery off, 22.0 °C", "cranking, 22.0 °C", "running, 14.2 V at the battery".
[[nodiscard]] QString conditionText(const job::Job& job, job::Condition condition);

/// Colour code of the wire between two places; empty when none joins them directly.
[[nodiscard]] QString wireBetween(const job::Job& job, const job::PointRef& a, const job::PointRef& b);

/// Colour code of a wire that ends here, for the probe to look for; empty when there is none.
[[nodiscard]] QString wireAt(const job::Job& job, const job::PointRef& point);

/// The unit the sensor's values are shown in, and the same with a pressure's zero: "psi", "psi gauge".
[[nodiscard]] QString shownUnit(const parts::Part& sensor);
[[nodiscard]] QString shownHeading(const parts::Part& sensor);

/// "± 1.9 °C": an error of a sensor's value, from SI.
[[nodiscard]] QString errorText(const parts::Part& sensor, double si);

/// Index of the circuit's input in the ECU's list, -1 when it has none.
[[nodiscard]] int inputIndex(const job::Job& job, const job::CircuitId& circuit);

/// What must be read at a place, "0.09 / 4.99 V" where it switches; a dash where nothing is promised.
[[nodiscard]] QString dueOrDash(const proof::Expectation& e);

/// "2.520 V", "43.0 %".
[[nodiscard]] QString voltsText(double v, int decimals = 3);
[[nodiscard]] QString percentText(double share, int decimals);

} // namespace vicegrip::app
