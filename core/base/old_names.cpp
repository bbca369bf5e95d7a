#include "core/base/old_names.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace vicegrip::old_names {
namespace {

using Json = nlohmann::json;

/// `under` is the member the object stands in or in whose list it stands; empty: the document itself.
struct Name
{
    std::string_view under, old, now;
};

constexpr Name kMembers[] = {
    {"scaling", "knots", "breakpoints"},
    {"circuits", "stops", "limits"},
    {"limits", "shut_v", "closed_v"},
    {"limits", "shut_rest_v", "closed_rest_v"},
    {"", "hands", "work_steps"},
    {"inputs", "reluctance", "variable_reluctance"},
    {"parts", "reluctance", "variable_reluctance"},
    {"parts", "resistor", "resistive"},
    {"", "reluctance", "variable_reluctance"},
    {"", "resistor", "resistive"},
};

/// Facts are "KIND ID WORDS"; `under` is the kind.
constexpr Name kFacts[] = {
    {"scaling", "knots", "breakpoints"},
    {"scaling", "stops", "limits"},
    {"sensor", "reluctance", "variable reluctance"},
    {"sensor", "resistor", "resistive"},
};

constexpr std::pair<std::string_view, std::string_view> kRequests[] = {{"feel", "measurand"}};
constexpr std::pair<std::string_view, std::string_view> kOptions[] = {{"--knots", "--breakpoints"}};

/// "scaling tps stops" -> "scaling tps limits".
std::string renewedFact(const std::string& fact)
{
    const size_t kind = fact.find(' '), id = kind == std::string::npos ? kind : fact.find(' ', kind + 1);
    if (id == std::string::npos)
        return fact;
    const std::string_view words = std::string_view(fact).substr(id + 1);
    for (const Name& n : kFacts)
        if (fact.compare(0, kind, n.under) == 0 && words.starts_with(n.old) &&
            (words.size() == n.old.size() || words[n.old.size()] == ' '))
            return fact.substr(0, id + 1) + std::string(n.now) + std::string(words.substr(n.old.size()));
    return fact;
}

void renewFacts(Json& facts)
{
    Json out = Json::object();
    for (auto& [fact, text] : facts.items()) {
        std::string name = renewedFact(fact);
        constexpr std::string_view kShut = " shut, ";
        if (name != fact && name.ends_with(" limits") && text.is_string()) {
            auto said = text.get<std::string>();
            if (const size_t at = said.find(kShut); at != std::string::npos)
                text = said.replace(at, kShut.size(), " closed, ");
        }
        out[name] = std::move(text);
    }
    facts = std::move(out);
}

bool isText(const Json& object, const char* member, std::string_view text)
{
    const auto it = object.find(member);
    return it != object.end() && it->is_string() && it->get_ref<const std::string&>() == text;
}

/// Before a bus was a port, its pins were "can-high" and "can-low": they are those of a port "CAN-" and their plug.
void renewBus(Json& unit)
{
    const auto pins = unit.find("pins");
    if (pins == unit.end() || !pins->is_array())
        return;
    std::string port;
    for (const char* role : {"can-high", "can-low"}) {
        const auto pin =
            std::ranges::find_if(*pins, [&](const Json& p) { return p.is_object() && isText(p, "role", role); });
        if (pin == pins->end() || !pin->contains("at") || !(*pin)["at"].is_string())
            continue;
        const auto at = (*pin)["at"].get<std::string>();
        if (port.empty())
            port = "CAN-" + at.substr(0, std::min<size_t>(at.find('.'), 36)); // a name has 40 letters
        Json moved = std::move(*pin);
        pins->erase(pin);
        moved["role"] = "output";
        moved["output"] = port;
        pins->push_back(std::move(moved)); // high before low
    }
    if (!port.empty() && (!unit.contains("outputs") || unit["outputs"].is_array()))
        unit["outputs"].push_back({{"id", port}, {"name", "CAN"}, {"drives", {"bus"}}});
}

void renewUnder(std::string_view under, Json& value)
{
    if (value.is_array()) {
        for (Json& item : value)
            renewUnder(under, item);
        return;
    }
    if (!value.is_object())
        return;
    for (const Name& n : kMembers)
        if (n.under == under && value.contains(n.old) && !value.contains(n.now)) {
            value[std::string(n.now)] = std::move(value[std::string(n.old)]);
            value.erase(std::string(n.old));
        }
    renewBus(value);
    for (auto& [name, member] : value.items())
        if (name == "rests_on" && member.is_object())
            renewFacts(member);
        else
            renewUnder(name, member);
}

} // namespace

void renew(Json& document)
{
    renewUnder({}, document);
}

std::string_view requestMember(std::string_view name)
{
    for (const auto& [old, now] : kRequests)
        if (old == name)
            return now;
    return name;
}

std::string option(std::string_view argument)
{
    for (const auto& [old, now] : kOptions)
        if (argument == old || (argument.starts_with(old) && argument[old.size()] == '='))
            return std::string(now) + std::string(argument.substr(old.size()));
    return std::string(argument);
}

} // namespace vicegrip::old_names
