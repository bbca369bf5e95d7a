#include "core/packet/answers.h"

#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/logbook/logbook.h"
#include "core/recheck/recheck.h"
#include "core/run_sheet/run_sheet.h"

#include <algorithm>
#include <iterator>

namespace vicegrip::packet {
namespace {

using book::Block;
using book::Pairs;
using book::Paragraph;
using book::Section;
using book::Table;
using findings::Severity;

Paragraph where(const std::string& places)
{
    return {phrase("Where it stands at length: {}.", places)};
}

/// A table, or one sentence where it has no rows.
Block orElse(Table table, const std::string& sentence)
{
    if (table.rows.empty())
        return Paragraph{sentence};
    return table;
}

std::string fuelText(double share)
{
    return share > 0 ? phrase("± {} % of the fuel", units::formatNumber(share * 100, 1)) : std::string();
}

/// "± 3.2 °C at 110.0 °C": the worst of the places that were worked out.
std::string errorOf(const job::Job& job, const job::Circuit& circuit, const Priced& priced)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr || priced.empty())
        return {};
    const scaling::Budget& worst = *std::ranges::max_element(priced, {}, &scaling::Budget::worst);
    return phrase("{} at {}", scaling::errorText(*sensor, worst.worst),
                  units::format(worst.value, sensor->measures, sensor->unit, 1));
}

Section unit(const analysis::Analysis& analysis)
{
    Section out{phrase("Which ECU is in the car, and which firmware?"), {}};
    Pairs pairs;
    for (const parts::Ecu* u : job::units(*analysis.job))
        pairs.add(u->name, u->firmware.empty() ? phrase("firmware not noted") : phrase("firmware {}", u->firmware));
    out.blocks = {pairs, where(phrase("facts.json, units; the book's cover"))};
    return out;
}

Section fitToRun(const analysis::Analysis& analysis)
{
    Section out{phrase("May it be powered, cranked and driven?"), {}};
    Table open{{{phrase("Severity"), 0.8}, {phrase("What"), 3}, {phrase("What to do"), 3}}};
    for (const findings::Finding& f : analysis.findings)
        if (f.severity != Severity::Note)
            open.rows.push_back({phrase(findings::severityName(f.severity)), f.what, f.todo});
    const run_sheet::Sheet sheet = run_sheet::sheetOf(analysis, logbook::lastDate(*analysis.job));
    out.blocks = {
        orElse(std::move(open), phrase("Nothing is open that stops it or is to be mended.")),
        Paragraph{phrase("Of the run sheet, {} of {} lines have passed.", std::to_string(run_sheet::passedOf(sheet)),
                         std::to_string(sheet.lines.size()))},
        Paragraph{phrase("No list takes the place of somebody who looks: fuel leaks, moving parts and a brake "
                         "pedal are judged at the car, and road use by the law of the place."),
                  true},
        where(phrase("the book, open findings and run sheet; facts.json, findings"))};
    return out;
}

Section seats(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Section out{phrase("Which sensor is read where?"), {}};
    Table table{
        {{phrase("Circuit"), 1.6}, {phrase("Sensor"), 2.4}, {phrase("Input"), 1, true}, {phrase("Cavities"), 2}}};
    for (const job::Circuit& c : job.circuits) {
        const parts::Part* sensor = job::sensorOf(job, c);
        if (sensor == nullptr)
            continue;
        table.rows.push_back({c.name, sensor->name, c.input.value, book::cavitiesText(job, c)});
    }
    out.blocks = {orElse(std::move(table), phrase("No sensor is in this job.")),
                  where(phrase("sensors/, a page for each; the book, circuits and plugs"))};
    return out;
}

