#include "core/scaling/exchange.h"

#include "core/base/csv.h"
#include "core/base/document.h"
#include "core/base/fields.h"
#include "core/base/number_table.h"
#include "core/base/phrase.h"
#include "core/scaling/polynomial.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::scaling {
namespace {

/// What a point's reading is called in a file.
std::string inputName(units::Dimension axis)
{
    return axis == units::Dimension::Frequency ? "hertz" : "volts";
}

/// The cells of one point as they are shown.
std::vector<std::string> cells(const TablePoint& p, units::Dimension axis, const parts::Part& sensor,
                               const job::ScalingSpec& spec)
{
    const int decimals = axis == units::Dimension::Counts ? 0 : decimalsOf(spec.inputStep);
    std::vector<std::string> out = {units::formatNumber(p.reading, decimals),
                                    units::formatNumber(units::toUnit(p.value, sensor.measures, unitOf(sensor, spec)),
                                                        decimalsOf(spec.outputStep))};
    if (spec.valueFirst)
        std::swap(out[0], out[1]);
    return out;
}

struct Row
{
    TablePoint point; ///< value in `unit`
    int line = 0;
};

Result<std::vector<Row>> jsonRows(std::string_view text, const std::string& input, std::string& unit)
{
    return document::parse(text).and_then([&](const nlohmann::json& json) -> Result<std::vector<Row>> {
        if (!json.is_object() || !json.contains("points") || !json["points"].is_array())
            return fail(ErrorCode::Schema, phrase("this is no table: it has no list of \"points\""),
                        {{}, "/points", 0, 0});
        if (json.contains("unit") && json["unit"].is_string())
            unit = json["unit"].get<std::string>();
        std::vector<Row> rows;
        for (size_t i = 0; i < json["points"].size(); ++i) {
            const auto& p = json["points"][i];
            const std::string pointer = "/points/" + std::to_string(i);
            for (const std::string& name : {input, std::string("value")})
                if (!p.is_object() || !p.contains(name) || !p[name].is_number())
                    return fail(ErrorCode::Schema, phrase("a point needs the numbers \"{}\" and \"value\"", input),
                                {{}, pointer, 0, 0});
            rows.push_back({{p[input].get<double>(), p["value"].get<double>()}, 0});
        }
        return rows;
    });
}

Result<std::vector<Row>> columnRows(std::string_view text, bool valueFirst)
{
    return readNumbers(text, 2).map([valueFirst](const NumberTable& table) {
        std::vector<Row> rows;
        for (size_t i = 0; i < table.size(); ++i) {
            const auto row = table.row(i);
            rows.push_back({{row[valueFirst ? 1 : 0], row[valueFirst ? 0 : 1]}, table.lines[i]});
        }
        return rows;
    });
}

/// A coefficient as it stands in a text.
struct Term
{
    std::string name;
    double number = 0;
    int line = 0;
};

/// Names and numbers between tabs, semicolons or commas; none where the text holds no such thing.
std::vector<Term> termsIn(std::string_view text)
{
    std::vector<Term> out;
    for (int number = 1; !text.empty(); ++number) {
        const size_t end = std::min(text.find('\n'), text.size());
        const std::string_view line = text.substr(0, end);
        text.remove_prefix(std::min(end + 1, text.size()));
        const size_t mark = line.find_first_of("\t;,");
        if (mark == std::string_view::npos || line.substr(0, mark) == "of")
            continue;
        const auto value = readCell(line.substr(mark + 1), line[mark]);
        if (!value || std::string_view("cABC").find(line.front()) == std::string_view::npos)
            return {};
        out.push_back({std::string(line.substr(0, mark)), *value, number});
    }
    return out;
}

std::vector<Term> termsOfJson(std::string_view text)
{
    std::vector<Term> out;
    const auto json = document::parse(text);
    if (json && json->is_object() && json->contains("terms") && (*json)["terms"].is_object())
        for (const auto& [name, number] : (*json)["terms"].items())
            if (number.is_number())
                out.push_back({name, number.get<double>(), 0});
    return out;
}

bool isJson(std::string_view text)
{
    const size_t first = text.find_first_not_of(" \t\r\n");
    return first != std::string_view::npos && text[first] == '{';
}

tl::unexpected<Error> refused(const Row& row, std::string sentence)
{
    return fail(ErrorCode::Range, std::move(sentence), {{}, {}, row.line, 0});
}

} // namespace

