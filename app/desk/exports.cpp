#include "app/desk/exports.h"

#include "app/store/whole_file.h"
#include "core/base/csv.h"
#include "core/base/phrase.h"
#include "core/branches/tree.h"
#include "core/findings/findings.h"
#include "core/logbook/logbook.h"
#include "core/materials/cut_list.h"
#include "core/materials/shopping_list.h"
#include "core/scaling/exchange.h"

#include <QDir>
#include <QFileInfo>

namespace vicegrip::app {
namespace {

std::string findingsCsv(const analysis::Analysis& analysis)
{
    std::string out = csv::row({"severity", "circuit", "what", "why", "todo"});
    for (const findings::Finding& f : analysis.findings)
        out += csv::row({std::string(findings::severityName(f.severity)), f.circuit.value, f.what, f.why, f.todo});
    return out;
}

std::string logbookCsv(const job::Job& job)
{
    std::string out = csv::row({"when", "what"});
    for (const logbook::LogLine& line : logbook::logbook(job))
        out += csv::row({line.when, line.what});
    return out;
}

} // namespace

std::string listCsv(const Desk& desk, Listed list)
{
    const job::Job& job = *desk.store.job();
    const materials::Habits& habits = desk.preferences.now().habits;
    switch (list) {
    case Listed::Cut:
        return materials::toCsv(materials::cutList(job, habits));
    case Listed::Harness:
        return branches::toCsv(job, branches::stretches(job));
    case Listed::Buy:
        break;
    }
    return materials::toCsv(materials::shoppingList(job, habits));
}

Result<std::string> tableText(const analysis::Analysis& analysis, const job::CircuitId& id, bool json)
{
    const auto* view = analysis::find(analysis, id);
    const job::Circuit* circuit = job::find(*analysis.job, id);
    if (view == nullptr || circuit == nullptr || !view->table)
        return fail(ErrorCode::Reference, phrase("There is no table to export."));
    const parts::Part& sensor = *job::sensorOf(*analysis.job, *circuit);
    if (json)
        return scaling::toJson(*view->table, sensor).dump(2) + '\n';
    return scaling::toCsv(scaling::asTaken(*view->table, *analysis.job, *circuit), sensor, circuit->scaling);
}

Result<QString> exportAll(const Desk& desk)
{
    const QFileInfo file(desk.store.path());
    const QString name = file.completeBaseName();
    const QString folder = file.dir().filePath(name + QStringLiteral("-export"));
    if (!QDir().mkpath(folder))
        return fail(ErrorCode::Io, phrase("{}: it cannot be made", QDir::toNativeSeparators(folder).toStdString()));
    const auto analysis = desk.store.analysis();
    std::vector<std::pair<QString, std::string>> files = {
        {QStringLiteral("cut.csv"), listCsv(desk, Listed::Cut)},
        {QStringLiteral("harness.csv"), listCsv(desk, Listed::Harness)},
        {QStringLiteral("buy.csv"), listCsv(desk, Listed::Buy)},
        {QStringLiteral("findings.csv"), findingsCsv(*analysis)},
        {QStringLiteral("logbook.csv"), logbookCsv(*desk.store.job())}};
    for (const proof::CircuitView& view : analysis->circuits)
        if (view.table)
            for (const bool json : {false, true})
                files.emplace_back(text(view.id.value).replace(QLatin1Char('/'), QLatin1Char('_')) +
                                       (json ? QStringLiteral("-table.json") : QStringLiteral("-table.csv")),
                                   tableText(*analysis, view.id, json).value());
    for (const auto& [as, written] : files)
        if (const auto done = writeWhole(QDir(folder).filePath(as), QByteArray::fromStdString(written)); !done)
            return tl::make_unexpected(done.error());
    return folder;
}

} // namespace vicegrip::app
