#include "core/job/facts.h"

#include "core/base/phrase.h"
#include "core/job/listing.h"

namespace vicegrip::job {
namespace {

using fields::OrderedJson;
using units::Dimension;

struct Ending
{
    std::string_view ending;
    Dimension dimension;
};

/// Members whose name ends in a unit are shown with it; the name loses it.
constexpr Ending kEndings[] = {{"_ohm", Dimension::Resistance}, {"_v", Dimension::Voltage}, {"_a", Dimension::Current}};

std::string spokenName(std::string name)
{
    for (char& c : name)
        if (c == '_')
            c = ' ';
    if (name.starts_with("pull "))
        name[4] = '-';
    return name;
}

std::string valueText(const OrderedJson& value)
{
    if (value.is_string())
        return value.get<std::string>();
    if (value.is_number_float())
        return units::shortest(value.get<double>());
    return value.dump();
}

const Ending* unitEnding(const std::string& name)
{
    for (const Ending& e : kEndings)
        if (name.ends_with(e.ending))
            return &e;
    return nullptr;
}

/// Every leaf of `json` as a fact under `subject`. A list is one fact: a table's points belong together.
void flatten(const OrderedJson& json, const std::string& subject, Facts& out)
{
    if (!json.is_object()) {
        out[subject] = valueText(json);
        return;
    }
    for (const auto& [name, value] : json.items()) {
        const Ending* unit = value.is_number() ? unitEnding(name) : nullptr;
        if (unit != nullptr)
            out[subject + " " + spokenName(name.substr(0, name.size() - unit->ending.size()))] =
                units::formatExact(value.get<double>(), unit->dimension);
        else
            flatten(value, subject + " " + spokenName(name), out);
    }
}

OrderedJson without(OrderedJson json, std::initializer_list<const char*> names)
{
    for (const char* name : names)
        json.erase(name);
    return json;
}

std::string wireText(const Wire& w)
{
    return w.colour + " " + units::formatExact(w.area_m2, Dimension::Area) + " " +
           units::formatExact(w.length_m, Dimension::Length) + ", " + w.from.text() + " to " + w.to.text();
}

/// A value whose text is long (a table) is not repeated in a sentence.
std::string changeText(const std::string& name, const std::string& before, const std::string& after)
{
    constexpr size_t kSayable = 60;
    if (before.size() > kSayable || after.size() > kSayable)
        return phrase("{} changed", name);
    return phrase("{} changed from {} to {}", name, before, after);
}

/// The part's id stands for the subject itself, so that another part is named before its details are.
void addPart(const parts::Part& part, const std::string& subject, Facts& out)
{
    out[subject] = part.id.value;
    flatten(without(fields::toJson(part), {"id", "name", "kind", "feed", "conditioned", "unit"}), subject, out);
}

/// What hands set of a wheel and its sensor; what is not said is no fact yet.
void addTrigger(const TriggerSetup& t, const std::string& circuit, Facts& out)
{
    const auto say = [&](const char* what, const std::string& is) {
        out[what + circuit] = is.empty() ? std::string(kNotSaid) : is;
    };
    say("wheel ", t.wheel);
    say("wheel hole ", t.hole);
    say("wheel side ", t.side);
    say("wheel edge ", t.edge ? std::string(fields::enumName(*t.edge)) : std::string());
    say("air gap ", t.gap_m > 0 ? units::formatExact(t.gap_m, Dimension::Length) : std::string());
    say("strip lie ", t.lies_deg ? units::shortest(*t.lies_deg) + "°" : std::string());
    say("wheel beside ", t.beside_m ? units::formatExact(*t.beside_m, Dimension::Length) : std::string());
}

bool isOf(const std::string& fact, const std::string& subject)
{
    return fact == subject || (fact.starts_with(subject) && fact[subject.size()] == ' ');
}

/// Of a fact that says when something was mended.
std::string mended(const std::string& fact)
{
    return phrase("{} was mended", fact.substr(kMended.size()));
}

bool restsOn(const Facts& facts, const std::string& subject)
{
    const auto it = facts.lower_bound(subject);
    return it != facts.end() && isOf(it->first, subject);
}

} // namespace

std::string partSubject(const parts::Part& part, const DeviceId& device)
{
    return (parts::isDriven(part) ? "actuator " : "sensor ") + device.value;
}

std::string unitSubject(size_t unit)
{
    return unit == 0 ? "ECU" : "expander " + std::to_string(unit);
}

std::string supplySubject(size_t unit)
{
    return unit == 0 ? "supply" : "expander-supply " + std::to_string(unit);
}

std::string feedSubject(size_t unit)
{
    return unit == 0 ? "feed" : "expander-feed " + std::to_string(unit);
}

Facts facts(const Job& job)
{
    Facts out;
    for (const Wire& w : job.wires)
        out["wire " + w.id.value] = wireText(w);
    for (const Switch& s : job.switches)
        out["switch " + s.id] = s.from.text() + " to " + s.to.text() + (s.needsKey ? ", with the key" : "");
    for (const Switch& s : job.switches) // a name of its own: what was proved earlier did not know it
        out["switch " + s.id + " resistance"] = units::formatExact(s.ohm, Dimension::Resistance);
    for (const Switch& s : job.switches)
        out["switch " + s.id + " cranking"] = s.opensCranking ? "open" : "closed";
    for (const Switch& s : job.switches)
        if (!s.coil.empty())
            out["switch " + s.id + " coil"] = s.coil;
    for (const Lead& l : job.leads) // with one end of its drain on ground it carries nothing
        if (l.drain.size() == 2)
            out["lead " + l.id] = l.drain[0].text() + " to " + l.drain[1].text();
    flatten(without(fields::toJson(job.battery), {"tolerance_v", "charging_v"}), "battery", out);
    out["charging"] = units::formatExact(job.battery.charging_v, Dimension::Voltage);
    for (const Joint& j : job.joints)
        if (j.kind == JointKind::Stud)
            out["stud " + j.id] = j.body.empty() ? "on no body" : "on " + j.body;
    for (const Connector& c : job.connectors)
        for (const std::string& cavity : c.cavities)
            if (c.kind == ConnectorKind::Inline && c.id < c.mates)
                out["contact " + c.id + "." + cavity] = "to " + c.mates;
    for (const Load& l : job.loads)
        out["load " + l.id] = units::formatExact(l.current_a, Dimension::Current) + ", " + l.from.text() + " to " +
                              l.to.text() + (l.starter ? ", starter" : "");
    for (const Device& d : job.devices)
        if (const parts::Part* part = findPart(job, d.part))
            addPart(*part, partSubject(*part, d.id), out);
    for (const Resistor& r : job.resistors)
        out["resistor " + r.id] =
            units::formatExact(r.ohm, Dimension::Resistance) + ", " + r.from.text() + " to " + r.to.text();
    for (const parts::EcuInput* i : inputs(job)) {
        const std::string subject = "input " + i->id.value;
        flatten(without(fields::toJson(*i), {"id", "name", "modes", "functions", "pull_up_choices_ohm", "pull_up_fixed",
                                             "withstands_v", "most_hz", "variable_reluctance"}),
                subject, out);
        if (!i->pull_up_ohm)
            out[subject + " pull-up"] = "none";
        out[subject + " cavity"] = cavityOf(job, i->id).text();
    }
    for (const parts::EcuOutput* o : outputs(job)) {
        const std::string subject = "output " + o->id.value;
        flatten(without(fields::toJson(*o), {"id", "name", "functions", "most_a", "most_hz", "clamped"}), subject, out);
        for (size_t leg = 0; const PointRef& cavity : cavitiesOf(job, o->id))
            out[subject + " cavity " + std::to_string(++leg)] = cavity.text();
    }
    for (size_t u = 0; const parts::Ecu* unit : units(job)) {
        flatten(fields::toJson(unit->supply), supplySubject(u), out);
        out[feedSubject(u)] = units::formatExact(unit->feed_ohm, Dimension::Resistance);
        out[unitSubject(u++) + " firmware"] = unit->firmware.empty() ? "not noted" : unit->firmware;
    }
    for (const Circuit& c : job.circuits) {
        // How the ECU writes its table down moves no value; its unit is one where it is not the sensor's.
        flatten(without(fields::toJson(c.scaling), {"value_first", "falling", c.scaling.unit.empty() ? "unit" : "",
                                                    c.scaling.asFormula() ? "" : "takes"}),
                "scaling " + c.id.value, out);
        if (c.limits)
            out["scaling " + c.id.value + " limits"] =
                units::formatExact(c.limits->closed_v, Dimension::Voltage) + " closed, " +
                units::formatExact(c.limits->open_v, Dimension::Voltage) + " open";
        if (c.trigger)
            addTrigger(*c.trigger, c.id.value, out);
        out["circuit " + c.id.value] = "device " + c.device.value +
                                       (!c.output.empty() ? " on output " + c.output.value
                                        : c.input.empty() ? " on no input"
                                                          : " on input " + c.input.value);
    }
    for (const Mend& m : job.mends) // in the order of time
        for (const std::string& subject : m.subjects)
            out[std::string(kMended) + subject] = m.when;
    return out;
}

Facts factsOf(const Facts& all, const std::vector<std::string>& subjects)
{
    Facts out;
    for (const std::string& subject : subjects)
        for (auto it = all.lower_bound(subject); it != all.end() && it->first.starts_with(subject); ++it)
            if (isOf(it->first, subject))
                out.insert(*it);
    for (const std::string& subject : subjects)
        if (const auto it = all.find(std::string(kMended) + subject); it != all.end())
            out.insert(*it);
    return out;
}

bool concerns(const std::string& changed, const Facts& facts)
{
    return facts.contains(changed) || (changed.starts_with(kMended) && restsOn(facts, changed.substr(kMended.size())));
}

std::vector<std::string> changes(const Facts& then, const Facts& now)
{
    std::vector<std::string> out;
    for (const auto& [name, before] : then) {
        const auto it = now.find(name);
        if (it == now.end())
            out.push_back(phrase("{} is no longer there", name));
        else if (it->second != before)
            out.push_back(name.starts_with(kMended) ? phrase("{} again", mended(name))
                                                    : changeText(name, before, it->second));
    }
    std::vector<std::string> mends;
    for (auto it = now.lower_bound(std::string(kMended)); it != now.end() && it->first.starts_with(kMended); ++it)
        if (!then.contains(it->first) && concerns(it->first, then))
            mends.push_back(mended(it->first));
    out.insert(out.end(), mends.rbegin(), mends.rend()); // the wire says more than the circuit it is of
    return out;
}

} // namespace vicegrip::job
