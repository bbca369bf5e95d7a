#include "core/compare/said.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <iterator>
#include <nlohmann/json.hpp>
#include <optional>
#include <string_view>

namespace vicegrip::compare {
namespace {

using nlohmann::json;

struct Ending
{
    std::string_view ending, unit;
    std::string_view quantity = {}; ///< a key: what a bare "most" or "least" is one of
    double times = 1;
};

/// Longer ones first.
constexpr Ending kEndings[] = {{"_w_per_k", " W/K"},
                               {"_l_per_h", " l/h"},
                               {"_share", " %", {}, 100},
                               {"_kpa", " kPa"},
                               {"_ohm", " Ω", key("resistance")},
                               {"_deg", "°"},
                               {"_mm2", " mm²", key("area")},
                               {"_mm", " mm"},
                               {"_hz", " Hz", key("frequency")},
                               {"_v", " V", key("voltage")},
                               {"_a", " A", key("current")},
                               {"_c", " °C"},
                               {"_k", " K"},
                               {"_s", " s"},
                               {"_m", " m"},
                               {"_l", " l"},
                               {"_h", " H"}};
/// Whole names, and what facts end in.
constexpr Ending kNames[] = {{"volts", " V"}, {"ohm", " Ω"}, {"celsius", " °C"}, {"tolerance", " %", {}, 100}};

const Ending* endingOf(std::string_view name)
{
    for (const Ending& e : kEndings)
        if (name.ends_with(e.ending) && name.size() > e.ending.size())
            return &e;
    for (const Ending& e : kNames)
        if (name == e.ending || name.ends_with("_" + std::string(e.ending)))
            return &e;
    return nullptr;
}

std::string words(std::string name)
{
    std::ranges::replace(name, '_', ' ');
    if (name.starts_with("pull up") || name.starts_with("pull down"))
        name[4] = '-';
    return name;
}

/// "gap_least_m" is "least gap", "most_a" "most current".
std::string spoken(const std::string& name)
{
    const Ending* e = endingOf(name);
    if (name == "ohm")
        return phrase("resistance");
    if (e == nullptr || !e->ending.starts_with('_'))
        return words(name);
    std::string out = words(name.substr(0, name.size() - e->ending.size()));
    if ((out == "most" || out == "least" || out == "limit") && !e->quantity.empty())
        return out + " " + phrase(e->quantity);
    for (const std::string_view last : {" least", " most"})
        if (out.ends_with(last))
            return std::string(last.substr(1)) + " " + out.substr(0, out.size() - last.size());
    return out;
}

bool isPlace(const std::string& name)
{
    return !name.empty() && std::ranges::all_of(name, [](unsigned char c) { return c >= '0' && c <= '9'; });
}

/// The members one after the other: "rows 1, runs 1, pitch".
std::string spoken(const Way& way, size_t from)
{
    std::string out;
    for (size_t i = from; i < way.size(); ++i)
        out += (out.empty() ? "" : isPlace(way[i]) ? " " : ", ") + (isPlace(way[i]) ? way[i] : spoken(way[i]));
    return out;
}

std::string beginning(std::string text)
{
    if (!text.empty() && text.front() >= 'a' && text.front() <= 'z')
        text.front() = static_cast<char>(text.front() - 'a' + 'A');
    return text;
}

std::string number(double value, int digits)
{
    char out[40]; // by no locale: a window's may write commas
    const auto end = std::to_chars(std::begin(out), std::end(out), value, std::chars_format::general, digits).ptr;
    return {std::begin(out), end};
}

/// A whole text that is a number, with the unit it may have.
std::optional<double> numberOf(std::string_view text, std::string_view unit)
{
    if (!unit.empty() && text.ends_with(unit))
        text.remove_suffix(unit.size());
    double value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    return error == std::errc() && end == text.data() + text.size() ? std::optional(value) : std::nullopt;
}

std::string measured(double value, const Ending* ending, int digits)
{
    constexpr double kSmall_m = 0.1;
    if (ending == nullptr)
        return number(value, digits);
    if (ending->unit == " m" && value != 0 && std::abs(value) < kSmall_m)
        return number(value * 1e3, digits) + " mm";
    const std::string shown = number(value * ending->times, digits);
    return ending->unit == " Ω" ? units::formatExact(*numberOf(shown, {}), units::Dimension::Resistance)
                                : shown + std::string(ending->unit);
}

constexpr int kShown = 6, kAll = 17;

/// Both with their unit, and with as many digits as tell them apart.
void measure(Said& said, const Ending* ending, std::optional<double> before, std::optional<double> after)
{
    for (const int digits : {kShown, kAll}) {
        said.before = before ? measured(*before, ending, digits) : said.before;
        said.after = after ? measured(*after, ending, digits) : said.after;
        if (said.before != said.after)
            return;
    }
}

std::string text(const json& value)
{
    if (value.is_null())
        return {};
    if (value.is_boolean())
        return value.get<bool>() ? phrase("yes") : phrase("no");
    return value.is_string() ? value.get<std::string>() : value.dump();
}

std::optional<double> numberOf(const json& value)
{
    return value.is_number() ? std::optional(value.get<double>()) : std::nullopt;
}

Said valuesOf(const Way& way, const json& before, const json& after)
{
    Said out{{}, {}, text(before), text(after)};
    const bool ofRest = way.size() > 1 && way[way.size() - 2] == "rest"; // in the value's unit, and no share
    const std::string& name = isPlace(way.back()) && way.size() > 1 ? way[way.size() - 2] : way.back();
    measure(out, ofRest ? nullptr : endingOf(name), numberOf(before), numberOf(after));
    return out;
}

std::string circuitName(const job::Job& job, const std::string& id)
{
    const job::Circuit* c = job::find(job, job::CircuitId{id});
    return c == nullptr ? id : c->name;
}

template <class Things> std::string labelOf(const Things& things, const std::string& id)
{
    const auto it = std::ranges::find_if(things, [&](const auto& t) { return t.id == id; });
    return it == things.end() || it->label.empty() ? id : it->label;
}

/// What the names at the beginning of a way say, and how many they are; circuits' are told with the circuit.
std::pair<std::string, size_t> owner(const job::Job& job, const Way& way)
{
    const size_t unit = way[0] == "ecu" ? 1 : way[0] == "expanders" ? 2 : 0;
    if (unit > 0 && way.size() > unit + 1 && way[unit] == "inputs")
        return {phrase("Input {}", way[unit + 1]), unit + 2};
    if (unit > 0 && way.size() > unit + 1 && way[unit] == "outputs")
        return {phrase("Output {}", way[unit + 1]), unit + 2};
    if (way[0] == "ecu")
        return {"ECU", 1};
    if (way.size() < 2)
        return {};
    if (way[0] == "circuits")
        return {circuitName(job, way[1]), 2};
    if (way[0] == "connectors")
        return {phrase("Plug {}", way[1]), way.size() > 3 && way[2] == "layout" ? 3U : 2U};
    if (way[0] == "switches")
        return {labelOf(job.switches, way[1]), 2};
    if (way[0] == "loads")
        return {labelOf(job.loads, way[1]), 2};
    if (way[0] == "leads")
        return {phrase("Lead {}", way[1]), 2};
    if (way[0] == "branches")
        return {phrase("Stretch {}", way[1]), 2};
    return {};
}

/// Facts whose subject begins so are of a thing that is named next.
struct Kind
{
    std::string_view begins, says; ///< `says`: a key; {} is the thing
    bool circuit = false;
    std::string_view member = {}; ///< of the file, that has the unit which the fact ends in
};
constexpr Kind kKinds[] = {{"input ", key("Input {}")},
                           {"output ", key("Output {}")},
                           {"resistor ", key("Resistor {}")},
                           {"lead ", key("Lead {}")},
                           {"stud ", key("Stud {}")},
                           {"switch ", key("{}")},
                           {"load ", key("{}")},
                           {"scaling ", key("{}, scaling"), true},
                           {"wheel hole ", key("{}, hole of the wheel"), true},
                           {"wheel side ", key("{}, side of the wheel"), true},
                           {"wheel edge ", key("{}, edge"), true},
                           {"wheel beside ", key("{}, wheel beside the face"), true, "beside_m"},
                           {"wheel ", key("{}, wheel"), true},
                           {"strip lie ", key("{}, lie of the strip"), true, "lies_deg"},
                           {"air gap ", key("{}, air gap"), true, "gap_m"}};

std::string nameOfThing(const job::Job& job, const Kind& kind, const std::string& id)
{
    return kind.circuit               ? circuitName(job, id)
           : kind.begins == "switch " ? labelOf(job.switches, id)
           : kind.begins == "load "   ? labelOf(job.loads, id)
                                      : id;
}

/// A scaling's ends and steps are of what its sensor measures, in SI.
void scalingValue(Said& said, const job::Job& job, const std::string& of)
{
    const job::Circuit* c = job::find(job, said.circuit);
    const parts::Part* sensor = c == nullptr ? nullptr : job::sensorOf(job, *c);
    if (sensor == nullptr || (of != "low" && of != "high"))
        return;
    constexpr int kDecimals = 2;
    const auto shown = [&](const std::string& text) {
        const auto value = numberOf(text, {});
        return value ? units::format(*value, sensor->measures, sensor->unit, kDecimals) : text;
    };
    const std::string before = shown(said.before), after = shown(said.after);
    if (before == after)
        return;
    said.before = before;
    said.after = after;
}

} // namespace

Said saidOfFact(const job::Job& job, const std::string& subject, const std::string& before, const std::string& after)
{
    Said out{{}, {}, before, after};
    std::string last = subject; // the words after the thing
    const auto kind = std::ranges::find_if(kKinds, [&](const Kind& k) { return subject.starts_with(k.begins); });
    if (kind != std::end(kKinds)) {
        const std::string rest = subject.substr(kind->begins.size());
        const size_t blank = rest.find(' ');
        const std::string id = rest.substr(0, blank);
        last = blank == std::string::npos ? std::string() : rest.substr(blank + 1);
        if (kind->circuit)
            out.circuit = job::CircuitId{id};
        out.what = phrase(kind->says, nameOfThing(job, *kind, id)) + (last.empty() ? "" : ", " + last);
    } else if (const size_t blank = subject.find(' '); blank != std::string::npos && subject != "ECU firmware") {
        last = subject.substr(blank + 1);
        out.what = beginning(subject.substr(0, blank)) + ", " + (last == "ohm" ? spoken(last) : last);
    } else {
        out.what = beginning(subject);
    }
    std::ranges::replace(last, ' ', '_');
    const bool ends = kind != std::end(kKinds) && !kind->member.empty();
    const Ending* ending = endingOf(ends ? kind->member : last);
    const std::string_view unit = ending == nullptr ? std::string_view() : ending->unit;
    if (ending != nullptr)
        measure(out, ending, numberOf(before, ends ? unit : ""), numberOf(after, ends ? unit : ""));
    if (!out.circuit.empty())
        scalingValue(out, job, last);
    shorten(out.before, out.after);
    return out;
}

Said saidOfMember(const job::Job& job, const Way& way, const json& before, const json& after)
{
    Said out = valuesOf(way, before, after);
    const auto [whose, names] = owner(job, way);
    const std::string rest = spoken(way, names);
    out.what = whose.empty() ? beginning(rest) : rest.empty() ? whose : whose + ", " + rest;
    if (way[0] == "circuits" && way.size() > 1)
        out.circuit = job::CircuitId{way[1]};
    return out;
}

Said saidOfPart(const std::string& part, const Way& way, const json& before, const json& after)
{
    Said out = valuesOf(way, before, after);
    out.what = part + ", " + spoken(way, 0);
    return out;
}

void shorten(std::string& before, std::string& after)
{
    const auto cut = [](const std::string& text) {
        std::string out;
        for (size_t i = 0; i < text.size();) {
            size_t end = i;
            while (end < text.size() && ((text[end] >= '0' && text[end] <= '9') || text[end] == '.'))
                ++end;
            const std::string_view digits(text.data() + i, end - i);
            const auto value = digits.size() > kShown + 1 && digits.find('.') != std::string_view::npos
                                   ? numberOf(digits, {})
                                   : std::nullopt;
            end = std::max(end, i + 1);
            out += value ? number(*value, kShown) : text.substr(i, end - i);
            i = end;
        }
        return out;
    };
    const std::string was = cut(before), is = cut(after);
    if (was == is)
        return;
    before = was;
    after = is;
}

} // namespace vicegrip::compare
