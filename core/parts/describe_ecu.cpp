#include "core/base/phrase.h"
#include "core/parts/lines.h"

#include <algorithm>
#include <charconv>
#include <sstream>
#include <utility>

namespace vicegrip::parts {
namespace {

using units::Dimension;

class EcuReader
{
  public:
    explicit EcuReader(std::string_view text) : m_lines(linesOf(text)) {}

    Described<EcuProfile> read()
    {
        for (const Line& l : m_lines) // plugs first: the other lines name their cavities
            if (l.key.starts_with("plug "))
                plug(l);
        for (const Line& l : m_lines)
            if (!l.key.starts_with("plug "))
                fact(l);
        return finish();
    }

  private:
    void plug(const Line& l)
    {
        EcuPlug p;
        p.id = trimmed(std::string_view(l.written).substr(5));
        p.label = "Plug " + p.id;
        for (const std::string& part : listOf(l.value)) {
            const size_t dash = part.find('-');
            int from = 0, to = 0;
            const auto number = [&](std::string_view text, int& n) {
                return std::from_chars(text.data(), text.data() + text.size(), n).ec == std::errc() && n > 0;
            };
            if (dash == std::string::npos) {
                p.cavities.push_back(part);
                continue;
            }
            if (!number(std::string_view(part).substr(0, dash), from) ||
                !number(std::string_view(part).substr(dash + 1), to) || to < from || to - from > 299) {
                m_reads.complain(l, phrase("expected cavities such as 1-26, or their names with commas between"));
                return;
            }
            for (int n = from; n <= to; ++n)
                p.cavities.push_back(std::to_string(n));
        }
        if (p.cavities.empty())
            m_reads.complain(l, "the plug has no cavities");
        else
            m_profile.plugs.push_back(std::move(p));
    }

    /// "A5" or "A.5"; empty when no plug has it.
    [[nodiscard]] std::string cavity(const std::string& typed) const
    {
        for (const EcuPlug& p : m_profile.plugs) {
            if (!typed.starts_with(p.id))
                continue;
            std::string rest = typed.substr(p.id.size());
            if (rest.starts_with('.'))
                rest.erase(0, 1);
            if (std::ranges::find(p.cavities, rest) != p.cavities.end())
                return p.id + "." + rest;
        }
        return {};
    }

    void pins(const Line& l, EcuPinRole role)
    {
        for (const std::string& typed : listOf(l.value)) {
            const std::string at = cavity(typed);
            if (at.empty())
                m_reads.complain(l, phrase("no plug has a cavity {}", typed));
            else
                m_profile.ecu.pins.push_back({at, role, {}, {}});
        }
    }

    void supply(const Line& l)
    {
        for (const std::string& v : listOf(l.value)) {
            const std::string unit = unitAtEnd(v);
            if (unit == "V" || unit == "v")
                m_reads.take(l, units::parse(v, Dimension::Voltage), [&](double x) { m_profile.ecu.supply.volts = x; });
            else
                m_reads.take(l, units::parse(v, Dimension::Current, "mA"),
                             [&](double x) { m_profile.ecu.supply.limit_a = x; });
        }
    }

    void fact(const Line& l)
    {
        if (l.key.empty())
            m_reads.complain(l, phrase("expected \"key: value\", such as AN1: A5, analog, 0-5 V"));
        else if (l.key == "name")
            m_profile.name = m_profile.ecu.name = l.value;
        else if (l.key == "id")
            m_profile.id.value = l.value;
        else if (l.key == "supply")
            supply(l);
        else if (l.key == "feed")
            pins(l, EcuPinRole::PowerFeed);
        else if (l.key == "key feed")
            pins(l, EcuPinRole::KeyFeed);
        else if (l.key == "ground")
            pins(l, EcuPinRole::PowerGround);
        else if (l.key == "sensor supply")
            pins(l, EcuPinRole::SensorSupply);
        else if (l.key == "sensor ground")
            pins(l, EcuPinRole::SensorGround);
        else if (l.key == "plug-in")
            m_profile.ecu.plugIn = l.value == "yes";
        else if (l.key == "expander")
            m_profile.ecu.expander = l.value == "yes";
        else
            seat(l);
    }