Section driven(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Section out{phrase("Which output drives what, and was it seen to?"), {}};
    Table table{
        {{phrase("Circuit"), 1.6}, {phrase("Drives"), 2.4}, {phrase("Output"), 1, true}, {phrase("Clicked"), 2}}};
    for (const job::Circuit& c : job.circuits) {
        const parts::Part* part = job::actuatorOf(job, c);
        if (part == nullptr)
            continue;
        const auto click = std::ranges::find(analysis.clicks, c.id, &clicks::Standing::circuit);
        table.rows.push_back(
            {c.name, part->name, c.output.value, click == analysis.clicks.end() ? "" : book::stateText(click->state)});
    }
    out.blocks = {orElse(std::move(table), phrase("The ECU drives nothing in this job.")),
                  where(phrase("the book, circuits and run sheet"))};
    return out;
}

Section tables(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Section out{phrase("Which table goes into the ECU for each sensor?"), {}};
    Table table{{{phrase("Circuit"), 1.6},
                 {phrase("File"), 1.8, true},
                 {phrase("Largest error of the table alone"), 1.6, true},
                 {phrase("In the ECU"), 1.4}}};
    for (size_t i = 0; i < job.circuits.size(); ++i)
        if (const auto& made = analysis.circuits[i].table)
            if (const parts::Part* sensor = job::sensorOf(job, job.circuits[i]))
                table.rows.push_back({job.circuits[i].name, "tables/" + job.circuits[i].id.value + ".csv",
                                      scaling::errorText(*sensor, made->worstError),
                                      book::stateText(analysis.circuits[i].scale)});
    out.blocks = {orElse(std::move(table), phrase("No sensor of this job has a table.")),
                  where(phrase("tables/; the book, scaling"))};
    return out;
}

Section errors(const analysis::Analysis& analysis, const std::vector<Priced>& priced)
{
    const job::Job& job = *analysis.job;
    Section out{phrase("How far may what the ECU shows be off, and what does that do to the mixture?"), {}};
    std::vector<size_t> order;
    for (size_t i = 0; i < priced.size(); ++i)
        if (!priced[i].empty())
            order.push_back(i);
    std::ranges::stable_sort(order, std::greater(), [&](size_t i) { return fuelOf(priced[i]); });
    Table table{{{phrase("Circuit"), 1.8},
                 {phrase("At worst"), 1.2, true},
                 {phrase("Of the fuel"), 1.6, true},
                 {phrase("Lambda at 1.00"), 1.5, true}}};
    for (const size_t i : order) {
        std::string lambda;
        for (const scaling::Budget& b : priced[i])
            if (b.mixture && b.mixture->worst == fuelOf(priced[i]))
                lambda = phrase("{} to {}", units::formatNumber(b.mixture->richest(), 3),
                                units::formatNumber(b.mixture->leanest(), 3));
        table.rows.push_back(
            {job.circuits[i].name, errorOf(job, job.circuits[i], priced[i]), fuelText(fuelOf(priced[i])), lambda});
    }
    out.blocks = {orElse(std::move(table), phrase("Nothing here has a table whose error could be worked out.")),
                  where(phrase("budgets.csv, part by part; the book, scaling"))};
    return out;
}

Section failed(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Section out{phrase("From which reading on is a sensor to be taken for failed?"), {}};
    Table table{{{phrase("Circuit"), 2}, {phrase("Below"), 1, true}, {phrase("Above"), 1, true}}};
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const proof::CircuitView& view = analysis.circuits[i];
        if (!view.table || (!view.thresholds.below && !view.thresholds.above))
            continue;
        const auto said = [&](const std::optional<double>& at) {
            return at ? scaling::readingText(*at, view.table->axis) : std::string("–");
        };
        table.rows.push_back({job.circuits[i].name, said(view.thresholds.below), said(view.thresholds.above)});
    }
    out.blocks = {orElse(std::move(table), phrase("For no sensor of this job can that be said.")),
                  where(phrase("facts.json, failed_below and failed_above; the book, scaling"))};
    return out;
}

