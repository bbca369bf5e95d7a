#include "cli/printing.h"
#include "core/branches/bundle.h"
#include "core/job/json.h"
#include "core/materials/cut_list.h"
#include "core/materials/shopping_list.h"
#include "core/parts/conductor.h"
#include "core/pinning/pin_use.h"
#include "core/pinning/pinning.h"
#include "core/units/shown.h"
#include "core/work/work_steps.h"

#include <cmath>
#include <iostream>

/// The commands of the stage Pins.
namespace vicegrip::cli {
namespace {

using units::Dimension;

constexpr size_t kMostWires = 500;

std::string_view stateWord(pinning::PinState state)
{
    using pinning::PinState;
    switch (state) {
    case PinState::Open:
        return "open";
    case PinState::BlankDue:
        return "blank due";
    case PinState::BlankIn:
        return "blank in";
    case PinState::Planned:
        return "planned";
    case PinState::InHand:
        return "in hand";
    case PinState::Seated:
        return "seated";
    case PinState::Counted:
        return "counted";
    case PinState::Wrong:
        break;
    }
    return "wrong";
}

std::string millimetres(double m)
{
    return m > 0 ? units::format(m, units::Dimension::Length, "mm", 1) : "none of the usual sizes";
}

Json pinJson(const job::Job& job, const pinning::Pin& pin, const parts::Layout& layout, parts::Face face,
             const std::map<job::PointRef, pinning::PinUse>& uses)
{
    const auto count = parts::countOf(layout, pin.at.cavity, face);
    const auto use = uses.find(pin.at);
    Json wires = Json::array();
    for (const job::WireId& w : pin.wires)
        wires.push_back(w.value);
    Json out = {{"cavity", pin.at.cavity},
                {"state", stateWord(pin.state)},
                {"for", use == uses.end() ? "" : use->second.purpose},
                {"wires", wires},
                {"other_end", pinning::otherEnds(job, pin)}};
    if (count)
        out["count"] = parts::spoken(*count);
    if (!pin.trouble.empty())
        out["trouble"] = pin.trouble;
    return out;
}

/// "1.6x7": seven wires of 1.6 mm; a lone diameter is one wire.
Result<void> readWires(const std::string& typed, std::vector<double>& diameters)
{
    const auto times = typed.find('x');
    const auto size = units::parseShown(typed.substr(0, times), Dimension::Length, "mm");
    const auto many =
        times == std::string::npos ? Result<double>(1) : units::parse(typed.substr(times + 1), Dimension::Counts);
    if (!size || !many || !(*size > 0) || !(*many >= 1) || *many != std::floor(*many) ||
        *many > static_cast<double>(kMostWires))
        return fail(ErrorCode::Range,
                    "\"" + typed + "\" is not understood: expected a diameter in mm and how many, such as 1.6x7");
    diameters.insert(diameters.end(), static_cast<size_t>(*many), *size);
    if (diameters.size() > kMostWires)
        return fail(ErrorCode::TooBig, "a bundle has at most " + std::to_string(kMostWires) + " wires");
    return {};
}

} // namespace

int pins(const PinsOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    if (!options.connector.empty() && job::findConnector(*job, options.connector) == nullptr)
        return refuse("the job has no connector \"" + options.connector + "\"", kNoAnswer);
    const parts::Face face = options.face == "mating" ? parts::Face::Mating : parts::Face::Wire;
    const auto uses = pinning::pinUses(*job);
    Json connectors = Json::array();
    for (const job::Connector& c : job->connectors) {
        if (!options.connector.empty() && c.id != options.connector)
            continue;
        const parts::Layout layout = job::faceOf(c);
        Json cavities = Json::array();
        for (const pinning::Pin& pin : pinning::pinsOf(*job, c))
            cavities.push_back(pinJson(*job, pin, layout, face, uses));
        connectors.push_back({{"connector", c.id}, {"label", c.label}, {"face", layout.name}, {"cavities", cavities}});
    }
    if (options.json) {
        std::cout << Json{{"job", job->name}, {"side", fields::enumName(face)}, {"connectors", connectors}}.dump(2)
                  << '\n';
        return kFine;
    }
    Columns columns;
    for (const Json& c : connectors) {
        columns.heading(c["connector"].get<std::string>() + ", " + c["label"].get<std::string>() + ", " +
                        c["face"].get<std::string>() + (face == parts::Face::Wire ? " (wire side)" : " (mating face)"));
        for (const Json& p : c["cavities"])
            if (p["state"] != "open")
                columns.row({p["cavity"], p["state"], p["for"], p["other_end"], p.value("count", "")}, "  ");
    }
    columns.print();
    return kFine;
}

int cut(const ListOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto cuts = materials::cutList(*job);
    if (options.csv) {
        std::cout << materials::toCsv(cuts);
        return kFine;
    }
    Json list = Json::array();
    for (const materials::Cut& c : cuts)
        list.push_back({{"wire", c.wire.value},
                        {"from", c.from},
                        {"to", c.to},
                        {"colour", c.colour},
                        {"area_mm2", fields::rounded(c.area_m2 * 1e6)},
                        {"drawn_m", fields::rounded(c.drawn_m)},
                        {"cut_m", fields::rounded(c.cut_m)},
                        {"strip_from_mm", fields::rounded(c.stripFrom_m * 1e3)},
                        {"strip_to_mm", fields::rounded(c.stripTo_m * 1e3)},
                        {"note", materials::noteOf(c)}});
    if (options.json) {
        std::cout << Json{{"job", job->name}, {"cuts", list}}.dump(2) << '\n';
        return kFine;
    }
    Columns columns;
    for (const materials::Cut& c : cuts)
        columns.row({c.wire.value, units::format(c.cut_m, units::Dimension::Length, "m", 2), parts::areaText(c.area_m2),
                     c.colour, c.from, c.to, materials::noteShown(c)});
    columns.print();
    return kFine;
}

int buy(const ListOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    const auto items = materials::shoppingList(*job);
    if (options.csv) {
        std::cout << materials::toCsv(items);
        return kFine;
    }
    if (options.json) {
        Json list = Json::array();
        for (const materials::Item& i : items)
            list.push_back(
                {{"item", i.what}, {"unit", i.unit}, {"needed", i.needed}, {"spare", i.spare}, {"why_spare", i.why}});
        std::cout << Json{{"job", job->name}, {"items", list}}.dump(2) << '\n';
        return kFine;
    }
    Columns columns;
    for (const materials::Item& i : items)
        columns.row({i.shown, materials::amountText(i, i.needed + i.spare),
                     materials::amountText(i, i.needed) + " needed" + (i.spare > 0 ? ", " + i.why : std::string())});
    columns.print();
    return kFine;
}

int bundle(const BundleOptions& options)
{
    std::vector<double> diameters;
    for (const std::string& typed : options.wires)
        if (const auto read = readWires(typed, diameters); !read)
            return refuse(read.error().sentence, kUsage);
    const branches::Packing packed = branches::pack(diameters);
    const branches::Dressing over = branches::dress(packed.diameter_m);
    if (options.json) {
        const auto mm = [](double m) { return fields::rounded(m * 1e3); };
        std::cout << Json{{"wires", diameters.size()},
                          {"packed_mm", mm(packed.diameter_m)},
                          {"bundle_mm", mm(over.bundle_m)},
                          {"sleeve_mm", mm(over.sleeve_m)},
                          {"shrink_supplied_mm", mm(over.shrinkSupplied_m)},
                          {"shrink_recovered_mm", mm(over.shrinkRecovered_m)},
                          {"grommet_mm", mm(over.hole_m)},
                          {"wall_hole_mm", mm(over.wall_m)}}
                         .dump(2)
                  << '\n';
        return kFine;
    }
    std::cout << padded("packed", 16) << millimetres(packed.diameter_m) << ", " << diameters.size() << " wires\n"
              << padded("as it lies", 16) << millimetres(over.bundle_m) << " (typical looseness 10 %)\n"
              << padded("sleeve", 16) << millimetres(over.sleeve_m) << '\n'
              << padded("shrink, 2:1", 16) << millimetres(over.shrinkSupplied_m) << " supplied, "
              << millimetres(over.shrinkRecovered_m) << " recovered\n"
              << padded("grommet", 16) << millimetres(over.hole_m) << " bore, in a hole of " << millimetres(over.wall_m)
              << '\n';
    return kFine;
}

int plan(const PlanOptions& options)
{
    const auto job = job::readFile(options.job);
    if (!job)
        return refuse(job.error(), kUnreadable);
    job::Job stated = *job;
    for (const std::string& gate : options.closed)
        work::setClosed(stated, gate, true);
    const auto steps = work::steps(stated);
    const auto order = work::order(steps);
    if (!order)
        return refuse(order.error(), kNoAnswer);
    const auto costs = work::costs(stated);
    if (options.json) {
        Json list = Json::array();
        for (size_t i : order->order)
            list.push_back({{"id", steps[i].id},
                            {"what", steps[i].what},
                            {"place", steps[i].place},
                            {"tools", steps[i].tools},
                            {"why", steps[i].why}});
        std::cout << Json{{"job", job->name},
                          {"moves", order->moves},
                          {"optimal", order->optimal},
                          {"costs", costs},
                          {"steps", list}}
                         .dump(2)
                  << '\n';
        return kFine;
    }
    Columns columns;
    std::string place;
    for (size_t i : order->order) {
        if (steps[i].place != place)
            columns.heading(place = steps[i].place);
        columns.row({steps[i].what, steps[i].tools, steps[i].why}, "  ");
    }
    columns.print();
    for (const std::string& c : costs)
        std::cout << "costs: " << c << '\n';
    std::cout << order->order.size() << " steps, " << order->moves << " changes of place"
              << (order->optimal ? ", proved the fewest\n" : ", the fewest found\n");
    return kFine;
}

} // namespace vicegrip::cli
