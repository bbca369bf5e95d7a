#pragma once

#include "core/scaling/table.h"

/// An input's scaling for an ECU that takes a formula in place of points.
namespace vicegrip::scaling {

/// The formula that `spec.takes` asks for, through the loaded circuit: a polynomial of least worst error, or
/// Steinhart-Hart over the resistances that the ECU works out of its readings. The table's points are places along it.
/// Errors (Range): the sensor is no thermistor, or has no pull-up; those of polynomialOf and fit::fitThermistor.
[[nodiscard]] Result<Table> makeFormula(const Transfer& transfer, const parts::Part& sensor,
                                        const job::ScalingSpec& spec);

} // namespace vicegrip::scaling
