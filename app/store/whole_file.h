#pragma once

#include "core/base/result.h"

#include <QByteArray>
#include <QString>

namespace vicegrip::app {

/// Writes text whole or not at all: under a hidden name beside the file, to the disk, then in its place. A kill leaves
/// at most that hidden file, which the next writing takes up. Errors (Io) carry the file's name.
[[nodiscard]] Result<void> writeWhole(const QString& path, const QByteArray& text);

} // namespace vicegrip::app
