#include "core/base/phrase.h"
#include "core/compare/told.h"
#include "core/parts/describe.h"
#include "core/units/units.h"

#include <cmath>
#include <nlohmann/json.hpp>
#include <sstream>

/// What was drawn otherwise: circuits, wires, cavities, parts.
namespace vicegrip::compare {
namespace {

/// To a thousandth, unless that is all that differs.
std::string exactly(double value, double other, double unit, units::Dimension dimension)
{
    constexpr double kLastDigit = 1e-3;
    const double rounded = std::round(value / unit / kLastDigit) * kLastDigit;
    const bool asOther = rounded == std::round(other / unit / kLastDigit) * kLastDigit && value != other;
    return units::formatExact(asOther ? value : rounded * unit, dimension);
}

std::string areaAndColour(const job::Wire& w, const job::Wire& other)
{
    return w.colour + " " + exactly(w.area_m2, other.area_m2, 1e-6, units::Dimension::Area);
}

std::string metres(double m, double other)
{
    return exactly(m, other, 1, units::Dimension::Length);
}

std::string seatText(const job::Job& job, const job::Circuit& c)
{
    if (!job::isSeated(c))
        return phrase("no seat");
    std::string out = job::seatOf(c);
    for (const job::PointRef& at : job::seatCavities(job, c))
        out += ", " + job::spoken(job, at);
    return out;
}

std::string partName(const job::Job& job, const job::Circuit& c)
{
    const parts::Part* part = job::partOf(job, c);
    return part == nullptr ? std::string() : part->name;
}

/// Where its two ends are, told from one to the other.
std::string waysOf(const job::Job& job, const job::Wire& w)
{
    return phrase("{} to {}", job::spoken(job, w.from), job::spoken(job, w.to));
}

/// Wires by the place they end in.
std::map<job::PointRef, std::string> ends(const job::Job& job)
{
    std::map<job::PointRef, std::string> out;
    for (const job::Wire& w : job.wires)
        for (const job::PointRef& end : {w.from, w.to}) {
            std::string& held = out[end];
            held += (held.empty() ? "" : ", ") + w.id.value;
        }
    return out;
}

std::string limitsText(const job::Circuit& c)
{
    const auto volts = [](double v) { return units::format(v, units::Dimension::Voltage, "V", 3); };
    return c.limits ? phrase("closed {}, open {}", volts(c.limits->closed_v), volts(c.limits->open_v)) : std::string();
}

std::string amps(double a)
{
    return a > 0 ? units::format(a, units::Dimension::Current, "A", 1) : phrase("not said");
}

using Lines = std::map<std::string, std::string>;

std::string at(const Lines& lines, const std::string& key)
{
    const auto it = lines.find(key);
    return it == lines.end() ? std::string() : it->second;
}

/// The lines of a part's description by their keys; what has none is one text.
Lines linesOf(const parts::Part& part)
{
    Lines out;
    std::istringstream lines(parts::textOf(part));
    for (std::string line; std::getline(lines, line);) {
        const size_t colon = line.find(": ");
        std::string& held = out[colon == std::string::npos ? "table" : line.substr(0, colon)];
        held += (held.empty() ? "" : "; ") + (colon == std::string::npos ? line : line.substr(colon + 2));
    }
    return out;
}

/// What its description does not say: members of the file that change no line of it, or go from it.
void undescribed(Told& told, const parts::Part& then, const parts::Part& now)
{
    using nlohmann::json;
    const json was = fields::toJson(then), is = fields::toJson(now);
    const Lines lines = linesOf(then);
    const json before = was.flatten(), after = is.flatten();
    std::set<std::string> members;
    for (const auto* side : {&before, &after})
        for (const auto& [member, value] : side->items())
            members.insert(member);
    const auto shown = [](const json& side, const std::string& member) {
        const auto it = side.find(member);
        return it == side.end() ? std::string() : it->dump();
    };
    for (const std::string& member : members) {
        if (shown(before, member) == shown(after, member))
            continue;
        const json::json_pointer way(member);
        json one = was; // with this alone as it is now
        if (after.contains(member))
            one[way] = after[member];
        else if (one[way.parent_pointer()].is_object())
            one[way.parent_pointer()].erase(way.back());
        const auto part = parts::readPart(one);
        if (!part || linesOf(*part) != lines)
            continue; // its lines say it
        Way names;
        for (json::json_pointer at = way; !at.empty(); at.pop_back())
            names.insert(names.begin(), at.back());
        told.tell(About::Part, saidOfPart(now.name, names, before.value(member, json()), after.value(member, json())));
    }
}

std::string joined(const std::vector<job::WireId>& wires)
{
    std::string out;
    for (const job::WireId& w : wires)
        out += (out.empty() ? "" : ", ") + w.value;
    return out;
}

} // namespace

void circuits(Told& told, const job::Job& before, const job::Job& after)
{
    for (const auto& [then, now] : paired(before.circuits, after.circuits, [](const auto& c) { return c.id.value; })) {
        if (then == nullptr || now == nullptr) {
            const job::Circuit& c = then == nullptr ? *now : *then;
            told.tell(About::Circuit, c.id, c.name, then == nullptr ? "" : seatText(before, *then),
                      now == nullptr ? "" : seatText(after, *now));
            continue;
        }
        told.tell(About::Circuit, now->id, phrase("{}, name", now->name), then->name, now->name);
        told.tell(About::Circuit, now->id, phrase("{}, seat", now->name), seatText(before, *then),
                  seatText(after, *now));
        const parts::Part *was = job::partOf(before, *then), *is = job::partOf(after, *now);
        if (was == nullptr || is == nullptr || was->id != is->id) // of the same one its own name is told
            told.tell(About::Circuit, now->id, phrase("{}, part", now->name), partName(before, *then),
                      partName(after, *now));
        told.tell(About::Circuit, now->id, phrase("{}, limits", now->name), limitsText(*then), limitsText(*now));
    }
}

void wires(Told& told, const job::Job& before, const job::Job& after)
{
    for (const auto& [then, now] : paired(before.wires, after.wires, [](const auto& w) { return w.id.value; })) {
        const std::string name = phrase("Wire {}", (then == nullptr ? now : then)->id.value);
        if (then == nullptr || now == nullptr) {
            const auto text = [](const job::Job& job, const job::Wire* w) {
                return w == nullptr
                           ? std::string()
                           : areaAndColour(*w, *w) + ", " + metres(w->length_m, w->length_m) + ", " + waysOf(job, *w);
            };
            told.tell(About::Wire, {}, name, text(before, then), text(after, now));
            continue;
        }
        told.tell(About::Wire, {}, phrase("{}, colour and area", name), areaAndColour(*then, *now),
                  areaAndColour(*now, *then));
        told.tell(About::Wire, {}, phrase("{}, length", name), metres(then->length_m, now->length_m),
                  metres(now->length_m, then->length_m));
    }
}

void cavities(Told& told, const job::Job& before, const job::Job& after)
{
    // Of a wire that came or went, its own line tells the ends.
    std::set<std::string> both;
    for (const auto& [then, now] : paired(before.wires, after.wires, [](const auto& w) { return w.id.value; }))
        if (then != nullptr && now != nullptr)
            both.insert(then->id.value);
    const auto kept = [&](const job::Job& job) {
        job::Job some;
        for (const job::Wire& w : job.wires)
            if (both.contains(w.id.value))
                some.wires.push_back(w);
        return ends(some);
    };
    const auto then = kept(before), now = kept(after);
    std::set<job::PointRef> places;
    for (const auto* side : {&then, &now})
        for (const auto& [place, held] : *side)
            places.insert(place);
    for (const job::PointRef& place : places) {
        const auto text = [&](const auto& side) {
            const auto it = side.find(place);
            return it == side.end() ? phrase("no wire") : it->second;
        };
        const std::string spoken = job::spoken(after, place);
        told.tell(About::Cavity, {}, spoken.empty() ? job::spoken(before, place) : spoken, text(then), text(now));
    }
}

/// What no fact holds of fuses, leads and stretches: no reading rests on it.
void fitted(Told& told, const job::Job& before, const job::Job& after)
{
    const auto name = [](const auto& x) { return x.label.empty() ? x.id : x.label; };
    for (const auto& [then, now] : paired(before.switches, after.switches, [](const auto& s) { return s.id; }))
        if (then != nullptr && now != nullptr) {
            told.tell(About::Part, {}, phrase("{}, label", now->id), then->label, now->label);
            told.tell(About::Part, {}, phrase("{}, rating", name(*now)), amps(then->rating_a), amps(now->rating_a));
        }
    for (const auto& [then, now] : paired(before.leads, after.leads, [](const auto& l) { return l.id; }))
        if (then == nullptr || now == nullptr)
            told.tell(About::Part, {}, phrase("Lead {}", (then == nullptr ? now : then)->id),
                      then == nullptr ? "" : joined(then->cores), now == nullptr ? "" : joined(now->cores));
    const auto way = [](const job::Branch& b) { return b.from + " – " + b.to; };
    for (const auto& [then, now] : paired(before.branches, after.branches, way)) {
        const double was = (then == nullptr ? now : then)->length_m, is = (now == nullptr ? then : now)->length_m;
        told.tell(About::Part, {}, phrase("Stretch {}", way(then == nullptr ? *now : *then)),
                  then == nullptr ? "" : metres(was, is), now == nullptr ? "" : metres(is, was));
    }
}

void partsOf(Told& told, const job::Job& before, const job::Job& after)
{
    const auto label = [](const auto* thing) {
        return thing == nullptr ? std::string() : thing->label.empty() ? phrase("there") : thing->label;
    };
    for (const auto& [then, now] : paired(before.connectors, after.connectors, [](const auto& c) { return c.id; }))
        told.tell(About::Part, {}, phrase("Plug {}", (then == nullptr ? now : then)->id), label(then), label(now));
    for (const auto& [then, now] : paired(before.joints, after.joints, [](const auto& j) { return j.id; }))
        told.tell(About::Part, {}, phrase("Joint {}", (then == nullptr ? now : then)->id), label(then), label(now));
    for (const auto& [then, now] : paired(before.parts, after.parts, [](const auto& p) { return p.id.value; })) {
        if (then == nullptr || now == nullptr) {
            const parts::Part& part = then == nullptr ? *now : *then;
            told.tell(About::Part, {}, part.id.value, then == nullptr ? "" : part.name,
                      now == nullptr ? "" : part.name);
            continue;
        }
        const auto was = linesOf(*then), is = linesOf(*now);
        std::set<std::string> keys;
        for (const auto* side : {&was, &is})
            for (const auto& [key, line] : *side)
                keys.insert(key);
        for (const std::string& key : keys) {
            std::string old = at(was, key), fresh = at(is, key);
            shorten(old, fresh);
            told.tell(About::Part, {}, now->name + ", " + key, old, fresh);
        }
        undescribed(told, *then, *now);
    }
}

} // namespace vicegrip::compare