std::vector<std::string> headings(const Table& table, const job::ScalingSpec& spec)
{
    if (table.formula)
        return {"of", "coefficient"};
    std::vector<std::string> out = {phrase("input ({})", readingUnit(table.axis)), phrase("value ({})", table.unit)};
    if (spec.valueFirst)
        std::swap(out[0], out[1]);
    return out;
}

std::vector<std::vector<std::string>> rowsOf(const Table& table, const parts::Part& sensor,
                                             const job::ScalingSpec& spec)
{
    std::vector<std::vector<std::string>> out;
    if (table.formula) {
        for (const auto& [name, number] : termsOf(*table.formula))
            out.push_back({name, number});
        return out;
    }
    for (const TablePoint& p : table.points)
        out.push_back(cells(p, table.axis, sensor, spec));
    if (spec.falling)
        std::ranges::reverse(out);
    return out;
}

Table inCounts(const Table& table, double volts_per_count)
{
    Table out = table;
    out.axis = units::Dimension::Counts;
    out.points.clear();
    for (const TablePoint& p : table.points) {
        const double counts = std::round(p.reading / volts_per_count);
        if (out.points.empty() || counts > out.points.back().reading)
            out.points.push_back({counts, lookUp(table, counts * volts_per_count)});
    }
    return out;
}

Table asTaken(const Table& table, const job::Job& job, const job::Circuit& circuit)
{
    return circuit.scaling.takes == job::Takes::Counts && table.axis == units::Dimension::Voltage
               ? inCounts(table, readingStep(job, circuit))
               : table;
}

std::string toCsv(const Table& table, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    std::string out = csv::row(headings(table, spec));
    for (const auto& row : rowsOf(table, sensor, spec))
        out += csv::row(row);
    return out;
}

std::string toColumns(const Table& table, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    std::string out;
    for (const auto& row : rowsOf(table, sensor, spec))
        out += row[0] + '\t' + row[1] + '\n';
    return out;
}

nlohmann::json toJson(const Table& table, const parts::Part& sensor)
{
    nlohmann::json points = nlohmann::json::array();
    for (const TablePoint& p : table.points)
        points.push_back({{inputName(table.axis), fields::rounded(p.reading)},
                          {"value", fields::rounded(units::toUnit(p.value, sensor.measures, table.unit))}});
    nlohmann::json out = {{"unit", table.unit}, {"points", points}};
    if (table.formula) {
        nlohmann::json terms = nlohmann::json::object();
        const auto names = termsOf(*table.formula);
        for (size_t i = 0; i < names.size(); ++i)
            terms[names[i].first] = table.formula->terms[i];
        out.update({{"formula", formulaText(*table.formula)}, {"terms", terms}, {"needs", needsOf(*table.formula)}});
    }
    return out;
}

