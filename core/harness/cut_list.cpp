#include "core/harness/cut_list.h"

#include "core/base/csv.h"
#include "core/harness/pinning.h"
#include "core/harness/tree.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <tuple>

namespace vicegrip::harness {
namespace {

using job::PointRef;

constexpr double kSpliceStrip_m = 6e-3; ///< of a butt splice (common practice, no source: about 6 mm for 20 gauge)
constexpr double kLugStrip_m = 8e-3; ///< of a ring terminal on a stud (typical)

/// Terminal families and splice places, looked up once for all wires.
class Ends
{
  public:
    explicit Ends(const job::Job& job) : m_job(job)
    {
        int splices = 0;
        for (const job::Joint& j : job.joints)
            if (j.kind == job::JointKind::Splice)
                m_splices[j.id] = splices++;
        for (const job::Connector& c : job.connectors) {
            const parts::Layout face = faceOf(c);
            for (const parts::Cavity& place : parts::cavities(face))
                if (place.terminal != nullptr)
                    m_families[{c.id, place.name}] = *place.terminal;
        }
    }

    [[nodiscard]] const parts::TerminalFamily* family(const PointRef& end) const
    {
        const auto it = m_families.find(end);
        return it == m_families.end() ? nullptr : &it->second;
    }
    [[nodiscard]] double strip_m(const PointRef& end) const
    {
        if (const auto* f = family(end))
            return f->strip_m;
        return m_splices.contains(end.owner) ? kSpliceStrip_m : kLugStrip_m;
    }
    /// How much further from the plug the splice at this end sits than the first; nothing for other ends.
    [[nodiscard]] double stagger_m(const PointRef& end) const
    {
        const auto it = m_splices.find(end.owner);
        constexpr int kTurn = 5; // five bulges side by side are past each other
        return it == m_splices.end() ? 0 : kStagger_m * (it->second % kTurn);
    }
    [[nodiscard]] bool isPlug(const PointRef& end) const { return job::findConnector(m_job, end.owner) != nullptr; }

