#include "cli/printing.h"
#include "core/analysis/analysis.h"
#include "core/base/document.h"
#include "core/job/json.h"
#include "core/scaling/budget.h"
#include "core/scaling/exchange.h"
#include "core/units/shown.h"

#include <cmath>
#include <functional>
#include <iostream>

namespace vicegrip::cli {
namespace {

/// A circuit with its table.
struct Scaled
{
    analysis::Analysis analysis;
    const job::Circuit* circuit = nullptr;
    const parts::Part* sensor = nullptr;
    const proof::CircuitView* view = nullptr;

    /// The unit the ECU has the value in.
    [[nodiscard]] std::string unit() const { return scaling::unitOf(*sensor, circuit->scaling); }
    /// A value, and a difference of one, in that unit: for JSON.
    [[nodiscard]] double shown(double si) const { return units::toUnit(si, sensor->measures, unit()); }
    [[nodiscard]] double difference(double si) const { return units::differenceToUnit(si, sensor->measures, unit()); }
    /// The same for a reader, in the unit he reads.
    [[nodiscard]] std::string valueText(double si, int decimals) const
    {
        return units::format(si, sensor->measures, unit(), decimals);
    }
    [[nodiscard]] std::string differenceText(double si, int decimals) const
    {
        return units::formatDifference(si, sensor->measures, unit(), decimals);
    }
};

/// The exit code, or kFine with everything in place.
int take(const std::string& file, const std::string& id, const std::function<void(job::ScalingSpec&)>& change,
         Scaled& out)
{
    auto job = job::readFile(file);
    if (!job)
        return refuse(job.error(), kUnreadable);
    job::Circuit* wanted = job::find(*job, job::CircuitId{id});
    if (wanted == nullptr)
        return refuse("the job has no circuit \"" + id + "\"", kNoAnswer);
    change(wanted->scaling);
    out.analysis = analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
    out.circuit = job::find(*out.analysis.job, job::CircuitId{id});
    out.sensor = job::sensorOf(*out.analysis.job, *out.circuit);
    out.view = analysis::find(out.analysis, out.circuit->id);
    return out.view->table ? kFine : refuse(out.view->tableTrouble, kNoAnswer);
}

job::Breakpoints breakpointsOf(const std::string& name)
{
    return name == "best" ? job::Breakpoints::Best : name == "free" ? job::Breakpoints::Free : job::Breakpoints::Even;
}

/// What the ECU takes, as the command line has it.
void setTaken(const ScaleOptions& options, job::ScalingSpec& spec)
{
    if (options.kind == "table")
        spec.takes = job::Takes::Points;
    else if (options.kind == "steinhart")
        spec.takes = job::Takes::SteinhartHart;
    else if (!options.kind.empty()) {
        spec.takes = job::Takes::Polynomial;
        spec.degree = options.kind == "line" ? 1 : options.degree;
    }
    if (options.counts && !spec.asFormula())
        spec.takes = job::Takes::Counts;
}

/// The worst against the table the ECU holds now.
int compare(const Scaled& s, const ScaleOptions& options)
{
    const double step = scaling::readingStep(*s.analysis.job, *s.circuit);
    const auto before = document::inFile(document::readFile(options.against).and_then([&](const std::string& text) {
        return scaling::readHeld(text, *s.view->table, *s.sensor, s.circuit->scaling, step);
    }),
                                         options.against);
    if (!before)
        return refuse(before.error(), kUnreadable);
    const auto difference = scaling::difference(*before, *s.view->table, step);
    if (options.json) {
        Json places = Json::array();
        for (const auto& p : difference.places)
            places.push_back({p.reading, s.difference(p.value)});
        std::cout << Json{{"circuit", s.circuit->id.value},
                          {"unit", s.unit()},
                          {"worst", s.difference(difference.worst.value)},
                          {"worst_at_reading", difference.worst.reading},
                          {"worst_counts", difference.counts},
                          {"places", places}}
                         .dump(2)
                  << '\n';
        return kFine;
    }
    std::cout << "new less old at worst " << s.differenceText(difference.worst.value, 3) << " at "
              << scaling::readingText(difference.worst.reading, s.view->table->axis);
    if (difference.counts > 0)
        std::cout << ", as much as " << units::formatNumber(difference.counts, 0) << " counts";
    std::cout << '\n';
    return kFine;
}

Json partsOf(const Scaled& s, const scaling::Budget& b)
{
    Json lines = Json::array();
    for (const auto& line : b.lines)
        lines.push_back({{"part", scaling::partName(line.part)},
                         {"worst", s.difference(line.worst)},
                         {"sigma", s.difference(line.sigma)},
                         {"most", line.most}});
    Json out{{"value", s.shown(b.value)},      {"reading", b.reading},
             {"shown", s.shown(b.shown)},      {"parts", lines},
             {"worst", s.difference(b.worst)}, {"sigma", s.difference(b.sigma)}};
    if (b.mixture)
        out["mixture"] = {{"worst", b.mixture->worst},
                          {"sigma", b.mixture->sigma},
                          {"richest_lambda", b.mixture->richest()},
                          {"leanest_lambda", b.mixture->leanest()},
                          {"how", b.mixture->how}};
    return out;
}

void printBudget(const Scaled& s, const scaling::Budget& b)
{
    std::cout << "at " << s.valueText(b.value, s.sensor->measures == units::Dimension::Lambda ? 3 : 1) << " ("
              << scaling::readingText(b.reading, scaling::axisOf(*s.sensor)) << ")\n";
    for (const auto& line : b.lines)
        std::cout << "  " << padded(std::string(scaling::partName(line.part)), 20)
                  << padded("± " + s.differenceText(line.worst, 3), 16) << line.most << '\n';
    std::cout << "  " << padded("worst case", 20) << "± " << s.differenceText(b.worst, 3) << "\n  "
              << padded("one sigma (RSS)", 20) << "± " << s.differenceText(b.sigma, 3) << '\n';
    if (b.mixture)
        std::cout << "  " << padded("mixture", 20) << "± "
                  << units::format(b.mixture->worst, units::Dimension::Ratio, "%", 2) << " at worst, λ "
                  << units::formatNumber(b.mixture->richest(), 3) << " to "
                  << units::formatNumber(b.mixture->leanest(), 3) << "; " << b.mixture->how << '\n';
}

} // namespace

int scale(const ScaleOptions& options)
{
    Scaled s;
    const int code = take(
        options.job, options.circuit,
        [&](job::ScalingSpec& spec) {
            if (options.points)
                spec.points = *options.points;
            if (!options.breakpoints.empty())
                spec.breakpoints = breakpointsOf(options.breakpoints);
            setTaken(options, spec);
        },
        s);
    if (code != kFine)
        return code;
    if (!options.against.empty())
        return compare(s, options);

    const scaling::Table& table = *s.view->table;
    if (options.json) {
        Json out{{"circuit", s.circuit->id.value}, {"input", s.circuit->input.value}};
        out.update(Json(scaling::toJson(table, *s.sensor)));
        const scaling::Table taken = scaling::asTaken(table, *s.analysis.job, *s.circuit);
        if (taken.axis == units::Dimension::Counts)
            for (size_t i = 0; i < taken.points.size(); ++i)
                out["points"][i]["counts"] = std::lround(taken.points[i].reading);
        out["worst_error"] = s.difference(table.worstError);
        out["worst_at"] = s.shown(table.worstAt);
        out["worst_at_reading"] = table.worstAtReading;
        out["least_there_is"] = table.leastThereIs;
        out["even_error"] = s.difference(table.evenError);
        std::cout << out.dump(2) << '\n';
        return kFine;
    }
    if (table.formula && !options.csv)
        std::cout << scaling::formulaText(*table.formula) << '\n';
    std::cout << scaling::toCsv(scaling::asTaken(table, *s.analysis.job, *s.circuit), *s.sensor, s.circuit->scaling);
    if (options.csv)
        return kFine;
    std::cout << (table.formula ? "worst error over the range " : "worst error between points ")
              << s.differenceText(table.worstError, 3) << " at " << s.valueText(table.worstAt, 2) << " ("
              << scaling::readingText(table.worstAtReading, table.axis) << ")\n";
    if (table.leastThereIs)
        std::cout << "proved: no placing on the curve is better by more than 2 %\n";
    if (table.evenError > table.worstError)
        std::cout << "evenly spaced points would leave " << s.differenceText(table.evenError, 3) << '\n';
    if (table.formula && !scaling::needsOf(*table.formula).empty())
        std::cout << scaling::needsOf(*table.formula) << '\n';
    return kFine;
}

int budget(const BudgetOptions& options)
{
    Scaled s;
    if (const int code = take(
            options.job, options.circuit, [](job::ScalingSpec&) {}, s);
        code != kFine)
        return code;
    std::vector<scaling::Budget> budgets;
    if (options.at.empty()) {
        constexpr int kPlaces = 8;
        budgets = scaling::budgetOver(*s.analysis.job, *s.circuit, *s.view->table, kPlaces);
    } else {
        const auto value = units::parseShown(options.at, s.sensor->measures, s.sensor->unit);
        if (!value)
            return refuse(value.error(), kUsage);
        auto one = scaling::budgetAt(*s.analysis.job, *s.circuit, *s.view->table, *value);
        if (!one)
            return refuse(one.error(), kNoAnswer);
        budgets.push_back(std::move(*one));
    }
    if (options.json) {
        Json list = Json::array();
        for (const auto& b : budgets)
            list.push_back(partsOf(s, b));
        std::cout << Json{{"circuit", s.circuit->id.value}, {"unit", s.unit()}, {"budgets", list}}.dump(2) << '\n';
        return kFine;
    }
    for (const auto& b : budgets)
        printBudget(s, b);
    return kFine;
}

} // namespace vicegrip::cli
