#pragma once

#include "app/widgets/typed_field.h"

namespace vicegrip::app {

/// A field for the name of a file that is there: a path, or nothing.
[[nodiscard]] TypedField* fileField(const QString& name, const char* objectName);

} // namespace vicegrip::app
