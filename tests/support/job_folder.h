#pragma once

#include "tests/support/petrel.h"

#include <QFile>
#include <QTemporaryDir>

namespace vicegrip::test {

/// A folder of its own with the demo job in it.
class Folder
{
  public:
    Folder() { QFile::copy(QString::fromStdString(petrelPath()), path()); }
    [[nodiscard]] QString path() const { return m_dir.filePath(QStringLiteral("petrel.vicegrip")); }
    [[nodiscard]] QString dir() const { return m_dir.path(); }

  private:
    QTemporaryDir m_dir;
};

} // namespace vicegrip::test
