#include "app/store/recent.h"

#include "app/store/whole_file.h"
#include "core/base/document.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QObject>
#include <QStandardPaths>

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr int kVersion = 1;
constexpr size_t kLargest = 1U << 20U;

QString textOf(const nlohmann::json& object, const char* member)
{
    const auto it = object.find(member);
    return it != object.end() && it->is_string() ? QString::fromStdString(it->get<std::string>()) : QString();
}

/// A name the file can have beside itself that nothing has yet.
QString asideName(const QString& file)
{
    QString aside = file + QStringLiteral(".damaged");
    for (int n = 2; QFile::exists(aside); ++n)
        aside = QStringLiteral("%1.damaged-%2").arg(file).arg(n);
    return aside;
}

} // namespace

QString Recent::file()
{
    return QDir(QStandardPaths::writableLocation(QStandardPaths::GenericConfigLocation))
        .filePath(QStringLiteral("vicegrip/recent.json"));
}

Recent::Recent()
{
    read();
}

void Recent::read()
{
    m_entries.clear();
    if (!QFile::exists(file()))
        return;
    const auto read = document::readFile(file().toStdString(), kLargest).and_then([](const std::string& text) {
        return document::parse(text);
    });
    const auto member = [&](const char* name) {
        const auto none = nlohmann::json();
        return read && read->is_object() ? read->value(name, none) : none;
    };
    const nlohmann::json version = member("version"), jobs = member("jobs");
    if (version.is_number_integer() && version.get<int>() > kVersion) {
        m_keeps = false;
        m_complaint = QObject::tr("The list of recent jobs was written by a newer version: it is left as it is.");
        return;
    }
    if (!version.is_number_integer() || !jobs.is_array()) {
        const QString aside = asideName(file());
        m_keeps = QFile::rename(file(), aside);
        m_complaint = QObject::tr("The list of recent jobs could not be understood. It was set aside as %1.")
                          .arg(QDir::toNativeSeparators(aside));
        return;
    }
    for (const nlohmann::json& job : jobs) {
        if (!job.is_object() || m_entries.size() == kMost)
            continue;
        Entry entry{textOf(job, "path"), textOf(job, "name"), textOf(job, "title"),
                    QDateTime::fromString(textOf(job, "opened"), Qt::ISODate)};
        if (QDir::isAbsolutePath(entry.path))
            m_entries.push_back(std::move(entry));
    }
}

void Recent::add(Entry entry)
{
    read(); // another window may have opened something since
    entry.path = QFileInfo(entry.path).absoluteFilePath();
    std::erase_if(m_entries, [&](const Entry& e) { return e.path == entry.path; });
    m_entries.insert(m_entries.begin(), std::move(entry));
    if (m_entries.size() > kMost)
        m_entries.resize(kMost);
    write();
}

void Recent::forget(const QString& path)
{
    read();
    std::erase_if(m_entries, [&](const Entry& e) { return e.path == path; });
    write();
}

void Recent::write() const
{
    if (!m_keeps)
        return;
    nlohmann::json jobs = nlohmann::json::array();
    for (const Entry& e : m_entries)
        jobs.push_back({{"path", e.path.toStdString()},
                        {"name", e.name.toStdString()},
                        {"title", e.title.toStdString()},
                        {"opened", e.when.toString(Qt::ISODate).toStdString()}});
    QDir().mkpath(QFileInfo(file()).path());
    const nlohmann::json whole = {{"version", kVersion}, {"jobs", std::move(jobs)}};
    (void)writeWhole(
        file(), QByteArray::fromStdString(whole.dump(1, ' ', false, nlohmann::json::error_handler_t::replace) + "\n"));
}

} // namespace vicegrip::app
