#include "app/store/config_file.h"

#include "app/store/whole_file.h"
#include "core/base/document.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QObject>
#include <QStandardPaths>

namespace vicegrip::app {
namespace {

constexpr size_t kLargest = 1U << 20U;

/// A name beside the file that nothing has yet.
QString asideName(const QString& file)
{
    QString aside = file + QStringLiteral(".damaged");
    for (int n = 2; QFile::exists(aside); ++n)
        aside = QStringLiteral("%1.damaged-%2").arg(file).arg(n);
    return aside;
}

} // namespace

ConfigFile::ConfigFile(const QString& name, int version, QString what)
    : m_path(QDir(QStandardPaths::writableLocation(QStandardPaths::GenericConfigLocation))
                 .filePath(QStringLiteral("vicegrip/") + name)),
      m_what(std::move(what)),
      m_version(version)
{
}

nlohmann::json ConfigFile::read()
{
    if (!QFile::exists(m_path))
        return nlohmann::json::object();
    auto read = document::readFile(m_path.toStdString(), kLargest).and_then([](const std::string& text) {
        return document::parse(text);
    });
    const auto version = read && read->is_object() ? read->find("version") : nlohmann::json::iterator();
    const bool ours = read && read->is_object() && version != read->end() && version->is_number_integer();
    if (ours && version->get<int>() > m_version) {
        m_writes = false;
        m_complaint = QObject::tr("%1 was written by a newer version: it is left as it is.").arg(m_what);
        return nlohmann::json::object();
    }
    if (ours)
        return std::move(*read);
    const QString aside = asideName(m_path);
    m_writes = QFile::rename(m_path, aside);
    m_complaint =
        QObject::tr("%1 could not be understood. It was set aside as %2.").arg(m_what, QDir::toNativeSeparators(aside));
    return nlohmann::json::object();
}

void ConfigFile::write(nlohmann::json members) const
{
    if (!m_writes)
        return;
    members["version"] = m_version;
    QDir().mkpath(QFileInfo(m_path).path());
    const std::string text = members.dump(1, ' ', false, nlohmann::json::error_handler_t::replace) + "\n";
    (void)writeWhole(m_path, QByteArray::fromStdString(text));
}

} // namespace vicegrip::app
