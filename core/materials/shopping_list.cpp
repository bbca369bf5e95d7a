#include "core/materials/shopping_list.h"

#include "core/base/csv.h"
#include "core/base/phrase.h"
#include "core/branches/tree.h"
#include "core/materials/cut_list.h"
#include "core/parts/conductor.h"
#include "core/pinning/pinning.h"
#include "core/units/units.h"

#include <cmath>
#include <map>
#include <set>

namespace vicegrip::materials {
namespace {

using job::PointRef;
using units::Dimension;

std::string whySpareOf(int each)
{
    switch (each) {
    case 1:
        return phrase("one more for each");
    case 2:
        return phrase("one more for each two");
    case 3:
        return phrase("one more for each three");
    case 4:
        return phrase("one more for each four");
    case 5:
        return phrase("one more for each five");
    default:
        return each > 0 ? phrase("one more for each {}", std::to_string(each)) : std::string();
    }
}

using Names = std::vector<std::string>;

/// As lists of files have it, in English: names in the places of {}.
std::string plain(std::string_view words, const Names& names)
{
    std::string out(words);
    for (const std::string& name : names)
        if (const size_t place = out.find("{}"); place != std::string::npos)
            out.replace(place, 2, name);
    return out;
}

/// As people read it.
std::string spoken(std::string_view words, const Names& names)
{
    const std::vector<std::string_view> views(names.begin(), names.end());
    return phraseOf(words, views);
}

/// Sleeves by the metre, a piece of shrink at each plug, a grommet for each wall.
void dressings(const job::Job& job, std::vector<Item>& out)
{
    const auto add = [&](const std::string& unit, double needed, double spare, const std::string& why,
                         const char* words, std::initializer_list<double> sizes) {
        Names inFiles, toPeople;
        for (const double m : sizes) {
            inFiles.push_back(units::formatIn(m, Dimension::Length, "mm", 1));
            toPeople.push_back(units::format(m, Dimension::Length, "mm", 1));
        }
        out.push_back({plain(words, inFiles), unit, needed, spare, why, spoken(words, toPeople)});
    };
    std::map<double, double> sleeves;
    std::map<std::pair<double, double>, double> shrinks, grommets;
    const std::vector<branches::Stretch> all = branches::stretches(job);
    for (size_t i = 0; i < all.size(); ++i) {
        const job::Branch& b = job.branches[i];
        const branches::Dressing& d = all[i].dressing;
        if (d.sleeve_m > 0)
            sleeves[d.sleeve_m] += b.length_m;
        if (b.wall && d.hole_m > 0)
            grommets[{d.hole_m, d.wall_m}] += 1;
        for (const std::string* end : {&b.from, &b.to})
            if (d.shrinkSupplied_m > 0 && job::findConnector(job, *end) != nullptr)
                shrinks[{d.shrinkSupplied_m, d.shrinkRecovered_m}] += kShrink_m;
    }
    const auto tenths = [](double m) { return std::ceil(m * 10 - 1e-9) / 10; };
    for (const auto& [size, length] : sleeves)
        add("m", tenths(length), 0.5, phrase("for ends and branches"), key("Sleeve {}"), {size});
    for (const auto& [size, length] : shrinks)
        add("m", tenths(length), 0.2, phrase("four pieces, for what must be done again"), key("Shrink {}, to {}"),
            {size.first, size.second});
    for (const auto& [size, count] : grommets)
        add("pcs", count, 0, {}, key("Grommet {}, wall hole {}"), {size.first, size.second});
}

/// Bought by the number of their cores and the thickest of them; as long as the longest core is cut.
void shieldedLeads(const job::Job& job, const std::map<job::WireId, double>& cut_m, const Habits& habits,
                   std::vector<Item>& out)
{
    std::map<std::pair<size_t, double>, double> metres; // by cores, area
    for (const job::Lead& lead : job.leads) {
        double longest_m = 0, area_m2 = 0;
        for (const job::Wire& w : job.wires)
            if (std::ranges::find(lead.cores, w.id) != lead.cores.end()) {
                longest_m = std::max(longest_m, cut_m.at(w.id));
                area_m2 = std::max(area_m2, w.area_m2);
            }
        if (lead.shield)
            metres[{lead.cores.size(), area_m2}] += longest_m;
    }
    for (const auto& [kind, length] : metres) {
        const auto words = key("Shielded lead, {} x {}");
        const std::string cores = std::to_string(kind.first);
        out.push_back({plain(words, {cores, units::formatIn(kind.second, Dimension::Area, "mm²", 3)}), "m",
                       std::ceil(length * 10 - 1e-9) / 10, habits.spareWire_m, phrase("for what is cut wrong"),
                       spoken(words, {cores, parts::areaText(kind.second)})});
    }
}

} // namespace

std::vector<Item> shoppingList(const job::Job& job, const Habits& habits)
{
    const auto spare = [&](double needed) {
        return habits.spareForEach > 0 ? std::ceil(needed / habits.spareForEach) : 0;
    };
    const std::string whySpare = whySpareOf(habits.spareForEach);
    std::vector<Item> out;
    std::map<std::pair<double, std::string>, double> metres;
    std::map<job::WireId, double> cut_m;
    for (const Cut& c : cutList(job, habits)) {
        cut_m[c.wire] = c.cut_m;
        if (!c.shielded)
            metres[{-c.area_m2, c.colour}] += c.cut_m;
    }
    for (const auto& [kind, length] : metres)
        out.push_back({plain("Wire {} {}", {units::formatIn(-kind.first, Dimension::Area, "mm²", 3), kind.second}), "m",
                       std::ceil(length * 10 - 1e-9) / 10, habits.spareWire_m, phrase("for what is cut wrong"),
                       phrase("Wire {} {}", parts::areaText(-kind.first), kind.second)});
    shieldedLeads(job, cut_m, habits, out);
    std::map<std::string, double> terminals, seals, blanks, plugs;
    for (const job::Connector& c : job.connectors) {
        const parts::Layout face = job::faceOf(c);
        plugs[c.layout ? c.layout->name : phrase("{}, face not described", faceOf(c).name)] += 1;
        std::map<std::string, const parts::TerminalFamily*> families; // by cavity
        for (const parts::Cavity& place : parts::cavities(face))
            families[place.name] = place.terminal;
        for (const pinning::Pin& pin : pinning::pinsOf(job, c)) {
            const parts::TerminalFamily* f = families[pin.at.cavity];
            if (f == nullptr)
                continue;
            const std::string name = f->name.empty() ? phrase("family not named") : f->name;
            if (!pin.wires.empty()) {
                terminals[name] += 1;
                seals[name] += f->sealed ? static_cast<double>(pin.wires.size()) : 0;
            } else if (!pin.steps.empty()) {
                blanks[name] += 1;
            }
        }
    }
    const auto add = [&](const char* words, const std::map<std::string, double>& all, bool spares) {
        for (const auto& [name, count] : all)
            if (count > 0)
                out.push_back({plain(words, {name}), "pcs", count, spares ? spare(count) : 0,
                               spares ? whySpare : std::string(), spoken(words, {name})});
    };
    add(key("Terminal, {}"), terminals, true);
    add(key("Seal for {}"), seals, true);
    add(key("Blank plug for {}"), blanks, true);
    add("{}", plugs, false);
    double lugs = 0;
    std::set<std::string> splices;
    for (const job::Wire& w : job.wires)
        for (const PointRef* end : {&w.from, &w.to})
            if (const job::Joint* j = job::findJoint(job, end->owner)) {
                if (j->kind == job::JointKind::Splice)
                    splices.insert(j->id);
                else
                    lugs += 1;
            }
    const auto joints = [&](const char* what, double count) {
        if (count > 0)
            out.push_back({what, "pcs", count, spare(count), whySpare, phrase(what)});
    };
    joints(key("Splice"), static_cast<double>(splices.size()));
    joints(key("Ring terminal"), lugs);
    dressings(job, out);
    std::map<std::string, double> resistors;
    for (const job::Resistor& r : job.resistors)
        resistors[units::formatOhms(r.ohm) + ", " + units::formatNumber(r.tolerance * 100, 0) + " %"] += 1;
    add(key("Resistor {}"), resistors, true);
    return out;
}

std::string amountText(const Item& item, double amount)
{
    return item.unit == "m" ? units::format(amount, units::Dimension::Length, "m", 1)
                            : phrase(key("{} pcs"), units::formatNumber(amount, 0));
}

std::string toCsv(const std::vector<Item>& items)
{
    std::string out = csv::row({"item", "unit", "needed", "spare", "buy", "why_spare"});
    for (const Item& i : items)
        out += csv::row({i.what, i.unit, units::formatNumber(i.needed, 1), units::formatNumber(i.spare, 1),
                         units::formatNumber(i.needed + i.spare, 1), i.why});
    return out;
}

} // namespace vicegrip::materials