Result<Table> readTable(std::string_view text, const parts::Part& sensor, const job::ScalingSpec& spec,
                        double per_count)
{
    std::string unit = unitOf(sensor, spec);
    const units::Dimension axis = axisOf(sensor);
    const bool json = isJson(text);
    if (!json && !termsIn(text).empty())
        return fail(ErrorCode::Range, phrase("these are coefficients: compared are the points of a table"));
    auto read = json ? jsonRows(text, inputName(axis), unit) : columnRows(text, spec.valueFirst);
    if (!read)
        return tl::make_unexpected(read.error());
    if (!units::measures(unit, sensor.measures))
        return fail(ErrorCode::Range,
                    phrase("the table is in {}, and this ECU has it in {}", unit, unitOf(sensor, spec)));
    std::vector<Row>& rows = *read;
    if (!json && spec.takes == job::Takes::Counts && axis == units::Dimension::Voltage)
        for (Row& row : rows)
            row.point.reading *= per_count;
    if (rows.size() < 2)
        return fail(ErrorCode::Range, phrase("a table needs two points or more"));
    std::ranges::stable_sort(rows, {}, [](const Row& r) { return r.point.reading; });
    const bool rises = rows.back().point.value > rows.front().point.value;
    Table table;
    table.axis = axis;
    table.unit = unitOf(sensor, spec);
    for (size_t i = 0; i < rows.size(); ++i) {
        const TablePoint& p = rows[i].point;
        const std::string here = readingText(p.reading, axis);
        if (i > 0 && p.reading == rows[i - 1].point.reading)
            return refused(rows[i], phrase("there are two points at {}", here));
        if (i > 0 && (p.value > rows[i - 1].point.value) != rises && p.value != rows[i - 1].point.value)
            return refused(rows[i], phrase("the values turn back at {}: one value would stand at two readings", here));
        table.points.push_back({p.reading, units::fromUnit(p.value, sensor.measures, unit)});
    }
    return table;
}

Result<Table> readHeld(std::string_view text, const Table& now, const parts::Part& sensor, const job::ScalingSpec& spec,
                       double per_count)
{
    const std::vector<Term> terms = !now.formula   ? std::vector<Term>()
                                    : isJson(text) ? termsOfJson(text)
                                                   : termsIn(text);
    if (terms.empty())
        return readTable(text, sensor, spec, per_count);
    Table held = now;
    Formula& formula = *held.formula;
    const bool thermistor = formula.takes == job::Takes::SteinhartHart;
    formula.terms.assign(thermistor ? 3 : kMostDegree + 1, 0);
    const auto names = termsOf(formula);
    std::vector<bool> seen(names.size());
    for (const Term& t : terms) {
        const auto at = static_cast<size_t>(
            std::ranges::find(names, t.name, &std::pair<std::string, std::string>::first) - names.begin());
        if (at == names.size() || seen[at])
            return fail(ErrorCode::Schema,
                        at == names.size()
                            ? phrase("this formula has no term \"{}\": it is {}", t.name, formulaText(*now.formula))
                            : phrase("\"{}\" stands twice", t.name),
                        {{}, {}, t.line, 0});
        formula.terms[at] = t.number;
        seen[at] = true;
    }
    if (thermistor && std::ranges::count(seen, true) != 3)
        return fail(ErrorCode::Schema, phrase("the formula needs A, B and C"));
    for (TablePoint& p : held.points) {
        p.value = valueOf(formula, p.reading);
        if (!std::isfinite(p.value))
            return fail(ErrorCode::Range,
                        phrase("these coefficients give no value at {}", readingText(p.reading, held.axis)));
    }
    return held;
}

Difference difference(const Table& before, const Table& after, double per_count)
{
    constexpr int kBetween = 64;
    std::vector<double> readings;
    for (const Table* t : {&before, &after})
        for (const TablePoint& p : t->points)
            readings.push_back(p.reading);
    const auto [least, most] = std::ranges::minmax(readings);
    for (int i = 0; i <= kBetween; ++i)
        readings.push_back(std::lerp(least, most, static_cast<double>(i) / kBetween));
    std::ranges::sort(readings);
    Difference out;
    for (double v : readings) {
        out.places.push_back({v, lookUp(after, v) - lookUp(before, v)});
        if (std::abs(out.places.back().value) >= std::abs(out.worst.value))
            out.worst = out.places.back();
    }
    // Where the old table is level no number of counts stands for the difference; its own neighbourhood decides.
    const double low = lookUp(before, out.worst.reading - per_count),
                 high = lookUp(before, out.worst.reading + per_count);
    const double perCount = std::abs(high - low) / 2;
    out.counts = perCount > 0 ? std::abs(out.worst.value) / perCount : 0;
    return out;
}

} // namespace vicegrip::scaling
