#include "core/packet/data_files.h"

#include "core/base/csv.h"
#include "core/base/in_parallel.h"
#include "core/base/phrase.h"
#include "core/logbook/logbook.h"
#include "core/scaling/exchange.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::packet {
namespace {

using Json = nlohmann::ordered_json;

constexpr int kPlaces = 5; ///< of a range, its ends a little inside

/// As a program reads it: a point, and as many digits as tell it from its neighbours.
std::string plain(double value)
{
    return std::isfinite(value) ? units::formatNumber(value, 6) : std::string();
}

/// A circuit's values in the unit its ECU has them in.
struct Shown
{
    const parts::Part& sensor;
    std::string unit;

    [[nodiscard]] double value(double si) const { return units::toUnit(si, sensor.measures, unit); }
    [[nodiscard]] double difference(double si) const { return units::differenceToUnit(si, sensor.measures, unit); }
};

Json unitsOf(const job::Job& job)
{
    Json out = Json::array();
    for (const parts::Ecu* unit : job::units(job))
        out.push_back({{"name", unit->name}, {"firmware", unit->firmware}});
    return out;
}

Json seatOf(const job::Job& job, const job::Circuit& circuit)
{
    Json cavities = Json::array();
    for (const job::PointRef& at : job::seatCavities(job, circuit))
        cavities.push_back(at.text());
    Json out{{"input", circuit.input.value}, {"output", circuit.output.value}, {"cavities", cavities}};
    if (const parts::EcuInput* input = job::findInput(job, circuit.input); input != nullptr && input->pull_up_ohm)
        out["pull_up_ohm"] = *input->pull_up_ohm;
    return out;
}

Json limitsOf(const job::ThrottleLimits& limits)
{
    return {{"closed_v", limits.closed_v},
            {"closed_rest_v", limits.closedRest_v},
            {"open_v", limits.open_v},
            {"open_rest_v", limits.openRest_v},
            {"strokes", limits.strokes},
            {"when", limits.when},
            {"screw_turned_since", limits.screwMoved}};
}

Json wheelOf(const analysis::Analysis& analysis, const job::Circuit& circuit)
{
    const job::TriggerSetup setup = circuit.trigger.value_or(job::TriggerSetup{});
    Json light = Json::array();
    for (const job::LightReading& l : setup.light)
        light.push_back({{"rpm", l.rpm}, {"commanded_deg", l.commanded_deg}, {"seen_deg", l.seen_deg}});
    Json out{{"wheel", setup.wheel},
             {"edge", !setup.edge                               ? "not said"
                      : *setup.edge == job::CountedEdge::Rising ? "rising"
                                                                : "falling"},
             {"gap_mm", setup.gap_m * 1e3},
             {"strip_lies_deg", setup.lies_deg ? Json(*setup.lies_deg) : Json()},
             {"light", light}};
    Json captures = Json::array();
    for (const job::Decoded& d : analysis.job->decoded)
        if (d.circuit == circuit.id)
            captures.push_back(
                {{"capture", d.capture}, {"wheel", d.wheel}, {"rpm", d.rpm}, {"wrong", d.wrong}, {"when", d.when}});
    out["captures"] = captures;
    return out;
}

} // namespace

std::vector<Priced> pricedOf(const analysis::Analysis& analysis, const std::stop_token& stop)
{
    std::vector<Priced> out(analysis.circuits.size());
    inParallel(out.size(), [&](size_t i) {
        if (const auto& table = analysis.circuits[i].table; table && !stop.stop_requested())
            out[i] = scaling::budgetOver(*analysis.job, analysis.job->circuits[i], *table, kPlaces);
    });
    return out;
}

double fuelOf(const Priced& priced)
{
    double out = 0;
    for (const scaling::Budget& b : priced)
        if (b.mixture)
            out = std::max(out, b.mixture->worst);
    return out;
}

void addTables(std::vector<File>& to, const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const job::Circuit& circuit = job.circuits[i];
        const parts::Part* sensor = job::sensorOf(job, circuit);
        if (sensor == nullptr || !analysis.circuits[i].table)
            continue;
        const scaling::Table taken = scaling::asTaken(*analysis.circuits[i].table, job, circuit);
        const std::string at = "tables/" + circuit.id.value;
        to.push_back({at + ".csv", phrase("{}: the table as the ECU takes it", circuit.name),
                      scaling::toCsv(taken, *sensor, circuit.scaling)});
        to.push_back({at + ".json", phrase("{}: the same for a program", circuit.name),
                      scaling::toJson(*analysis.circuits[i].table, *sensor).dump(2) + "\n"});
    }
}