Section throttle(const analysis::Analysis& analysis)
{
    Section out{phrase("Where does the throttle rest, shut and open?"), {}};
    const auto volts = [](double v) { return units::format(v, units::Dimension::Voltage, "V", 3); };
    Table table{{{phrase("Circuit"), 1.6},
                 {phrase("Shut: limit, rest"), 1.6, true},
                 {phrase("Open: limit, rest"), 1.6, true},
                 {phrase("From"), 2}}};
    for (const job::Circuit& c : analysis.job->circuits)
        if (c.limits)
            table.rows.push_back(
                {c.name, volts(c.limits->closed_v) + ", " + volts(c.limits->closedRest_v),
                 volts(c.limits->open_v) + ", " + volts(c.limits->openRest_v),
                 c.limits->screwMoved.empty()
                     ? phrase("{} strokes, {} UTC", std::to_string(c.limits->strokes), book::timeText(c.limits->when))
                     : phrase("to be taken again: the stop screw was turned since")});
    out.blocks = {orElse(std::move(table), phrase("Its limits have not been taken.")),
                  where(phrase("facts.json, limits; the book, scaling"))};
    return out;
}

Section flex(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Section out{phrase("What does it know of the fuel?"), {}};
    Pairs pairs;
    for (const job::Circuit& c : job.circuits)
        if (const parts::Part* part = job::sensorOf(job, c); part != nullptr && part->kind == parts::PartUse::FlexFuel)
            pairs.add(c.name, phrase("{}, at {}; its table is tables/{}.csv", part->name, c.input.value, c.id.value));
    if (job.tank) {
        const auto share = [](double v) { return units::formatNumber(v * 100, 1) + " %"; };
        pairs.add(phrase("The calibration is ready for ethanol up to"), share(job.tank->readyFor));
        if (job.tank->baseline)
            pairs.add(phrase("The sensor showed on pump fuel"), share(*job.tank->baseline));
    }
    if (pairs.lines.empty())
        out.blocks.push_back(Paragraph{phrase("No sensor of this job tells what the fuel is.")});
    else
        out.blocks.push_back(std::move(pairs));
    out.blocks.push_back(where(phrase("facts.json, flex; sensors/ and tables/")));
    return out;
}

Section trigger(const analysis::Analysis& analysis)
{
    Section out{phrase("Which wheel is read, on which edge, and was it seen to decode?"), {}};
    for (size_t i = 0; i < analysis.job->circuits.size(); ++i)
        if (auto one = book::wheelOf(analysis, i); !one.empty()) {
            out.blocks.push_back(book::Heading{analysis.job->circuits[i].name});
            std::ranges::move(one, std::back_inserter(out.blocks));
        }
    if (out.blocks.empty())
        out.blocks.push_back(Paragraph{phrase("No input of this job reads a wheel.")});
    out.blocks.push_back(where(phrase("facts.json, trigger; the book, trigger")));
    return out;
}

Section notProved(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Section out{phrase("What has nobody proved?"), {}};
    Table table{{{phrase("Circuit"), 2}, {phrase("Pinned"), 1}, {phrase("Measured"), 1}, {phrase("Scaled"), 1}}};
    const auto stands = [](proof::State s) { return s == proof::State::Done || s == proof::State::NotNeeded; };
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const proof::CircuitView& view = analysis.circuits[i];
        if (!stands(view.pins) || !stands(view.meter) || !stands(view.scale))
            table.rows.push_back({job.circuits[i].name, book::stateText(view.pins), book::stateText(view.meter),
                                  book::stateText(view.scale)});
    }
    out.blocks = {orElse(std::move(table), phrase("Every circuit is pinned, measured within bounds and scaled.")),
                  where(phrase("sensors/, readings; the book, circuits"))};
    return out;
}

Section afterFirmware(const analysis::Analysis& analysis)
{
    Section out{phrase("What must be measured again after other firmware?"), {}};
    Table table{{{phrase("Risk"), 1}, {phrase("What"), 3.4}, {phrase("It rests on"), 2}}};
    if (const auto change = recheck::changeNamed(*analysis.job, "firmware"))
        for (const recheck::Again& a : recheck::after(*analysis.job, analysis.facts, *change))
            table.rows.push_back({phrase(recheck::riskName(a.risk)), a.what, a.rests});
    out.blocks = {orElse(std::move(table), phrase("Nothing that was proved rests on it.")),
                  where(phrase("the book, what must be measured again"))};
    return out;
}

