#pragma once

#include "core/base/result.h"

#include <QByteArray>
#include <QString>

namespace vicegrip::app {

/// As core/base/write_file.h has it.
[[nodiscard]] Result<void> writeWhole(const QString& path, const QByteArray& text);

} // namespace vicegrip::app
