#pragma once

#include "app/desk/desk.h"

namespace vicegrip::app {

class TypedField;

/// The circuit that is selected, as the job has it now, and its sensor; null when there is none. For the statement at
/// hand: the next edit makes another job.
[[nodiscard]] const job::Circuit* selectedCircuit(const Desk& desk);
[[nodiscard]] const parts::Part* selectedSensor(const Desk& desk);

/// A field for a value of the selected circuit, in its sensor's unit; letters are left to the stage while it is empty.
[[nodiscard]] TypedField* valueField(const Desk& desk, const QString& name, const char* objectName);

/// A difference in a unit, such as a step or a tolerance: it has the unit of the value but not its zero.
[[nodiscard]] Result<double> differenceTyped(const QString& typed, const QString& unit);

} // namespace vicegrip::app
