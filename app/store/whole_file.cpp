#include "app/store/whole_file.h"

#include <QCoreApplication>
#include <QFile>
#include <QFileInfo>

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <fcntl.h>
#include <unistd.h>

namespace vicegrip::app {
namespace {

/// A new name in a folder is on the disk when the folder is.
void syncFolder(const QString& folder)
{
    const int fd = open(QFile::encodeName(folder).constData(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (fd < 0)
        return;
    fsync(fd); // where the system cannot, the file itself is there all the same
    close(fd);
}

} // namespace

Result<void> writeWhole(const QString& path, const QByteArray& text)
{
    const QFileInfo named(path);
    const QFileInfo info(named.exists() ? named.canonicalFilePath()
                                        : path); // what a link leads to is written, not the link
    QFile file(info.path() + QLatin1String("/.") + info.fileName() + QLatin1String(".saving"));
    const auto refuse = [&](const QString& why) {
        file.close();
        file.remove();
        return fail(ErrorCode::Io, QCoreApplication::translate("JobFile", "not saved: %1").arg(why).toStdString(),
                    {path.toStdString(), {}, 0, 0});
    };
    if (info.exists() && !info.isWritable())
        return refuse(QCoreApplication::translate("JobFile", "the file is write-protected"));
    file.remove(); // what a kill left; and never through a link that somebody laid there
    if (!file.open(QIODevice::WriteOnly | QIODevice::NewOnly | QIODevice::Unbuffered))
        return refuse(file.errorString());
    if (info.exists())
        file.setPermissions(info.permissions());
    if (file.write(text) != text.size())
        return refuse(file.errorString());
    while (fsync(file.handle()) != 0)
        if (errno != EINTR)
            return refuse(QString::fromLocal8Bit(std::strerror(errno))); // NOLINT(concurrency-mt-unsafe)
    file.close();
    if (std::rename(QFile::encodeName(file.fileName()).constData(), QFile::encodeName(info.filePath()).constData()) !=
        0)
        return refuse(QString::fromLocal8Bit(std::strerror(errno))); // NOLINT(concurrency-mt-unsafe)
    syncFolder(info.path());
    return {};
}

} // namespace vicegrip::app