    /// An input or an output: its cavities, and what it can do.
    void seat(const Line& l)
    {
        std::vector<std::string> places, words;
        for (const std::string& word : listOf(l.value)) {
            std::string place = cavity(word);
            const bool isPlace = !place.empty();
            (isPlace ? places : words).push_back(isPlace ? std::move(place) : word);
        }
        const bool inside =
            std::ranges::any_of(words, [](const std::string& w) { return lower(w).starts_with("inside"); });
        if (places.empty() && !inside)
            m_reads.complain(l, phrase("expected its cavity first, such as A5"));
        if (isOutput(words)) {
            EcuOutput output = outputFromWords(m_reads, l, words);
            for (const std::string& at : places)
                m_profile.ecu.pins.push_back({at, EcuPinRole::Output, {}, output.id});
            m_profile.ecu.outputs.push_back(std::move(output));
            return;
        }
        if (places.size() > 1)
            m_reads.complain(l, phrase("an input has one cavity"));
        EcuInput input;
        input.id.value = l.written;
        input.modes.clear();
        for (const std::string& word : words)
            attribute(l, input, word);
        if (input.modes.empty())
            input.modes = {InputMode::Analog};
        if (!input.inside || !places.empty())
            m_profile.ecu.pins.push_back(
                {places.empty() ? std::string() : places.front(), EcuPinRole::Input, input.id, {}});
        m_profile.ecu.inputs.push_back(std::move(input));
    }

    void attribute(const Line& l, EcuInput& input, const std::string& typed)
    {
        const std::string word = lower(typed);
        const auto rest = [&](std::string_view start) { return trimmed(std::string_view(typed).substr(start.size())); };
        const auto ohms = [&](std::string_view start, double& to) {
            m_reads.take(l, units::parse(rest(start), Dimension::Resistance, "Ω"), [&](double v) { to = v; });
        };
        if (insideFromWord(m_reads, l, typed, input.inside))
            return;
        if (word == "analog")
            input.modes.push_back(InputMode::Analog);
        else if (word == "switch")
            input.modes.push_back(InputMode::Switch);
        else if (word.starts_with("frequency to ")) {
            input.modes.push_back(InputMode::Frequency);
            m_reads.take(l, units::parse(rest("frequency to"), Dimension::Frequency, "Hz"),
                         [&](double v) { input.most_hz = v; });
        } else if (word == "coil")
            input.variableReluctance = true;
        else if (word == "ratiometric" || word == "absolute")
            input.reference = word == "absolute" ? Reference::Absolute : Reference::Ratiometric;
        else if (word.starts_with("pull-up"))
            pullUps(l, input, rest("pull-up"));
        else if (word.starts_with("pull-down "))
            ohms("pull-down", input.pull_down_ohm);
        else if (word.starts_with("series "))
            ohms("series", input.series_ohm);
        else if (word.starts_with("withstands "))
            m_reads.take(l, units::parse(rest("withstands"), Dimension::Voltage, "V"),
                         [&](double v) { input.withstands_v = v; });
        else if (word.ends_with("bits") || word.ends_with("bit"))
            m_reads.take(l, units::parse(word.substr(0, word.find("bit")), Dimension::Counts),
                         [&](double v) { input.bits = static_cast<int>(v); });
        else if (word.starts_with("named "))
            input.name = rest("named");
        else if (word.starts_with("for "))
            input.functions = wordsOf(rest("for"));
        else if (word.ends_with("v"))
            m_reads.take(l, rangeOf(typed, Dimension::Voltage, "V"), [&](const auto& r) { input.span_v = r.second; });
        else
            m_reads.complain(
                l, phrase("\"{}\" is not understood: expected analog, frequency to 15 kHz, switch, coil, 0-5 V, "
                          "12 bits, pull-up 1k 2k49, ratiometric, for clt ...",
                          typed));
    }

    void pullUps(const Line& l, EcuInput& input, const std::string& typed)
    {
        std::istringstream words(typed);
        for (std::string word; words >> word;) {
            if (word == "always") {
                input.pullUpFixed = true;
                continue;
            }
            if (word == "on") {
                input.pull_up_ohm = input.pullUpChoices_ohm.empty() ? 0 : input.pullUpChoices_ohm.back();
                continue;
            }
            m_reads.take(l, units::parse(word, Dimension::Resistance, "Ω"),
                         [&](double v) { input.pullUpChoices_ohm.push_back(v); });
        }
        if (input.pullUpFixed && !input.pullUpChoices_ohm.empty())
            input.pull_up_ohm = input.pullUpChoices_ohm.front();
    }

    Described<EcuProfile> finish()
    {
        if (m_profile.name.empty())
            m_out.complaints.push_back({0, phrase("it has no name: add a line such as name: Shop unit, revision C")});
        if (m_profile.plugs.empty())
            m_out.complaints.push_back({0, phrase("it has no plug: add a line such as plug A: 1-26")});
        if (m_profile.id.empty())
            m_profile.id.value = idFrom(m_profile.name);
        conclude(m_out, m_profile, readEcu);
        return std::move(m_out);
    }