  private:
    const job::Job& m_job;
    std::map<PointRef, parts::TerminalFamily> m_families;
    std::map<std::string, int> m_splices; ///< place in the drawing
};

double spare(double needed)
{
    return std::ceil(needed / 3);
}

/// Sleeves by the metre, a piece of shrink at each plug, a grommet for each wall.
void dressings(const job::Job& job, std::vector<Item>& out)
{
    const auto millimetres = [](double m) { return units::formatNumber(m * 1e3, 1) + " mm"; };
    std::map<double, double> sleeves;
    std::map<std::pair<double, double>, double> shrinks, grommets;
    const std::vector<Stretch> all = stretches(job);
    for (size_t i = 0; i < all.size(); ++i) {
        const job::Branch& b = job.branches[i];
        const Dressing& d = all[i].dressing;
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
        out.push_back({"Sleeve " + millimetres(size), "m", tenths(length), 0.5, "half a metre for ends and branches"});
    for (const auto& [size, length] : shrinks)
        out.push_back({"Shrink " + millimetres(size.first) + ", to " + millimetres(size.second), "m", tenths(length),
                       0.2, "four pieces, for what must be done again"});
    for (const auto& [size, count] : grommets)
        out.push_back(
            {"Grommet " + millimetres(size.first) + ", wall hole " + millimetres(size.second), "pcs", count, 0, {}});
}

} // namespace

std::vector<Cut> cutList(const job::Job& job)
{
    const Ends ends(job);
    std::vector<Cut> out;
    for (const job::Wire& w : job.wires) {
        Cut cut{w.id, job::spoken(job, w.from), job::spoken(job, w.to), w.colour, w.area_m2, w.length_m, 0, 0, 0, {}};
        const double stagger = ends.stagger_m(w.from) + ends.stagger_m(w.to);
        const double loops = kServiceLoop_m * ((ends.isPlug(w.from) ? 1 : 0) + (ends.isPlug(w.to) ? 1 : 0));
        const double length = w.length_m * (1 + kSlack) + loops + stagger;
        cut.cut_m = std::ceil(length * 100 - 1e-6) / 100;
        cut.stripFrom_m = ends.strip_m(w.from);
        cut.stripTo_m = ends.strip_m(w.to);
        if (stagger > 0)
            cut.note = "splice " + units::formatNumber(stagger * 1e3, 0) + " mm further out";
        out.push_back(std::move(cut));
    }
    std::ranges::stable_sort(out, [](const Cut& a, const Cut& b) {
        return std::tuple(-a.area_m2, a.colour, -a.cut_m) < std::tuple(-b.area_m2, b.colour, -b.cut_m);
    });
    return out;
}

std::vector<Item> shoppingList(const job::Job& job)
{
    const Ends ends(job);
    std::vector<Item> out;
    std::map<std::pair<double, std::string>, double> metres;
    for (const Cut& c : cutList(job))
        metres[{-c.area_m2, c.colour}] += c.cut_m;
    for (const auto& [kind, length] : metres)
        out.push_back({"Wire " + parts::areaText(-kind.first) + " " + kind.second, "m",
                       std::ceil(length * 10 - 1e-9) / 10, 1, "a metre for what is cut wrong"});
    std::map<std::string, double> terminals, seals, blanks, plugs;
    for (const job::Connector& c : job.connectors) {
        plugs[c.layout ? c.layout->name : faceOf(c).name + ", face not described"] += 1;
        for (const Pin& pin : pinsOf(job, c)) {
            const parts::TerminalFamily* f = ends.family(pin.at);
            if (f == nullptr)
                continue;
            const std::string name = f->name.empty() ? "family not named" : f->name;
            if (!pin.wires.empty()) {
                terminals[name] += 1;
                seals[name] += f->sealed ? static_cast<double>(pin.wires.size()) : 0;
            } else if (!pin.steps.empty()) {
                blanks[name] += 1;
            }
        }
    }
    const auto add = [&](const char* what, const std::map<std::string, double>& all, bool spares) {
        for (const auto& [name, count] : all)
            if (count > 0)
                out.push_back({what + name, "pcs", count, spares ? spare(count) : 0,
                               spares ? "one more for each three" : std::string()});
    };
    add("Terminal, ", terminals, true);
    add("Seal for ", seals, true);
    add("Blank plug for ", blanks, true);
    add("", plugs, false);
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
            out.push_back({what, "pcs", count, spare(count), "one more for each three"});
    };
    joints("Splice", static_cast<double>(splices.size()));
    joints("Ring terminal", lugs);
    dressings(job, out);
    std::map<std::string, double> resistors;
    for (const job::Resistor& r : job.resistors)
        resistors[units::formatOhms(r.ohm) + ", " + units::formatNumber(r.tolerance * 100, 0) + " %"] += 1;
    add("Resistor ", resistors, true);
    return out;
}

std::string toCsv(const std::vector<Cut>& cuts)
{
    std::string out = csv::row(
        {"wire", "from", "to", "colour", "area_mm2", "drawn_m", "cut_m", "strip_from_mm", "strip_to_mm", "note"});
    for (const Cut& c : cuts)
        out +=
            csv::row({c.wire.value, c.from, c.to, c.colour, units::formatNumber(c.area_m2 * 1e6, 2),
                      units::formatNumber(c.drawn_m, 3), units::formatNumber(c.cut_m, 2),
                      units::formatNumber(c.stripFrom_m * 1e3, 1), units::formatNumber(c.stripTo_m * 1e3, 1), c.note});
    return out;
}

std::string toCsv(const std::vector<Item>& items)
{
    std::string out = csv::row({"item", "unit", "needed", "spare", "buy", "why_spare"});
    for (const Item& i : items)
        out += csv::row({i.what, i.unit, units::formatNumber(i.needed, 1), units::formatNumber(i.spare, 1),
                         units::formatNumber(i.needed + i.spare, 1), i.why});
    return out;
}

} // namespace vicegrip::harness
