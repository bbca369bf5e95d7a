#include "core/lists/lists.h"

#include "core/base/csv.h"
#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/job/check.h"
#include "core/job/json.h"
#include "core/lists/taking.h"
#include "core/pinning/pin_use.h"
#include "core/pinning/pinning.h"
#include "core/units/units.h"

#include <algorithm>
#include <set>

namespace vicegrip::lists {
namespace {

constexpr Kind kKinds[] = {Kind::Wires, Kind::Cavities, Kind::Parts};

constexpr Column kWires[] = {{"wire", key("its name; empty: a new wire")},
                             {"from", key("CLT.1, A.7, S2; both ends empty: the wire is taken out")},
                             {"to", key("the other end")},
                             {"colour", key("letters of IEC 60757, a tracer after a slash")},
                             {"area_mm2", key("mm², or with its unit: 20 AWG")},
                             {"length_m", key("m, or with its unit: 85 cm")}};
constexpr Column kCavities[] = {{"plug", key("the plug")},
                                {"cavity", key("the cavity; with several wires, a row each")},
                                {"wire", key("the wire that ends there: it moves to where it stands here")},
                                {"other_end", key("where the wire leads"), false},
                                {"for", key("what the cavity is for"), false}};
constexpr Column kParts[] = {{"circuit", key("the circuit, as the job's file names it")},
                             {"name", key("what it is called")},
                             {"part", key("the part it leads to, by its name in the job or the library")},
                             {"seat", key("the input or output it sits on; empty: none")},
                             {"part_name", key("the part in words"), false},
                             {"plug", key("its plug"), false}};

std::string number(double value)
{
    return units::formatNumber(value, 3);
}

std::string wiresCsv(const job::Job& job)
{
    std::string out;
    for (const job::Wire& w : job.wires)
        out +=
            csv::row({w.id.value, w.from.text(), w.to.text(), w.colour, number(w.area_m2 * 1e6), number(w.length_m)});
    return out;
}

std::string cavitiesCsv(const job::Job& job)
{
    const auto uses = pinning::pinUses(job);
    std::string out;
    for (const job::Connector& plug : job.connectors)
        for (const pinning::Pin& pin : pinning::pinsOf(job, plug)) {
            const auto use = uses.find(pin.at);
            const std::string purpose = use == uses.end() ? std::string() : use->second.purpose;
            for (const job::WireId& id : pin.wires) {
                const auto w = std::ranges::find(job.wires, id, &job::Wire::id);
                out +=
                    csv::row({plug.id, pin.at.cavity, id.value, (w->from == pin.at ? w->to : w->from).text(), purpose});
            }
            if (pin.wires.empty())
                out += csv::row({plug.id, pin.at.cavity, {}, {}, purpose});
        }
    return out;
}

std::string partsCsv(const job::Job& job)
{
    std::string out;
    for (const job::Circuit& c : job.circuits) {
        const parts::Part* part = job::partOf(job, c);
        const job::Device* device = job::find(job, c.device);
        out += csv::row({c.id.value, c.name, part == nullptr ? std::string() : part->id.value, job::seatOf(c),
                         part == nullptr ? std::string() : part->name,
                         device == nullptr ? std::string() : device->connector});
    }
    return out;
}

/// By the columns without which it is none.
std::optional<Kind> kindOf(const Table& table)
{
    const auto has = [&](const char* name) { return std::ranges::count(table.columns, name) > 0; };
    if (has("circuit"))
        return Kind::Parts;
    if (has("plug") && has("cavity") && has("wire"))
        return Kind::Cavities;
    return has("wire") ? std::optional(Kind::Wires) : std::nullopt;
}

/// Cells that fall beside their columns would be read as something else.
void checkShape(Taking& taking, const Table& table, Kind kind)
{
    for (const std::string& name : table.columns)
        if (std::ranges::find(columnsOf(kind), name, &Column::name) == columnsOf(kind).end() && !name.empty())
            taking.assume(1, phrase("the column \"{}\" is passed over", name));
    for (const Row& row : table.rows)
        if (row.count != table.columns.size())
            taking.stop(row.line, phrase("{} cells under {} columns: is a comma in a cell without quotes, or is the "
                                         "list cut off?",
                                         std::to_string(row.count), std::to_string(table.columns.size())));
}

} // namespace

std::span<const Kind> allKinds()
{
    return kKinds;
}

std::string_view kindName(Kind kind)
{
    switch (kind) {
    case Kind::Wires:
        return key("wires");
    case Kind::Cavities:
        return key("cavities");
    case Kind::Parts:
        break;
    }
    return key("parts");
}

std::span<const Column> columnsOf(Kind kind)
{
    switch (kind) {
    case Kind::Wires:
        return kWires;
    case Kind::Cavities:
        return kCavities;
    case Kind::Parts:
        break;
    }
    return kParts;
}

std::string toCsv(const job::Job& job, Kind kind)
{
    std::vector<std::string> names;
    for (const Column& c : columnsOf(kind))
        names.emplace_back(c.name);
    const std::string head = csv::row(names);
    switch (kind) {
    case Kind::Wires:
        return head + wiresCsv(job);
    case Kind::Cavities:
        return head + cavitiesCsv(job);
    case Kind::Parts:
        break;
    }
    return head + partsCsv(job);
}

std::optional<std::string> cellOf(const Row& row, const std::string& column)
{
    const auto it = row.cells.find(column);
    return it == row.cells.end() ? std::nullopt : std::optional(it->second);
}

Result<Reading> read(const job::Job& job, std::string_view text, const std::vector<parts::Part>& library)
{
    return readTable(text).and_then([&](const Table& table) -> Result<Reading> {
        const auto kind = kindOf(table);
        if (!kind)
            return fail(ErrorCode::Malformed,
                        phrase("it is no list of wires (a column wire), of cavities (plug, cavity, wire) or of parts "
                               "(circuit)"),
                        {{}, {}, 1, 0});
        Taking taking{job, {}};
        checkShape(taking, table, *kind);
        const auto stopped = [&] { return std::ranges::any_of(taking.notes, &Note::stops); };
        if (!stopped() && *kind == Kind::Wires)
            takeWires(taking, table.rows);
        else if (!stopped() && *kind == Kind::Cavities)
            takeCavities(taking, table.rows);
        else if (!stopped())
            takeParts(taking, table.rows, library);
        if (!stopped())
            if (const auto sound = job::check(taking.job).and_then([&] { return job::checkWritten(taking.job); });
                !sound)
                taking.stop(0, sound.error().text());
        std::ranges::stable_sort(taking.notes, {}, &Note::line);
        Reading out{*kind, static_cast<int>(table.rows.size()), std::move(taking.notes), {}};
        if (std::ranges::none_of(out.notes, &Note::stops))
            out.job = std::move(taking.job);
        return out;
    });
}

Result<Reading> readFile(const job::Job& job, const std::filesystem::path& file,
                         const std::vector<parts::Part>& library)
{
    constexpr size_t kMost = 5 << 20; // what is above the table's own limit is refused there
    return document::inFile(
        document::readFile(file, kMost).and_then([&](const std::string& text) { return read(job, text, library); }),
        file);
}

} // namespace vicegrip::lists
