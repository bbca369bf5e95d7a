#include "bench/control.h"

#include "core/base/old_names.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>

#include <cmath>

namespace vicegrip::bench {
namespace {

job::PointRef pointOf(const QJsonValue& value)
{
    return job::PointRef::fromText(value.toString().toStdString());
}

Result<void> applyAll(Car& car, const QJsonObject& measurands)
{
    for (auto it = measurands.begin(); it != measurands.end(); ++it) {
        if (!it.value().isDouble())
            return fail(ErrorCode::Malformed, "a measurand must be a number");
        if (auto done = car.apply({it.key().toStdString()}, it.value().toDouble()); !done)
            return done;
    }
    return {};
}

Result<void> setCondition(Car& car, const QString& name)
{
    for (const auto& [condition, known] : fields::EnumNames<job::Condition>::kNames)
        if (name == QString::fromUtf8(known.data(), static_cast<qsizetype>(known.size())))
            return car.setCondition(condition);
    return fail(ErrorCode::Malformed, "a condition is \"battery-off\", \"key-on\", \"cranking\" or \"running\"");
}

QJsonObject renewed(const QJsonObject& request)
{
    QJsonObject out;
    for (auto it = request.begin(); it != request.end(); ++it) {
        const std::string name = it.key().toStdString();
        const std::string_view now = old_names::requestMember(name);
        out[QString::fromUtf8(now.data(), static_cast<qsizetype>(now.size()))] = it.value();
    }
    return out;
}

/// Which circuits' parts answered goes into the reply.
Result<void> click(Car& car, const QJsonValue& output, QJsonObject& reply)
{
    const auto answered = car.click({output.toString().toStdString()});
    if (!answered)
        return tl::make_unexpected(answered.error());
    QJsonArray heard;
    for (const job::CircuitId& id : *answered)
        heard.append(QString::fromStdString(id.value));
    reply[QLatin1String("heard")] = heard;
    return {};
}

std::set<std::string> textsOf(const QJsonValue& list)
{
    std::set<std::string> out;
    for (const QJsonValue& one : list.toArray())
        out.insert(one.toString().toStdString());
    return out;
}

Result<void> obey(Car& car, Drives& drives, const QJsonObject& request, QJsonObject& reply)
{
    bool understood = false;
    Result<void> done;
    const auto when = [&](const char* member, auto act) {
        if (!done || !request.contains(QLatin1String(member)))
            return;
        understood = true;
        done = act(request.value(QLatin1String(member)));
    };
    when("condition", [&](const QJsonValue& v) { return setCondition(car, v.toString()); });
    when("ambient_k", [&](const QJsonValue& v) { return car.setAmbient(v.toDouble()); });
    when("turned_deg", [&](const QJsonValue& v) { return car.turn(v.toDouble(std::nan(""))); });
    when("measurand", [&](const QJsonValue& v) { return applyAll(car, v.toObject()); });
    when("red", [&](const QJsonValue& v) {
        return car.putProbes(pointOf(v), pointOf(request.value(QLatin1String("black"))));
    });
    when("tips", [&](const QJsonValue& v) {
        constexpr qsizetype kMostChannels = 8;
        std::vector<electrics::Leads> channels;
        for (const QJsonValue& one : v.toArray())
            channels.push_back({pointOf(one.toArray().at(0)), pointOf(one.toArray().at(1))});
        return v.toArray().size() <= kMostChannels ? car.putTips(std::move(channels))
                                                   : fail(ErrorCode::Range, "a scope has at most eight channels");
    });
    when("mended", [&](const QJsonValue& v) {
        std::vector<faults::Subjects> mends;
        for (const QJsonValue& mend : v.toArray())
            mends.push_back(textsOf(mend));
        return car.mend(std::move(mends));
    });
    when("hands", [&](const QJsonValue& v) {
        car.hold(textsOf(v));
        return Result<void>{};
    });
    when("practice", [&](const QJsonValue& v) {
        return car.practise(QJsonDocument(v.toObject()).toJson(QJsonDocument::Compact).toStdString());
    });
    when("pour", [&](const QJsonValue& v) {
        const auto number = [&](const char* name) { return v.toObject().value(QLatin1String(name)).toDouble(-1); };
        return car.pour(number("onto_m3"), {number("volume_m3"), number("ethanol")});
    });
    when("program", [&](const QJsonValue&) {
        const engine::Commands& commands = car.engine().commands();
        reply[QLatin1String("idle_air")] = commands.idleAir;
        reply[QLatin1String("correction")] = commands.correction;
        return car.runs() ? Result<void>() : fail(ErrorCode::Reference, "the engine does not run");
    });
    when("drive", [&](const QJsonValue& v) {
        return v.toString().isEmpty() ? fail(ErrorCode::Malformed, "a drive is logged to a file")
                                      : drives.begin(car, v.toString());
    });
    when("driven", [&](const QJsonValue&) {
        const Drives::Way way = drives.way();
        reply[QLatin1String("percent")] = way.percent;
        reply[QLatin1String("done")] = way.done;
        return way.trouble.isEmpty() ? Result<void>() : fail(ErrorCode::Io, way.trouble.toStdString());
    });
    when("click", [&](const QJsonValue& v) { return click(car, v, reply); });
    if (!understood)
        return fail(ErrorCode::Malformed, "nothing in the request is understood");
    return done;
}

} // namespace

QByteArray control(Car& car, Drives& drives, const QByteArray& request)
{
    const QJsonDocument document = QJsonDocument::fromJson(request);
    QJsonObject reply;
    const Result<void> done = document.isObject() ? obey(car, drives, renewed(document.object()), reply)
                                                  : fail(ErrorCode::Malformed, "a request is one JSON object a line");
    if (done)
        reply[QLatin1String("ok")] = true;
    else
        reply[QLatin1String("error")] = QString::fromStdString(done.error().sentence);
    return QJsonDocument(reply).toJson(QJsonDocument::Compact);
}

} // namespace vicegrip::bench
