#pragma once

#include "core/scaling/table.h"

/// How wrong a table or a formula is, between its points as well as at them.
namespace vicegrip::scaling {

/// Sets Table::worstError and where it lies: the largest |table - truth| over the whole range. The range is cut where
/// either side is bent (the table's points, the sensor's kinks, where the input's full scale ends); what lies between
/// is smooth, is looked at in 16 places, and every lobe that is nearly the highest is climbed.
void findWorst(Table& table, const Transfer& transfer, const job::ScalingSpec& spec);

/// The same between two values only, as a number.
[[nodiscard]] double worstBetween(const Table& table, const Transfer& transfer, const job::ScalingSpec& spec,
                                  double low, double high);

} // namespace vicegrip::scaling
