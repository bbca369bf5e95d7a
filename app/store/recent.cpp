#include "app/store/recent.h"

#include <QDir>
#include <QFileInfo>
#include <QObject>

#include <algorithm>

namespace vicegrip::app {
namespace {

QString textOf(const nlohmann::json& object, const char* member)
{
    const auto it = object.find(member);
    return it != object.end() && it->is_string() ? QString::fromStdString(it->get<std::string>()) : QString();
}

} // namespace

Recent::Recent() : m_file(QStringLiteral("recent.json"), 1, QObject::tr("The list of recent jobs"))
{
    read();
}

void Recent::read()
{
    m_entries.clear();
    const nlohmann::json members = m_file.read();
    for (const nlohmann::json& job : members.value("jobs", nlohmann::json())) {
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
    nlohmann::json jobs = nlohmann::json::array();
    for (const Entry& e : m_entries)
        jobs.push_back({{"path", e.path.toStdString()},
                        {"name", e.name.toStdString()},
                        {"title", e.title.toStdString()},
                        {"opened", e.when.toString(Qt::ISODate).toStdString()}});
    m_file.write({{"jobs", std::move(jobs)}});
}

} // namespace vicegrip::app