struct Trust
{
    int rank = 0; ///< lowest first
    std::string words;
};

/// What is known of a wheel's input once its wires have been measured.
Trust trustInWheel(const analysis::Analysis& analysis, const job::CircuitId& id)
{
    const auto decoded = std::ranges::find(analysis.decoded, id, &decoded::Standing::circuit);
    if (decoded != analysis.decoded.end() && decoded->state == proof::State::Done)
        return {6, phrase("it was captured turning, and decodes")};
    return {5, phrase("its wiring: no capture of it turning decodes as the car is now")};
}

/// What a finding of that severity says of a circuit; none: there is none. That a reading failed or is stale is not
/// taken from the findings: the circuit's own state says it.
const findings::Finding* worstOf(const analysis::Analysis& analysis, const job::CircuitId& id, Severity severity)
{
    const auto at = std::ranges::find_if(analysis.findings, [&](const findings::Finding& f) {
        return f.severity == severity && f.circuit == id && f.rule != "reading-fails" && f.rule != "proof-stale";
    });
    return at == analysis.findings.end() ? nullptr : &*at;
}

Trust trustIn(const analysis::Analysis& analysis, const job::Circuit& circuit, const proof::CircuitView& view)
{
    if (const findings::Finding* stop = worstOf(analysis, circuit.id, Severity::Stop))
        return {0, phrase("not at all: {}", stop->what)};
    if (view.meter == proof::State::Failing)
        return {1, phrase("not at all: what was read is outside of its bounds")};
    if (const findings::Finding* fix = worstOf(analysis, circuit.id, Severity::Fix))
        return {2, phrase("not before this is mended: {}", fix->what)};
    if (view.meter == proof::State::Untouched)
        return {3, phrase("as a plan: nobody has measured it")};
    if (view.meter == proof::State::Stale)
        return {4, phrase("as it was before the last change: measure again")};
    if (job::readsWheel(*analysis.job, circuit))
        return trustInWheel(analysis, circuit.id);
    if (view.scale != proof::State::Done && view.scale != proof::State::NotNeeded)
        return {5, phrase("its wiring: its table in the ECU has not been seen")};
    return {6, phrase("as far as the error beside it")};
}

} // namespace

std::vector<Section> questionsOf(const analysis::Analysis& analysis, const std::vector<Priced>& priced)
{
    return {unit(analysis),   fitToRun(analysis),       seats(analysis),     driven(analysis),
            tables(analysis), errors(analysis, priced), failed(analysis),    throttle(analysis),
            flex(analysis),   trigger(analysis),        notProved(analysis), afterFirmware(analysis)};
}

std::vector<Block> trustOf(const analysis::Analysis& analysis, const std::vector<Priced>& priced)
{
    const job::Job& job = *analysis.job;
    std::vector<std::pair<int, std::vector<std::string>>> rows;
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        if (job::sensorOf(job, job.circuits[i]) == nullptr)
            continue;
        const Trust trust = trustIn(analysis, job.circuits[i], analysis.circuits[i]);
        rows.emplace_back(trust.rank, std::vector<std::string>{job.circuits[i].name, trust.words,
                                                               errorOf(job, job.circuits[i], priced[i]),
                                                               fuelText(fuelOf(priced[i]))});
    }
    std::ranges::stable_sort(rows, {}, &std::pair<int, std::vector<std::string>>::first);
    Table table{{{phrase("Value"), 1.6},
                 {phrase("Trust it"), 3},
                 {phrase("At worst off by"), 1.2, true},
                 {phrase("That is"), 1.5, true}}};
    for (auto& [rank, row] : rows)
        table.rows.push_back(std::move(row));
    return {Paragraph{phrase(
                "Worst is every part of the way at the edge of its tolerance at once with the engine running, at "
                "the worst of five places across the sensor's range. It was worked out from tolerances of "
                "parts, not measured; what was measured stands in the sensor's page, with its date.")},
            orElse(std::move(table), phrase("No sensor is in this job."))};
}

} // namespace vicegrip::packet
