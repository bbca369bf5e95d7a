#include "app/store/link_profiles.h"

#include "app/store/whole_file.h"
#include "core/dbc/dbc.h"

#include <QCryptographicHash>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QObject>

#include <algorithm>

namespace vicegrip::app {
namespace {

constexpr size_t kMostProfiles = 200, kMostTold = 5000;

std::string wordIn(const nlohmann::json& object, const char* member)
{
    const auto it = object.find(member);
    return it != object.end() && it->is_string() ? it->get<std::string>() : std::string();
}

job::Told toldFrom(const nlohmann::json& json)
{
    job::Told told;
    for (const auto& [tells, name] : fields::EnumNames<job::Tells>::kNames)
        if (name == wordIn(json, "tells"))
            told.tells = tells;
    told.message = wordIn(json, "message");
    told.signal = wordIn(json, "signal");
    told.unit = wordIn(json, "unit");
    return told;
}

nlohmann::json written(const job::Told& told)
{
    return {{"tells", std::string(fields::enumName(told.tells))},
            {"message", told.message},
            {"signal", told.signal},
            {"unit", told.unit}};
}

StreamProfile profileFrom(const nlohmann::json& json)
{
    const auto text = [&](const char* member) { return QString::fromStdString(wordIn(json, member)); };
    StreamProfile out{text("name"), text("plugin"), text("interface"), 0, text("database"), text("from"), {}};
    if (const auto rate = json.find("bit_rate"); rate != json.end() && rate->is_number_integer())
        out.bitRate = std::clamp(rate->get<int>(), 0, 10'000'000);
    size_t count = 0;
    const auto circuits = json.find("told");
    if (circuits != json.end() && circuits->is_object())
        for (const auto& [circuit, all] : circuits->items())
            for (const nlohmann::json& one : all)
                if (one.is_object() && ++count <= kMostTold)
                    out.told[circuit].push_back(toldFrom(one));
    return out;
}

} // namespace

LinkProfiles::LinkProfiles() : m_file(QStringLiteral("links.json"), 1, QObject::tr("The list of links"))
{
    read();
}

void LinkProfiles::read()
{
    m_streams.clear();
    m_meters.clear();
    const nlohmann::json members = m_file.read();
    for (const nlohmann::json& one : members.value("streams", nlohmann::json()))
        if (one.is_object() && m_streams.size() < kMostProfiles)
            if (StreamProfile profile = profileFrom(one); !profile.name.isEmpty() && stream(profile.name) == nullptr)
                m_streams.push_back(std::move(profile));
    for (const nlohmann::json& place : members.value("meters", nlohmann::json()))
        if (place.is_string() && m_meters.size() < kMostProfiles)
            m_meters.push_back(QString::fromStdString(place.get<std::string>()));
}

const StreamProfile* LinkProfiles::stream(const QString& name) const
{
    const auto found = std::ranges::find(m_streams, name, &StreamProfile::name);
    return found == m_streams.end() ? nullptr : &*found;
}

/// A name may hold what no file name can.
QString LinkProfiles::copyOf(const QString& name) const
{
    const QByteArray digest = QCryptographicHash::hash(name.toUtf8(), QCryptographicHash::Sha256).toHex().left(16);
    return QFileInfo(m_file.path()).dir().filePath(QStringLiteral("links/%1.dbc").arg(QString::fromLatin1(digest)));
}

Result<void> LinkProfiles::keep(StreamProfile profile)
{
    read(); // another window may have kept something since
    const QString copy = copyOf(profile.name);
    if (!profile.database.isEmpty() && profile.database != copy) {
        QFile from(profile.database);
        if (!from.open(QIODevice::ReadOnly) || from.size() > static_cast<qint64>(dbc::kMostText))
            return fail(ErrorCode::Io, QObject::tr("The database cannot be read.").toStdString());
        QDir().mkpath(QFileInfo(copy).path());
        if (auto kept = writeWhole(copy, from.readAll()); !kept)
            return kept;
        profile.database = copy;
    }
    const auto same = std::ranges::find(m_streams, profile.name, &StreamProfile::name);
    if (same == m_streams.end())
        m_streams.push_back(std::move(profile));
    else
        *same = std::move(profile);
    write();
    return {};
}

void LinkProfiles::forget(const QString& name)
{
    read();
    if (std::erase_if(m_streams, [&](const StreamProfile& p) { return p.name == name; }) > 0)
        QFile::remove(copyOf(name));
    write();
}

void LinkProfiles::keepMeter(const QString& place)
{
    forgetMeter(place);
    m_meters.insert(m_meters.begin(), place);
    write();
}

void LinkProfiles::forgetMeter(const QString& place)
{
    read();
    std::erase(m_meters, place);
    write();
}

void LinkProfiles::write() const
{
    nlohmann::json streams = nlohmann::json::array(), meters = nlohmann::json::array();
    for (const StreamProfile& p : m_streams) {
        nlohmann::json told = nlohmann::json::object();
        for (const auto& [circuit, all] : p.told)
            for (const job::Told& one : all)
                told[circuit].push_back(written(one));
        streams.push_back({{"name", p.name.toStdString()},
                           {"plugin", p.plugin.toStdString()},
                           {"interface", p.interface.toStdString()},
                           {"bit_rate", p.bitRate},
                           {"database", p.database.toStdString()},
                           {"from", p.from.toStdString()},
                           {"told", std::move(told)}});
    }
    for (const QString& place : m_meters)
        meters.push_back(place.toStdString());
    m_file.write({{"streams", std::move(streams)}, {"meters", std::move(meters)}});
}

} // namespace vicegrip::app
