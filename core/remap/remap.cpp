#include "core/remap/remap.h"

#include "core/alike/alike.h"
#include "core/base/phrase.h"
#include "core/pasted/pasted_list.h"
#include "core/pinning/pin_use.h"
#include "core/pinning/pinning.h"
#include "core/remap/work_at_plug.h"
#include "core/wires/colour.h"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

namespace vicegrip::remap {
namespace {

/// A signal is meant where no role is said.
double likeness(std::set<std::string> a, std::set<std::string> b)
{
    const auto complete = [](std::set<std::string>& words) {
        const bool role = words.contains("ground") || words.contains("supply") || words.contains("feed");
        words.erase("signal");
        if (role && words.contains("sensor"))
            words.erase("power");
        if (!role)
            words.insert("signal");
        if (words.contains("signal"))
            words.erase("sensor");
    };
    complete(a);
    complete(b);
    return alike::shared(a, b);
}

/// What a cavity of the job's plug is for; several circuits share a ground, whose number is no word of its name.
std::string functionOf(const pinning::PinUse& use)
{
    const auto of = use.purpose.find(" of ");
    return use.circuit.empty() && of != std::string::npos ? use.purpose.substr(0, of) : use.purpose;
}

struct NewPin
{
    std::string plug; ///< empty: the one in question
    std::string cavity, function, colour;
};

void addPins(std::vector<NewPin>& out, const job::Job& job, const std::map<job::PointRef, pinning::PinUse>& uses,
             const job::Connector& connector, const std::string& plug)
{
    for (const pinning::Pin& pin : pinning::pinsOf(job, connector)) {
        const auto use = uses.find(pin.at);
        if (pin.wires.empty() || use == uses.end())
            continue;
        std::string colour;
        for (const job::Wire& w : job.wires)
            if (w.id == pin.wires.front())
                colour = w.colour;
        out.push_back({plug, pin.at.cavity, functionOf(use->second), colour});
    }
}

/// Of this plug, then of other units' plugs that nobody has an old list of.
std::vector<NewPin> newPins(const job::Job& job, const job::Connector& connector)
{
    const auto uses = pinning::pinUses(job);
    std::vector<NewPin> out;
    addPins(out, job, uses, connector, {});
    for (const job::Connector& other : job.connectors)
        if (other.kind == job::ConnectorKind::Ecu && other.id != connector.id &&
            std::ranges::find(job.oldPlugs, other.id, &job::OldPlug::connector) == job.oldPlugs.end())
            addPins(out, job, uses, other, other.id);
    return out;
}

/// Which new pin each old one becomes: the likest pairs first, among equals those that stay, then those of the same
/// plug. -1 for none.
std::vector<int> matched(const std::vector<job::OldPin>& old, const std::vector<NewPin>& now)
{
    struct Pair
    {
        double likeness = 0;
        bool stays = false, here = false;
        size_t from = 0, to = 0;
    };
    constexpr double kLikeEnough = 0.5, kLikeEnoughElsewhere = 0.6;
    std::vector<Pair> pairs;
    std::vector<std::set<std::string>> there;
    for (const NewPin& n : now)
        there.push_back(alike::wordsOf(n.function));
    for (size_t i = 0; i < old.size(); ++i) {
        const auto words = alike::wordsOf(old[i].function);
        if (words.empty())
            continue;
        for (size_t k = 0; k < now.size(); ++k)
            if (const double like = likeness(words, there[k]);
                like >= (now[k].plug.empty() ? kLikeEnough : kLikeEnoughElsewhere))
                pairs.push_back(
                    {like, now[k].plug.empty() && old[i].cavity == now[k].cavity, now[k].plug.empty(), i, k});
    }
    std::ranges::stable_sort(pairs, [](const Pair& a, const Pair& b) {
        return std::tuple(a.likeness, a.stays, a.here) > std::tuple(b.likeness, b.stays, b.here);
    });
    std::vector<int> out(old.size(), -1);
    std::set<size_t> taken;
    for (const Pair& p : pairs)
        if (out[p.from] < 0 && taken.insert(p.to).second)
            out[p.from] = static_cast<int>(p.to);
    return out;
}

/// Keys of one and of many.
std::string counted(size_t n, const char* one, const char* many)
{
    return phrase(n == 1 ? one : many, std::to_string(n));
}

std::string verdictOn(const std::vector<Remapped>& rows)
{
    std::map<Fate, size_t> n;
    size_t otherColour = 0;
    for (const Remapped& r : rows) {
        ++n[r.fate];
        otherColour += r.otherColour ? 1 : 0;
    }
    std::string out = phrase("{}, {}, {}, {} new, {}.", counted(n[Fate::Stays], key("{} stays"), key("{} stay")),
                             counted(n[Fate::Moves], key("{} moves"), key("{} move")),
                             counted(n[Fate::Exchanged], key("{} is exchanged"), key("{} are exchanged")),
                             std::to_string(n[Fate::New]), counted(n[Fate::Goes], key("{} goes"), key("{} go")));
    if (otherColour > 0)
        out += counted(otherColour,
                       key(" {} wire that stays has another colour than the old list: count cavities, do not follow "
                           "colours."),
                       key(" {} wires that stay have another colour than the old list: count cavities, do not follow "
                           "colours."));
    return out;
}

} // namespace

Remap remap(const job::Job& job, const job::OldPlug& old)
{
    Remap out;
    const job::Connector* connector = job::findConnector(job, old.connector);
    if (connector == nullptr)
        return out;
    const std::vector<NewPin> now = newPins(job, *connector);
    const std::vector<int> to = matched(old.pins, now);
    std::map<std::string, std::string> towards; // new cavity by old one
    for (size_t i = 0; i < to.size(); ++i)
        if (to[i] >= 0 && now[static_cast<size_t>(to[i])].plug.empty())
            towards[old.pins[i].cavity] = now[static_cast<size_t>(to[i])].cavity;
    std::map<std::string, std::string> functionNow;
    for (const NewPin& n : now)
        if (n.plug.empty())
            functionNow[n.cavity] = n.function;
    for (size_t k = 0; k < now.size(); ++k) {
        const NewPin& n = now[k];
        if (!n.plug.empty() && std::ranges::find(to, static_cast<int>(k)) == to.end())
            continue;
        Remapped& r = out.rows.emplace_back();
        r.function = n.function;
        r.newCavity = n.cavity;
        r.newColour = n.colour;
        r.newPlug = n.plug;
        r.fate = Fate::New;
        for (size_t i = 0; i < to.size(); ++i) {
            if (to[i] != static_cast<int>(k))
                continue;
            const job::OldPin& o = old.pins[i];
            r.oldCavity = o.cavity;
            r.oldColour = o.colour;
            r.asListed = o.function;
            r.fate = n.plug.empty() && o.cavity == n.cavity ? Fate::Stays : Fate::Moves;
            if (!n.plug.empty())
                continue;
            const auto back = towards.find(n.cavity);
            if (r.fate == Fate::Moves && back != towards.end() && back->second == o.cavity) {
                r.fate = Fate::Exchanged;
                r.with = functionNow[o.cavity];
            }
            r.otherColour = r.fate == Fate::Stays && !o.colour.empty() && o.colour != n.colour;
        }
    }
    for (size_t i = 0; i < to.size(); ++i)
        if (to[i] < 0 && !old.pins[i].function.empty()) {
            const job::OldPin& o = old.pins[i];
            Remapped& r = out.rows.emplace_back();
            r.fate = Fate::Goes;
            r.function = r.asListed = o.function;
            r.oldCavity = o.cavity;
            r.oldColour = o.colour;
        }
    out.work = workOf(*connector, old, out.rows);
    out.verdict = verdictOn(out.rows);
    return out;
}

Result<PastedPlug> pasteOldPins(std::string_view text)
{
    static const std::vector<pasted::ListColumn> kColumns = {
        {"cavity", {"cavity", "pin", "no", "no.", "number", "position"}},
        {"function", {"function", "what", "circuit", "signal", "use"}},
        {"colour", {"colour", "color", "wire", "wire colour", "wire color"}}};
    return pasted::readList(text, kColumns).map([](const pasted::List& list) {
        PastedPlug out;
        std::set<std::string> seen;
        for (const pasted::ListLine& line : list.lines) {
            const auto cell = [&](const char* column) {
                const auto it = line.cells.find(column);
                return it == line.cells.end() ? std::string() : it->second;
            };
            PastedPin& said = out.lines.emplace_back(PastedPin{line.number, line.text, {}});
            job::OldPin pin{cell("cavity"), cell("function"), {}};
            const bool name =
                !pin.cavity.empty() && pin.cavity.size() <= 8 && std::ranges::all_of(pin.cavity, [](char c) {
                    return (c >= '0' && c <= '9') || (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z');
                });
            if (!name) {
                said.trouble = phrase("expected a cavity first, such as 12 or A12");
                continue;
            }
            constexpr size_t kLongest = 200;
            if (pin.function.size() > kLongest) {
                said.trouble = phrase("the function is longer than 200 characters");
                continue;
            }
            if (!seen.insert(pin.cavity).second) {
                said.trouble = phrase("cavity {} stands twice: the first is kept", pin.cavity);
                continue;
            }
            if (const std::string typed = cell("colour"); !typed.empty()) {
                if (const auto letters = wires::parseColour(typed))
                    pin.colour = *letters;
                else
                    said.trouble = phrase("{}; kept without a colour", letters.error().sentence);
            }
            out.pins.push_back(std::move(pin));
        }
        return out;
    });
}

std::string textOf(const std::vector<job::OldPin>& pins)
{
    std::string out;
    for (const job::OldPin& p : pins)
        out += p.cavity + "; " + p.function + "; " + p.colour + "\n";
    return out;
}

} // namespace vicegrip::remap
