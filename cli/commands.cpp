#include "cli/commands.h"
#include "cli/printing.h"

#include "core/analysis/analysis.h"
#include "core/electrics/netlist.h"
#include "core/job/json.h"
#include "core/job/surroundings.h"
#include "core/units/units.h"

#include <iostream>

namespace vicegrip::cli {
namespace {

Json asJson(const findings::Finding& f)
{
    return {{"rule", f.rule},
            {"severity", findings::severityName(f.severity)},
            {"circuit", f.circuit.value},
            {"what", f.what},
            {"why", f.why},
            {"do", f.todo}};
}

Json asJson(const proof::Judged& j)
{
    const proof::Expectation& e = j.expectation;
    Json out = {{"station", e.station.key}, {"label", e.station.label}, {"conductor", fields::enumName(e.station.role)},
                {"black_lead", e.black},    {"needed", e.needed},       {"state", proof::stateName(j.state)}};
    if (!e.promises()) {
        out["trouble"] = e.trouble;
        return out;
    }
    const auto shown = [&](double si) -> Json {
        return std::isinf(si) ? Json("open") : Json(units::toUnit(si, e.dimension, e.unit));
    };
    out["unit"] = e.unit;
    out["expected"] = shown(e.due.si());
    out["low"] = shown(e.low);
    out["high"] = shown(e.high);
    if (!j.reason.empty())
        out["reason"] = j.reason;
    return out;
}

/// What was typed after an option; the job's own stands when nothing was.
Result<void> setFrom(const std::string& typed, Result<double> (*parse)(std::string_view), double& si)
{
    if (typed.empty())
        return {};
    return parse(typed).map([&](double value) { si = value; });
}

void print(const job::Circuit& circuit, const std::vector<proof::Judged>& stations)
{
    std::cout << circuit.name << " (" << circuit.id.value << ")\n";
    for (const proof::Judged& j : stations) {
        const proof::Expectation& e = j.expectation;
        std::cout << "  " << padded(std::string(fields::enumName(e.station.role)), 8) << padded(e.station.label, 18);
        if (e.promises())
            std::cout << padded(job::readingText(e.due, e.unit), 14) << padded(proof::boundsText(e), 24)
                      << "black lead on " << e.black;
        else
            std::cout << e.trouble;
        std::cout << '\n';
    }
}

} // namespace

int check(const CheckOptions& options)
{
    auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
    Json list = Json::array();
    bool bad = false;
    for (const findings::Finding& f : analysis.findings) {
        bad = bad || f.severity != findings::Severity::Note;
        list.push_back(asJson(f));
        if (!options.json)
            std::cout << padded(std::string(findings::severityName(f.severity)), 6) << f.what << "\n      " << f.why
                      << "\n      " << f.todo << '\n';
    }
    if (options.json)
        std::cout << Json{{"job", analysis.job->name}, {"findings", list}}.dump(2) << '\n';
    else if (analysis.findings.empty())
        std::cout << "nothing found\n";
    return bad ? kFindings : kFine;
}

namespace {

/// One of the names that the command line takes.
job::Condition conditionOf(const std::string& name)
{
    job::Condition out{};
    fields::Reader::read(Json(name), out);
    return out;
}

} // namespace

int expect(const ExpectOptions& options)
{
    auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto ambient = setFrom(options.ambient, job::parseAmbient, job->surroundings.ambient_k);
    const auto barometer = setFrom(options.barometer, job::parseBarometer, job->surroundings.barometer_pa);
    if (!ambient)
        return refuse("--ambient: " + ambient.error().sentence, kUsage);
    if (!barometer)
        return refuse("--barometer: " + barometer.error().sentence, kUsage);
    const auto condition = conditionOf(options.condition);
    const auto analysis = analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
    if (!analysis.networkTrouble.empty())
        return refuse(analysis.networkTrouble, kNoAnswer);

    Json circuits = Json::array();
    for (const proof::CircuitView& view : analysis.circuits) {
        if (!options.circuit.empty() && view.id.value != options.circuit)
            continue;
        const job::Circuit& circuit = *job::find(*analysis.job, view.id);
        Json stations = Json::array();
        for (const proof::Judged& j : analysis::promised(analysis, view.id, condition))
            stations.push_back(asJson(j));
        circuits.push_back({{"circuit", view.id.value}, {"name", circuit.name}, {"stations", stations}});
        if (!options.json)
            print(circuit, analysis::promised(analysis, view.id, condition));
    }
    if (circuits.empty())
        return refuse("the job has no circuit \"" + options.circuit + "\"", kNoAnswer);
    if (options.json)
        std::cout << Json{{"job", analysis.job->name}, {"condition", options.condition}, {"circuits", circuits}}.dump(2)
                  << '\n';
    return kFine;
}

int netlist(const NetlistOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    electrics::Situation situation{.condition = conditionOf(options.condition), .surroundings = job->surroundings};
    if (!options.faults.empty()) {
        auto list = faults::readFaultsFile(options.faults, *job);
        if (!list)
            return refuse(list.error(), kUnreadable);
        situation.faults = std::move(*list);
    }
    std::cout << electrics::netlist(*job, situation).deck(job->name + ", " + options.condition);
    return kFine;
}

} // namespace vicegrip::cli
