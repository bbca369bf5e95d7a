#include "core/base/in_parallel.h"
#include "core/base/phrase.h"
#include "core/book/chapters.h"
#include "core/logbook/logbook.h"
#include "core/run_sheet/run_sheet.h"
#include "core/scaling/budget.h"
#include "core/scaling/exchange.h"
#include "core/scaling/transfer.h"

#include <algorithm>
#include <iterator>

/// Scaling with its errors, the trigger, the run sheet, and what captures and logs said.
namespace vicegrip::book {
namespace {

constexpr int kBudgetPlaces = 3; ///< a network is solved for each, and a book waits for them

std::string volts(double v)
{
    return units::format(v, units::Dimension::Voltage, "V", 3);
}

Table budgetTable(const parts::Part& part, const scaling::Table& table, const std::vector<scaling::Budget>& budgets)
{
    const bool mixture = std::ranges::any_of(budgets, [](const auto& b) { return b.mixture.has_value(); });
    Table out{{{phrase("At"), 1.2, true},
               {phrase("Input reads"), 1.2, true},
               {phrase("ECU shows"), 1.2, true},
               {phrase("Worst error"), 1.2, true},
               {phrase("One sigma"), 1.2, true}},
              {}};
    if (mixture)
        out.columns.push_back({phrase("Lambda at 1.00, worst"), 1.6, true});
    for (const scaling::Budget& b : budgets) {
        out.rows.push_back({units::format(b.value, part.measures, part.unit, 1),
                            scaling::readingText(b.reading, table.axis),
                            units::format(b.shown, part.measures, part.unit, 1), scaling::errorText(part, b.worst),
                            scaling::errorText(part, b.sigma)});
        if (mixture)
            out.rows.back().push_back(b.mixture ? phrase("{} to {}", units::formatNumber(b.mixture->richest(), 3),
                                                         units::formatNumber(b.mixture->leanest(), 3))
                                                : "");
    }
    return out;
}

void limitsOf(Blocks& out, const job::Circuit& circuit)
{
    if (!circuit.limits)
        return;
    Pairs pairs;
    pairs.add(phrase("Closed limit"),
              phrase("{}, rests at {}", volts(circuit.limits->closed_v), volts(circuit.limits->closedRest_v)));
    pairs.add(phrase("Open limit"),
              phrase("{}, rests at {}", volts(circuit.limits->open_v), volts(circuit.limits->openRest_v)));
    pairs.add(phrase("From"),
              phrase("{} strokes, {} UTC", std::to_string(circuit.limits->strokes), timeText(circuit.limits->when)));
    if (!circuit.limits->screwMoved.empty())
        pairs.add(phrase("Stop screw turned since"),
                  phrase("{} UTC: the limits are to be taken again", timeText(circuit.limits->screwMoved)));
    out.push_back(std::move(pairs));
}

std::string edgeText(const std::optional<job::CountedEdge>& edge)
{
    return !edge ? phrase("not said") : *edge == job::CountedEdge::Rising ? phrase("rising") : phrase("falling");
}

std::string wrongText(const std::vector<std::string>& wrong)
{
    std::string out;
    for (const std::string& one : wrong)
        out += (out.empty() ? "" : ", ") + one;
    return out;
}

} // namespace

Blocks scalingOf(const analysis::Analysis& analysis, const std::stop_token& stop)
{
    const job::Job& job = *analysis.job;
    std::vector<std::vector<scaling::Budget>> budgets(analysis.circuits.size());
    inParallel(analysis.circuits.size(), [&](size_t i) {
        if (const auto& table = analysis.circuits[i].table; table && !stop.stop_requested())
            budgets[i] = scaling::budgetOver(job, job.circuits[i], *table, kBudgetPlaces);
    });
    Blocks out;
    for (size_t i = 0; i < job.circuits.size(); ++i)
        if (Blocks one = scaleOf(analysis, i, budgets[i]); !one.empty()) {
            out.push_back(Heading{job.circuits[i].name});
            std::ranges::move(one, std::back_inserter(out));
        }
    return out;
}

Blocks scaleOf(const analysis::Analysis& analysis, size_t index, const std::vector<scaling::Budget>& budgets)
{
    const job::Job& job = *analysis.job;
    const job::Circuit& circuit = job.circuits[index];
    const proof::CircuitView& view = analysis.circuits[index];
    const parts::Part* part = job::sensorOf(job, circuit);
    Blocks out;
    if (part == nullptr)
        return out;
    if (view.table) {
        const scaling::Table taken = scaling::asTaken(*view.table, job, circuit);
        Pairs pairs;
        pairs.add(phrase("Largest error of the table alone"),
                  phrase("{} at {}", scaling::errorText(*part, view.table->worstError),
                         units::format(view.table->worstAt, part->measures, part->unit, 1)));
        if (view.thresholds.below)
            pairs.add(phrase("Failed below"), scaling::readingText(*view.thresholds.below, view.table->axis));
        if (view.thresholds.above)
            pairs.add(phrase("Failed above"), scaling::readingText(*view.thresholds.above, view.table->axis));
        pairs.add(phrase("State"), stateText(view.scale));
        out.push_back(std::move(pairs));
        Table points{{}, {}, 0.4};
        for (const std::string& heading : scaling::headings(taken, circuit.scaling))
            points.columns.push_back({heading, 1, true});
        points.rows = scaling::rowsOf(taken, *part, circuit.scaling);
        out.push_back(std::move(points));
        if (!budgets.empty()) {
            out.push_back(Paragraph{phrase("How far the value the ECU shows may be off while the engine runs, "
                                           "sensor, supply, wiring, input, converter and table together:")});
            out.push_back(budgetTable(*part, *view.table, budgets));
        }
    }
    limitsOf(out, circuit);
    return out;
}

Blocks triggerOf(const analysis::Analysis& analysis)
{
    Blocks out;
    for (size_t i = 0; i < analysis.job->circuits.size(); ++i)
        if (Blocks one = wheelOf(analysis, i); !one.empty()) {
            out.push_back(Heading{analysis.job->circuits[i].name});
            std::ranges::move(one, std::back_inserter(out));
        }
    return out;
}

Blocks wheelOf(const analysis::Analysis& analysis, size_t circuit)
{
    const job::Job& job = *analysis.job;
    const job::Circuit& c = job.circuits[circuit];
    if (!job::readsWheel(job, c))
        return {};
    const auto mm = [](double m) {
        return m > 0 ? units::format(m, units::Dimension::Length, "mm", 2) : std::string();
    };
    Blocks out;
    Pairs pairs;
    const job::TriggerSetup setup = c.trigger.value_or(job::TriggerSetup{});
    pairs.add(phrase("Wheel"), setup.wheel.empty() ? phrase("not said") : setup.wheel);
    pairs.add(phrase("Edge that counts"), edgeText(setup.edge));
    pairs.add(phrase("Locating hole"), setup.hole);
    pairs.add(phrase("Face to the engine"), setup.side);
    pairs.add(phrase("Air gap, as measured"), mm(setup.gap_m));
    if (setup.gapMost_m > 0)
        pairs.add(phrase("It may be"), phrase("{} to {}", mm(setup.gapLeast_m), mm(setup.gapMost_m)));
    if (setup.across_m > 0)
        pairs.add(phrase("Across its teeth"), mm(setup.across_m));
    if (setup.lies_deg)
        pairs.add(phrase("Sensor's strip, from along the teeth"), units::formatNumber(*setup.lies_deg, 0) + "°");
    if (setup.beside_m)
        pairs.add(phrase("Wheel's middle beside the face's"),
                  units::format(*setup.beside_m, units::Dimension::Length, "mm", 1));
    for (const auto& t : analysis.handTurns)
        if (t.circuit == c.id)
            pairs.add(phrase("Turned by hand"),
                      t.reason.empty() ? stateText(t.state) : stateText(t.state) + ": " + t.reason);
    for (const auto& d : analysis.decoded)
        if (d.circuit == c.id)
            pairs.add(phrase("Captured"), d.reason.empty() ? stateText(d.state) : stateText(d.state) + ": " + d.reason);
    out.push_back(std::move(pairs));
    Table light{{{phrase("Engine speed"), 1, true},
                 {phrase("Commanded, before TDC"), 1.4, true},
                 {phrase("Seen by the light"), 1.4, true}},
                {}};
    for (const job::LightReading& l : setup.light)
        light.rows.push_back({units::formatNumber(l.rpm, 0) + " rpm", units::formatNumber(l.commanded_deg, 1) + "°",
                              units::formatNumber(l.seen_deg, 1) + "°"});
    if (!light.rows.empty())
        out.push_back(std::move(light));
    return out;
}

Blocks runSheetOf(const analysis::Analysis& analysis)
{
    const run_sheet::Sheet sheet = run_sheet::sheetOf(analysis, logbook::lastDate(*analysis.job));
    Blocks out;
    Table table;
    const auto close = [&] {
        if (!table.rows.empty())
            out.push_back(std::move(table));
        table = {{{phrase("Line"), 3},
                  {phrase("Window"), 1.8, true},
                  {phrase("Read"), 1.2, true},
                  {phrase("When, UTC"), 1.5, true},
                  {phrase("State"), 1.5}},
                 {}};
    };
    close();
    for (size_t i = 0; i < sheet.lines.size(); ++i) {
        const run_sheet::Line& line = sheet.lines[i];
        const run_sheet::Standing& s = sheet.standings[i];
        if (i == 0 || sheet.lines[i - 1].section != line.section) {
            close();
            out.push_back(Heading{phrase(run_sheet::sectionName(line.section))});
        }
        table.rows.push_back(
            {line.caution.empty() ? line.what : phrase("{} Caution: {}", line.what + ".", line.caution),
             run_sheet::windowText(line), s.read, timeText(s.when),
             s.reason.empty() ? stateText(s.state) : stateText(s.state) + ": " + s.reason});
    }
    close();
    return out;
}

namespace {

/// What a log said, under its name.
void addReview(Blocks& out, const job::LogReview& r, const job::Facts& now)
{
    out.push_back(Heading{phrase("{}: {}", r.log, job::saidText(r))});
    Pairs of;
    of.add(phrase("Log"), phrase("{} rows, {} s", std::to_string(r.rows), units::formatNumber(r.seconds, 1)));
    of.add(phrase("Reviewed, UTC"), timeText(r.when));
    if (const auto changed = job::changes(r.restsOn.facts(), now); !changed.empty())
        of.add(phrase("Stale"), changed.front());
    out.push_back(std::move(of));
    Table said{{{phrase("Weight"), 0.7}, {phrase("What it says"), 4}, {phrase("What to do"), 3}}, {}};
    for (const job::LogSaid& s : r.said)
        said.rows.push_back({phrase(job::weightWord(s.weight)), s.what, s.todo});
    if (!said.rows.empty())
        out.push_back(std::move(said));
}

} // namespace

Blocks logsOf(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    Blocks out;
    Table captures{{{phrase("Circuit"), 1.4},
                    {phrase("Capture"), 1.8, true},
                    {phrase("Wheel"), 1, true},
                    {phrase("Engine speed"), 1, true},
                    {phrase("What it said"), 2.5},
                    {phrase("When, UTC"), 1.4, true}},
                   {}};
    for (const job::Decoded& d : job.decoded) {
        const job::Circuit* c = job::find(job, d.circuit);
        captures.rows.push_back(
            {c == nullptr ? d.circuit.value : c->name, d.capture, d.wheel, units::formatNumber(d.rpm, 0) + " rpm",
             d.wrong.empty() ? phrase("decodes with margin") : wrongText(d.wrong), timeText(d.when)});
    }
    if (!captures.rows.empty())
        out.push_back(std::move(captures));
    for (const job::LogReview& r : job.logReviews)
        addReview(out, r, analysis.facts);
    Table marks{{{phrase("Log"), 2, true}, {phrase("At"), 1, true}, {phrase("Mark"), 4}}, {}};
    for (const job::LogMark& m : job.logMarks)
        marks.rows.push_back({m.log, units::formatNumber(m.at_s, 2) + " s", m.words});
    if (!marks.rows.empty())
        out.push_back(std::move(marks));
    return out;
}

} // namespace vicegrip::book