void addBudgets(std::vector<File>& to, const analysis::Analysis& analysis, const std::vector<Priced>& priced)
{
    const job::Job& job = *analysis.job;
    std::vector<std::string> head{"circuit",          "unit",           "value",         "reading",
                                  "reading_unit",     "shown",          "worst_error",   "sigma",
                                  "fuel_share_worst", "richest_lambda", "leanest_lambda"};
    for (size_t part = 0; part < scaling::kBudgetParts; ++part)
        head.push_back("part_" + std::string(scaling::partName(static_cast<scaling::BudgetPart>(part))));
    std::string text = csv::row(head);
    Json list = Json::array();
    for (size_t i = 0; i < priced.size(); ++i) {
        const job::Circuit& circuit = job.circuits[i];
        const parts::Part* sensor = job::sensorOf(job, circuit);
        if (sensor == nullptr || priced[i].empty())
            continue;
        const Shown shown{*sensor, scaling::unitOf(*sensor, circuit.scaling)};
        const std::string axis = scaling::readingUnit(analysis.circuits[i].table->axis);
        for (const scaling::Budget& b : priced[i]) {
            std::vector<std::string> row{circuit.id.value,
                                         shown.unit,
                                         plain(shown.value(b.value)),
                                         plain(b.reading),
                                         axis,
                                         plain(shown.value(b.shown)),
                                         plain(shown.difference(b.worst)),
                                         plain(shown.difference(b.sigma))};
            row.push_back(b.mixture ? plain(b.mixture->worst) : "");
            row.push_back(b.mixture ? plain(b.mixture->richest()) : "");
            row.push_back(b.mixture ? plain(b.mixture->leanest()) : "");
            Json one{{"circuit", circuit.id.value},
                     {"unit", shown.unit},
                     {"value", shown.value(b.value)},
                     {"reading", b.reading},
                     {"reading_unit", axis},
                     {"shown", shown.value(b.shown)},
                     {"worst_error", shown.difference(b.worst)},
                     {"sigma", shown.difference(b.sigma)}};
            if (b.mixture)
                one["mixture"] = {{"fuel_share_worst", b.mixture->worst},
                                  {"richest_lambda", b.mixture->richest()},
                                  {"leanest_lambda", b.mixture->leanest()},
                                  {"how", b.mixture->how}};
            Json parts = Json::array();
            for (const scaling::BudgetLine& line : b.lines) {
                row.push_back(plain(shown.difference(line.worst)));
                parts.push_back({{"part", scaling::partName(line.part)},
                                 {"worst", shown.difference(line.worst)},
                                 {"most", line.most}});
            }
            one["parts"] = parts;
            text += csv::row(row);
            list.push_back(std::move(one));
        }
    }
    to.push_back({"budgets.csv", phrase("How wrong each value may be with the engine running, part by part"), text});
    to.push_back({"budgets.json", phrase("The same for a program"), Json{{"budgets", list}}.dump(2) + "\n"});
}

void addFacts(std::vector<File>& to, const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Json circuits = Json::array(), findings = Json::array();
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const job::Circuit& c = job.circuits[i];
        const proof::CircuitView& view = analysis.circuits[i];
        Json one{{"id", c.id.value}, {"name", c.name}, {"seat", seatOf(job, c)}};
        if (const parts::Part* part = job::partOf(job, c))
            one["part"] = {{"name", part->name}, {"kind", parts::kindWords(*part)}};
        one["states"] = {{"pinned", proof::stateName(view.pins)},
                         {"measured", proof::stateName(view.meter)},
                         {"scaled", proof::stateName(view.scale)}};
        if (view.table)
            one["reading_unit"] = scaling::readingUnit(view.table->axis);
        if (view.thresholds.below)
            one["failed_below"] = *view.thresholds.below;
        if (view.thresholds.above)
            one["failed_above"] = *view.thresholds.above;
        if (c.limits)
            one["limits"] = limitsOf(*c.limits);
        if (job::readsWheel(job, c))
            one["trigger"] = wheelOf(analysis, c);
        circuits.push_back(std::move(one));
    }
    for (const findings::Finding& f : analysis.findings)
        findings.push_back({{"severity", findings::severityName(f.severity)},
                            {"rule", f.rule},
                            {"circuit", f.circuit.value},
                            {"what", f.what},
                            {"todo", f.todo}});
    Json logs = Json::array();
    for (const job::LogReview& r : job.logReviews) {
        Json said = Json::array();
        for (const job::LogSaid& s : r.said)
            said.push_back({{"weight", fields::enumName(s.weight)}, {"what", s.what}, {"todo", s.todo}});
        logs.push_back({{"log", r.log},
                        {"when", r.when},
                        {"changed_since", job::changes(r.restsOn.facts(), analysis.facts)},
                        {"said", said}});
    }
    Json all{{"job", job.name},       {"as_of", logbook::lastDate(job)},
             {"units", unitsOf(job)}, {"circuits", circuits},
             {"findings", findings},  {"logs", logs}};
    if (job.tank) {
        all["flex"] = {{"tank_l", job.tank->capacity_m3 * 1e3}, {"ready_for_ethanol", job.tank->readyFor}};
        if (job.tank->baseline)
            all["flex"]["shown_on_pump_fuel"] = *job.tank->baseline;
    }
    to.push_back({"facts.json",
                  phrase("Units, seats, states, limits, trigger, flex, findings and what logs said, for a program"),
                  all.dump(2, ' ', false, Json::error_handler_t::replace) + "\n"});
}

} // namespace vicegrip::packet
