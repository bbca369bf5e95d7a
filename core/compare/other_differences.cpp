#include "core/compare/told.h"
#include "core/job/json.h"

#include <algorithm>
#include <array>
#include <string_view>

/// All else that the file holds, told by its names there: nothing that is different may go untold.
namespace vicegrip::compare {
namespace {

using nlohmann::json;

/// What was told before this, in words of its own, or is counted: members of the job, and of the things in its lists.
constexpr std::array<std::string_view, 14> kWhole = {"vicegrip", "title",  "surroundings", "wires",      "parts",
                                                     "proofs",   "clicks", "wiggles",      "hand_turns", "decoded",
                                                     "passed",   "pinned", "log",          "log_reviews"};
struct Member
{
    std::string_view list, member;
};
constexpr std::array<Member, 14> kOfThings = {{{"circuits", "name"},
                                               {"circuits", "input"},
                                               {"circuits", "output"},
                                               {"circuits", "scaling"},
                                               {"circuits", "limits"},
                                               {"connectors", "label"},
                                               {"joints", "label"},
                                               {"joints", "body"},
                                               {"switches", "label"},
                                               {"switches", "rating_a"},
                                               {"branches", "from"},
                                               {"branches", "to"},
                                               {"branches", "length_m"},
                                               {"ecu", "firmware"}}};

/// What a fact stands for: where one of a thing's facts was told, its members are not told again, but for those that no
/// fact holds.
struct Held
{
    std::string_view list, subject;
    bool named = true; ///< by the thing's name
    std::string_view unheld = {}; ///< members between spaces
};
constexpr std::array<Held, 10> kFacts = {
    {{"inputs", "input", true,
      " name modes functions pull_up_choices_ohm pull_up_fixed withstands_v most_hz variable_reluctance "},
     {"outputs", "output", true, " name functions most_a most_hz clamped "},
     {"switches", "switch", true},
     {"resistors", "resistor", true, " label kind tolerance "},
     {"loads", "load", true, " label "},
     {"leads", "lead", true, " cores shield "},
     {"supply", "supply", false},
     {"battery", "battery", false, " tolerance_v charging_v "},
     {"charging_v", "charging", false},
     {"feed_ohm", "feed", false}}};
/// Of a circuit's scaling: how the ECU writes its table down.
constexpr std::string_view kUnheldScaling = " value_first falling unit takes ";

/// Of a circuit's trigger: the facts and the members they hold.
constexpr std::array<Member, 7> kOfTrigger = {{{"wheel ", "wheel"},
                                               {"wheel hole ", "hole"},
                                               {"wheel side ", "side"},
                                               {"wheel edge ", "edge"},
                                               {"air gap ", "gap_m"},
                                               {"strip lie ", "lies_deg"},
                                               {"wheel beside ", "beside_m"}}};

bool isAmong(std::string_view members, const std::string& member)
{
    return members.find(" " + member + " ") != std::string_view::npos;
}

/// The scalars of the file.
using Leaves = std::map<Way, json>;

std::string nameOf(const json& item, size_t n)
{
    if (item.is_object() && item.contains("id") && item["id"].is_string())
        return item["id"];
    if (item.is_object() && item.contains("from") && item.contains("to") && item.contains("length_m"))
        return item["from"].get<std::string>() + " – " + item["to"].get<std::string>();
    return std::to_string(n);
}

void gather(const json& value, const Way& way, Leaves& out)
{
    const auto below = [&](const json& item, std::string name) {
        Way further = way;
        further.push_back(std::move(name));
        gather(item, further, out);
    };
    if (value.is_object()) {
        for (const auto& [name, member] : value.items())
            below(member, name);
    } else if (value.is_array()) {
        size_t n = 0;
        for (const json& item : value)
            below(item, nameOf(item, ++n));
    } else {
        out[way] = value;
    }
}

Leaves leavesOf(const job::Job& job)
{
    Leaves out;
    gather(json::parse(job::write(job)), {}, out);
    return out;
}

bool isToldElsewhere(const Way& way)
{
    if (std::ranges::count(kWhole, way.front()) > 0)
        return true;
    return std::ranges::any_of(kOfThings, [&](const Member& m) {
        const size_t at = m.list == "ecu" ? 1 : 2;
        if (m.member == "scaling" && way.size() > 3 && isAmong(kUnheldScaling, way[3]))
            return false;
        return way.front() == m.list && way.size() > at && way[at] == m.member;
    });
}

/// Whether a fact of this thing was told.
bool isToldAsFact(const Way& way, const std::set<std::string>& subjects)
{
    const auto told = [&](const std::string& begin) {
        const auto it = subjects.lower_bound(begin);
        return it != subjects.end() && it->starts_with(begin) &&
               (it->size() == begin.size() || (*it)[begin.size()] == ' ');
    };
    for (size_t i = 0; i < way.size(); ++i)
        for (const Held& h : kFacts)
            if (way[i] == h.list) {
                const size_t member = i + (h.named ? 2 : 1);
                if (member < way.size() && isAmong(h.unheld, way[member]))
                    continue;
                if (told(h.named && i + 1 < way.size() ? std::string(h.subject) + " " + way[i + 1]
                                                       : std::string(h.subject)))
                    return true;
            }
    if (way.size() > 3 && way[0] == "circuits" && way[2] == "scaling" && told("scaling " + way[1] + " " + way[3]))
        return true;
    return way.size() > 3 && way[2] == "trigger" && std::ranges::any_of(kOfTrigger, [&](const Member& m) {
               return way[3] == m.member && told(std::string(m.list) + way[1]);
           });
}

/// Things that are in one of the two only: they were told as such.
std::set<std::pair<std::string, std::string>> comeOrGone(const job::Job& before, const job::Job& after)
{
    std::set<std::pair<std::string, std::string>> out;
    const auto add = [&](const char* list, const auto& then, const auto& now, auto name) {
        for (const auto& [a, b] : paired(then, now, name))
            if (a == nullptr || b == nullptr)
                out.emplace(list, name(a == nullptr ? *b : *a));
    };
    const auto id = [](const auto& x) { return x.id; };
    add("circuits", before.circuits, after.circuits, [](const auto& c) { return c.id.value; });
    add("connectors", before.connectors, after.connectors, id);
    add("joints", before.joints, after.joints, id);
    add("leads", before.leads, after.leads, id);
    add("resistors", before.resistors, after.resistors, id);
    add("loads", before.loads, after.loads, id);
    const auto seat = [](const auto* s) { return s->id.value; };
    add("inputs", job::inputs(before), job::inputs(after), seat);
    add("outputs", job::outputs(before), job::outputs(after), seat);
    add("branches", before.branches, after.branches, [](const job::Branch& b) { return b.from + " – " + b.to; });
    return out;
}

} // namespace

void others(Told& told, const job::Job& before, const job::Job& after)
{
    const auto changed = comeOrGone(before, after);
    const Leaves then = leavesOf(before), now = leavesOf(after);
    std::set<Way> ways;
    for (const auto* side : {&then, &now})
        for (const auto& [way, shown] : *side)
            ways.insert(way);
    for (const Way& way : ways) {
        bool isWhole = false; // of a thing that came or went
        for (size_t i = 1; i < way.size(); ++i)
            isWhole |= changed.contains({way[i - 1], way[i]});
        if (isWhole || isToldElsewhere(way) || isToldAsFact(way, told.facts))
            continue;
        const auto value = [&](const Leaves& side) {
            const auto it = side.find(way);
            return it == side.end() ? json() : it->second;
        };
        if (value(then) != value(now))
            told.tell(About::Setting, saidOfMember(after, way, value(then), value(now)));
    }
}

} // namespace vicegrip::compare
