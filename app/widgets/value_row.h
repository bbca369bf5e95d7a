#pragma once

#include "core/base/result.h"
#include "core/units/units.h"

#include <QString>

#include <functional>

class QGridLayout;
class QWidget;

namespace vicegrip::app {

class TypedField;

using ReadsValue = std::function<Result<double>(const QString& typed)>;

/// Reads a value of this dimension between two bounds; the error says them.
[[nodiscard]] ReadsValue readsValue(units::Dimension dimension, const char* unit, double least, double most);

/// Reads a number that may have "rpm" or degrees behind it; `unit` is what the error calls it.
[[nodiscard]] ReadsValue readsPlain(double least, double most, const QString& unit);

/// Says a value in a unit.
[[nodiscard]] std::function<QString(double)> saysValue(units::Dimension dimension, const char* unit, int decimals);

/// A caption and a field for a value in the next row of a grid: `take` gets what was entered. Its letters are left to
/// the stage's keys while it is empty.
TypedField* addValueRow(QGridLayout* grid, const QString& name, const char* objectName, const ReadsValue& read,
                        const std::function<QString(double)>& say, const std::function<void(double)>& take);

/// The same for a field that is there already.
void addCaptioned(QGridLayout* grid, const QString& name, const char* objectName, TypedField* field);

} // namespace vicegrip::app
