#include "app/store/whole_file.h"

#include "core/base/write_file.h"

#include <QFile>

namespace vicegrip::app {

Result<void> writeWhole(const QString& path, const QByteArray& text)
{
    return writeFile(QFile::encodeName(path).toStdString(), {text.constData(), static_cast<size_t>(text.size())});
}

} // namespace vicegrip::app