    std::vector<Line> m_lines;
    EcuProfile m_profile;
    Described<EcuProfile> m_out;
    PartLines m_reads{m_lines, m_out.complaints};
};

std::string pinsOf(const Ecu& ecu, EcuPinRole role)
{
    std::string out;
    for (const EcuPin& p : ecu.pins)
        if (p.role == role)
            out += (out.empty() ? "" : ", ") + p.at;
    return out;
}

/// 1, 2, 3 ... as 1-26 where they are just that.
std::string cavitiesOf(const EcuPlug& plug)
{
    bool counted = !plug.cavities.empty();
    for (size_t i = 0; i < plug.cavities.size(); ++i)
        counted = counted && plug.cavities[i] == std::to_string(i + 1);
    if (counted)
        return "1-" + std::to_string(plug.cavities.size());
    std::string out;
    for (const std::string& c : plug.cavities)
        out += (out.empty() ? "" : ", ") + c;
    return out;
}

std::string inputLine(const Ecu& ecu, const EcuInput& i)
{
    std::string out = i.id.value + ":";
    if (i.inside)
        out += insideWords(*i.inside);
    for (const EcuPin& p : ecu.pins)
        if (p.role == EcuPinRole::Input && p.input == i.id)
            out += " " + p.at;
    for (InputMode m : i.modes)
        out += m == InputMode::Analog   ? ", analog"
               : m == InputMode::Switch ? ", switch"
                                        : ", frequency to " + units::shortest(i.most_hz) + " Hz";
    if (i.takes(InputMode::Analog))
        out += ", 0-" + units::shortest(i.span_v) + " V, " + std::to_string(i.bits) + " bits, " +
               std::string(fields::enumName(i.reference));
    if (i.variableReluctance)
        out += ", coil";
    std::vector<double> pullUps = i.pullUpChoices_ohm;
    if (pullUps.empty() && i.pull_up_ohm)
        pullUps = {*i.pull_up_ohm};
    if (!pullUps.empty())
        out += ", pull-up";
    for (double ohm : pullUps) {
        out += " " + shortOhms(ohm);
        if (!i.pullUpFixed && i.pull_up_ohm == ohm)
            out += " on";
    }
    if (i.pullUpFixed)
        out += " always";
    out += ", pull-down " + shortOhms(i.pull_down_ohm) + ", series " + shortOhms(i.series_ohm) + ", withstands " +
           units::shortest(i.withstands_v) + " V";
    if (!i.name.empty() && i.name.find(',') == std::string::npos)
        out += ", named " + i.name;
    if (!i.functions.empty())
        out += ", for";
    for (const std::string& f : i.functions)
        out += " " + f;
    return out + "\n";
}

} // namespace

Described<EcuProfile> ecuFromText(std::string_view text)
{
    return EcuReader(text).read();
}

std::string textOf(const EcuProfile& p)
{
    std::string out = "name: " + p.name + "\nid: " + p.id.value + "\nsupply: " + units::shortest(p.ecu.supply.volts) +
                      " V, " + units::shortest(p.ecu.supply.limit_a * 1e3) + " mA\n";
    if (p.ecu.plugIn)
        out += "plug-in: yes\n";
    if (p.ecu.expander)
        out += "expander: yes\n";
    for (const EcuPlug& plug : p.plugs)
        out += "plug " + plug.id + ": " + cavitiesOf(plug) + "\n";
    for (const auto& [key, role] : {std::pair("feed", EcuPinRole::PowerFeed),
                                    {"key feed", EcuPinRole::KeyFeed},
                                    {"ground", EcuPinRole::PowerGround},
                                    {"sensor supply", EcuPinRole::SensorSupply},
                                    {"sensor ground", EcuPinRole::SensorGround}})
        if (const std::string pins = pinsOf(p.ecu, role); !pins.empty())
            out += std::string(key) + ": " + pins + "\n";
    for (const EcuInput& i : p.ecu.inputs)
        out += inputLine(p.ecu, i);
    for (const EcuOutput& o : p.ecu.outputs) {
        out += o.id.value + ":";
        for (bool first = true; const std::string& at : cavitiesOf(p.ecu, o.id))
            out += (std::exchange(first, false) ? " " : ", ") + at;
        out += outputWords(o) + "\n";
    }
    return out;
}

} // namespace vicegrip::parts
