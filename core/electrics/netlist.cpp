#include "core/electrics/netlist.h"

#include "core/electrics/sensor_model.h"
#include "core/electrics/wiring.h"
#include "core/parts/conductor.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::electrics {
namespace {

using job::PointRef;

std::string plain(double number)
{
    return units::shortest(number);
}

/// Writes a deck's lines.
class Deck
{
  public:
    Deck(const job::Job& job, const Situation& situation) : m_job(job), m_situation(situation) {}

    Netlist written()
    {
        drawing();
        for (const parts::Ecu* unit : job::units(m_job)) {
            if (keyOn())
                unitLines(*unit);
            for (const parts::EcuOutput& o : unit->outputs)
                terminatorLine(*unit, o);
        }
        for (const job::Device& device : m_job.devices)
            if (const parts::Part* sensor = job::findPart(m_job, device.part))
                deviceLines(device, *sensor);
        tieWhatFloats();
        return std::move(m_out);
    }

  private:
    [[nodiscard]] bool keyOn() const { return m_situation.condition != job::Condition::BatteryOff; }
    [[nodiscard]] bool cranks() const { return m_situation.condition == job::Condition::Cranking; }
    [[nodiscard]] bool turns() const { return cranks() || m_situation.condition == job::Condition::Running; }
    [[nodiscard]] double battery() const
    {
        if (m_situation.battery_v)
            return *m_situation.battery_v;
        return m_situation.condition == job::Condition::Running ? m_job.battery.charging_v : m_job.battery.volts;
    }

    /// What drives the coil is on: clicked, or at work while the engine turns.
    [[nodiscard]] bool pulls(const std::string& coil) const
    {
        bool on = turns();
        for (const job::Circuit& c : m_job.circuits)
            if (c.device.value == coil)
                on = (on && m_situation.off.count(c.id) == 0) || (!c.output.empty() && c.output == m_situation.clicked);
        return on && keyOn() && !m_situation.keyOff;
    }

    std::string fresh() { return "n" + std::to_string(++m_nodes); }

    std::string place(const PointRef& p)
    {
        const auto [it, added] = m_out.places.try_emplace(p);
        if (added) {
            const job::Joint* joint = job::findJoint(m_job, p.owner);
            const bool post = joint != nullptr && joint->kind == job::JointKind::BatteryNegative;
            it->second = post ? "0" : fresh();
        }
        return it->second;
    }

    /// The node that stands for everything this one is tied to.
    std::string root(const std::string& node)
    {
        std::string at = node;
        for (auto up = m_tied.find(at); up != m_tied.end(); up = m_tied.find(at))
            at = up->second;
        return at;
    }
    void line(char kind, const std::string& a, const std::string& b, const std::string& value, const std::string& what)
    {
        m_out.elements += kind + std::to_string(++m_lines) + " " + a + " " + b + " " + value + " ; " + what + "\n";
        const std::string from = root(a), to = root(b);
        if (from != to)
            (from == "0" ? m_tied[to] : m_tied[from]) = from == "0" ? from : to;
    }
    void resistor(const std::string& a, const std::string& b, double ohm, const std::string& what)
    {
        line('R', a, b, plain(std::max(ohm, circuit::kLeastOhms)), what);
    }
    /// What nothing ties to the battery's negative post has no volts: a leak gives it some.
    void tieWhatFloats()
    {
        constexpr double kLeak_ohm = 1e9;
        for (int n = 1; n <= m_nodes; ++n)
            if (const std::string node = "n" + std::to_string(n); root(node) != "0")
                resistor(node, "0", kLeak_ohm, "nothing ties it");
    }
    /// Behind a mated contact.
    std::string inside(const PointRef& p)
    {
        const auto [it, added] = m_inside.try_emplace(p);
        if (added) {
            it->second = fresh();
            contact({p}, place(p), it->second);
        }
        return it->second;
    }

    /// A mated contact; nothing where a terminal of it is not home.
    void contact(const std::vector<PointRef>& sides, const std::string& a, const std::string& b)
    {
        double ohm = parts::kMatedPairOhms;
        for (const faults::Fault& fault : m_situation.faults)
            if (const auto* f = std::get_if<faults::BadContact>(&fault);
                f != nullptr && std::ranges::count(sides, f->at)) {
                if (!f->ohm)
                    return;
                ohm += *f->ohm;
            }
        resistor(a, b, ohm, "contact " + sides.front().text());
    }

    void drawing();
    void wires();
    void loads();
    void unitLines(const parts::Ecu& unit);
    void outputLines(const parts::Ecu& unit, const parts::EcuPin& pin, const std::string& node, const std::string& feed,
                     const std::string& ground, const std::string& supply);
    void terminatorLine(const parts::Ecu& unit, const parts::EcuOutput& output);
    void deviceLines(const job::Device& device, const parts::Part& part);
    [[nodiscard]] double measurand(const job::Device& device, const parts::Part& sensor) const;

    /// Writes one part's lines.
    class Pen : public parts::DeckPen
    {
      public:
        Pen(Deck& deck, std::map<parts::PinRole, std::string> pins, std::string what)
            : m_deck(deck), m_pins(std::move(pins)), m_what(std::move(what))
        {
        }
        std::string at(parts::PinRole role) override
        {
            if (const auto pin = m_pins.find(role); pin != m_pins.end())
                return pin->second;
            return role == parts::PinRole::Supply   ? at(parts::PinRole::Ground)
                   : role == parts::PinRole::Ground ? "0"
                                                    : m_pins[role] = fresh();
        }
        std::string fresh() override { return m_deck.fresh(); }
        void resistor(const std::string& a, const std::string& b, double ohm) override
        {
            m_deck.resistor(a, b, ohm, m_what);
        }
        void output(const std::string& volts, double out_ohm, parts::PinRole terminal) override
        {
            const std::string out = fresh();
            m_deck.line('B', out, at(parts::PinRole::Ground), "V = " + volts, m_what);
            resistor(out, at(terminal), out_ohm);
        }

      private:
        Deck& m_deck;
        std::map<parts::PinRole, std::string> m_pins;
        std::string m_what;
    };

    const job::Job& m_job;
    const Situation& m_situation;
    Netlist m_out;
    std::map<parts::InputId, std::map<parts::PinRole, std::string>> m_sensorInside; ///< where one hangs, by input
    std::map<PointRef, std::string> m_inside; ///< behind contacts
    std::map<std::string, std::string> m_tied; ///< a node to another of its part, towards the one that stands for it
    int m_nodes = 0, m_lines = 0;
};

void Deck::wires()
{
    // Annealed copper, IEC 60028, with a lay of 2 %.
    const double rho = 1.7241e-8 * 1.02 * (1 + 0.00393 * (m_situation.surroundings.ambient_k - 293.15));
    for (const job::Wire& w : m_job.wires) {
        PointRef from = w.from, to = w.to;
        double ohm = rho * w.length_m / w.area_m2 + 2 * parts::kCrimpOhms;
        bool open = false;
        for (const faults::Fault& fault : m_situation.faults) {
            if (const auto* f = std::get_if<faults::OpenWire>(&fault))
                open |= f->wire == w.id;
            if (const auto* f = std::get_if<faults::AddedResistance>(&fault); f != nullptr && f->wire == w.id)
                ohm += f->ohm;
            if (const auto* f = std::get_if<faults::MovedEnd>(&fault); f != nullptr && f->wire == w.id)
                (from == f->at ? from : to) = f->to;
            if (const auto* f = std::get_if<faults::SwappedCavities>(&fault))
                for (PointRef* end : {&from, &to})
                    if (end->owner == f->connector)
                        for (const size_t i : {0U, 1U})
                            if (end->cavity == f->cavities[i]) {
                                end->cavity = f->cavities[1 - i];
                                break;
                            }
        }
        if (!open)
            resistor(place(from), place(to), ohm, "wire " + w.id.value);
    }
}

void Deck::drawing()
{
    std::map<std::string, std::string> bodies;
    for (const job::Joint& j : m_job.joints) {
        const std::string node = place({j.id, {}});
        if (j.kind == job::JointKind::Stud && !j.body.empty()) {
            std::string& body = bodies[j.body];
            if (body.empty())
                body = fresh();
            double ohm = parts::kStudOhms;
            for (const faults::Fault& fault : m_situation.faults)
                if (const auto* f = std::get_if<faults::BadStud>(&fault); f != nullptr && f->joint == j.id)
                    ohm += f->ohm;
            resistor(node, body, ohm, "stud " + j.id);
        }
        if (j.kind == job::JointKind::BatteryPositive && keyOn()) {
            const std::string emf = fresh();
            line('V', emf, "0", "DC " + plain(battery()), "battery");
            resistor(emf, node, m_situation.condition == job::Condition::Running ? 0.003 : m_job.battery.ohm,
                     "battery");
        }
    }
    for (const job::Connector& c : m_job.connectors)
        for (const std::string& cavity : c.cavities)
            place({c.id, cavity});
    for (const job::Connector& c : m_job.connectors)
        for (const std::string& cavity : c.cavities)
            if (c.kind == job::ConnectorKind::Inline && c.id < c.mates && m_out.places.contains({c.mates, cavity}))
                contact({{c.id, cavity}, {c.mates, cavity}}, place({c.id, cavity}), place({c.mates, cavity}));
    wires();
    for (const job::Switch& s : m_job.switches)
        if (((keyOn() && !m_situation.keyOff) || !s.needsKey) && !(cranks() && s.opensCranking) &&
            (s.coil.empty() || pulls(s.coil)))
            resistor(place(s.from), place(s.to), s.ohm, "switch " + s.id);
        else if (keyOn() && !s.coil.empty())
            resistor(place(s.from), place(s.to), 1e10, "open contact " + s.id);
    for (const job::Lead& l : m_job.leads) {
        double longest_m = 0;
        for (const job::Wire& w : m_job.wires)
            if (std::ranges::count(l.cores, w.id) > 0)
                longest_m = std::max(longest_m, w.length_m);
        if (l.drain.size() == 2) // copper of 0.35 mm², and a crimp at each end
            resistor(place(l.drain[0]), place(l.drain[1]),
                     parts::wireOhms(longest_m, 0.35e-6, m_situation.surroundings.ambient_k) + 2 * parts::kCrimpOhms,
                     "lead " + l.id);
    }
    for (const job::Resistor& r : m_job.resistors)
        resistor(place(r.from), place(r.to), r.ohm, "resistor " + r.id);
    loads();
    for (const faults::Fault& fault : m_situation.faults)
        if (const auto* f = std::get_if<faults::Short>(&fault))
            resistor(place(f->point), place(f->to), f->ohm, "short");
}

void Deck::loads()
{
    const auto starter = [&](const std::string& from, const std::string& to, double amps) {
        const double within = m_job.battery.ohm;
        resistor(from, to, std::max(m_job.battery.volts / amps - within, within), "starter");
    };
    bool drawn = false;
    for (const job::Load& l : m_job.loads) {
        drawn |= l.starter;
        if (l.starter && cranks())
            starter(place(l.from), place(l.to), l.current_a);
        if (!l.starter && turns())
            resistor(place(l.from), place(l.to), battery() / l.current_a, "load " + l.id);
    }
    if (cranks() && !drawn)
        for (const job::Joint& j : m_job.joints)
            if (j.kind == job::JointKind::BatteryPositive)
                starter(place({j.id, {}}), "0", 140);
}

/// Off, but for those that drive something while the engine runs: to ground what is fed from elsewhere, to the feed
/// what is grounded, and of what hangs between two pins the first to the feed.
void Deck::outputLines(const parts::Ecu& unit, const parts::EcuPin& pin, const std::string& node,
                       const std::string& feed, const std::string& ground, const std::string& supply)
{
    for (const parts::EcuOutput& o : unit.outputs) {
        if (o.id != pin.output)
            continue;
        if (std::ranges::count(o.drives, parts::OutputKind::Bus) > 0) { // held at 2.5 V by 30 kOhm each
            const std::string quiet = fresh();
            line('B', quiet, ground, "V = V(" + supply + "," + ground + ") * 2.5 / " + plain(unit.supply.volts),
                 "bus " + o.id.value);
            resistor(quiet, node, 30e3, "bus " + o.id.value);
            continue;
        }
        const auto circuit = std::ranges::find(m_job.circuits, o.id, &job::Circuit::output);
        const parts::Part* part = circuit == m_job.circuits.end() ? nullptr : job::partOf(m_job, *circuit);
        const bool logic = std::ranges::count(o.drives, parts::OutputKind::Logic) > 0 &&
                           (part == nullptr || parts::driveOf(*part)->least_v > 0);
        const auto has = [&](parts::PinRole role) {
            return part != nullptr && std::ranges::any_of(part->pins, [&](const auto& p) { return p.second == role; });
        };
        const auto first = std::ranges::find(unit.pins, o.id, &parts::EcuPin::output);
        const auto before = std::count_if(first, std::ranges::find(unit.pins, pin.at, &parts::EcuPin::at),
                                          [&](const parts::EcuPin& p) { return p.output == o.id; });
        const bool toFeed = !has(parts::PinRole::Supply) && (has(parts::PinRole::Ground) || before % 2 == 0);
        const std::string what = "output " + o.id.value;
        const bool clicked = m_situation.clicked == o.id;
        if (clicked && logic && part != nullptr) {
            const std::string high = fresh();
            line('V', high, ground, "DC " + plain(o.high_v), what + ", high");
            resistor(node, high, o.on_ohm, what);
        } else if (part != nullptr && !logic && (clicked || (turns() && m_situation.off.count(circuit->id) == 0)))
            resistor(node, toFeed ? feed : ground, o.on_ohm, what + ", on");
        else
            resistor(node, ground, logic ? o.on_ohm : o.off_ohm, what);
        if (o.pull_up_ohm)
            resistor(node, feed, *o.pull_up_ohm, what);
    }
}

/// Between the pins of a bus port, power or not.
void Deck::terminatorLine(const parts::Ecu& unit, const parts::EcuOutput& output)
{
    std::vector<PointRef> pair;
    for (const parts::EcuPin& pin : unit.pins)
        if (pin.output == output.id)
            pair.push_back(PointRef::fromText(pin.at));
    if (output.terminator_ohm > 0 && pair.size() == 2)
        resistor(inside(pair[0]), inside(pair[1]), output.terminator_ohm, "terminator " + output.id.value);
}

void Deck::unitLines(const parts::Ecu& unit)
{
    constexpr double kKeySense_ohm = 10e3;
    const std::string ground = fresh(), supply = fresh(), outlet = fresh(), feed = fresh();
    resistor(feed, ground, unit.feed_ohm, "unit");
    line('B', supply, ground,
         "V = V(" + feed + "," + ground + ") >= " + plain(unit.least_supply_v) + " ? " + plain(unit.supply.volts) +
             " : 0",
         "sensor supply");
    resistor(supply, outlet, unit.supply.ohm, "sensor supply");
    std::map<parts::InputId, std::string> pins;
    for (const parts::EcuPin& pin : unit.pins) {
        const std::string node = inside(PointRef::fromText(pin.at));
        const std::string to = pin.role == parts::EcuPinRole::SensorSupply ? outlet
                               : pin.role == parts::EcuPinRole::PowerFeed  ? feed
                                                                           : ground;
        if (pin.role == parts::EcuPinRole::Input)
            pins.try_emplace(pin.input, node);
        else if (pin.role == parts::EcuPinRole::Output)
            outputLines(unit, pin, node, feed, ground, supply);
        else
            resistor(node, to, pin.role == parts::EcuPinRole::KeyFeed ? kKeySense_ohm : parts::kCrimpOhms,
                     "unit " + pin.at);
    }
    for (const parts::EcuInput& input : unit.inputs) {
        const std::string what = "input " + input.id.value;
        const auto pin = pins.find(input.id);
        const std::string at = pin != pins.end() ? pin->second : fresh();
        std::string converter = at;
        if (input.pull_up_ohm)
            resistor(supply, at, *input.pull_up_ohm, what);
        if (input.series_ohm > 0) {
            converter = fresh();
            resistor(at, converter, input.series_ohm, what);
        }
        resistor(converter, ground, input.pull_down_ohm, what);
        if (input.inside)
            m_sensorInside[input.id] = {
                {parts::PinRole::Signal, at}, {parts::PinRole::Supply, supply}, {parts::PinRole::Ground, ground}};
        m_out.inputs[input.id] = {converter, ground, supply};
    }
}

double Deck::measurand(const job::Device& device, const parts::Part& sensor) const
{
    for (const job::Circuit& c : m_job.circuits) {
        if (c.device != device.id)
            continue;
        const auto held = m_situation.measurands.find(c.id);
        double value = held != m_situation.measurands.end() ? held->second : atRest(c, m_situation.surroundings).value;
        for (const faults::Fault& fault : m_situation.faults)
            if (const auto* f = std::get_if<faults::Drift>(&fault); f != nullptr && f->circuit == c.id)
                value = std::min(std::max(value + f->share * (sensor.high - sensor.low), std::min(value, sensor.low)),
                                 std::max(value, sensor.high));
        return value;
    }
    return sensor.low;
}

void Deck::deviceLines(const job::Device& device, const parts::Part& part)
{
    std::map<parts::PinRole, std::string> pins;
    for (const auto& [cavity, role] : part.pins)
        pins.try_emplace(role, inside({device.connector, cavity}));
    if (part.pins.empty()) { // inside a unit, on the input of the circuit that it is in
        const auto circuit = std::ranges::find(m_job.circuits, device.id, &job::Circuit::device);
        const auto input = circuit != m_job.circuits.end() ? m_sensorInside.find(circuit->input) : m_sensorInside.end();
        if (input == m_sensorInside.end())
            return;
        pins = input->second;
    }
    Pen pen(*this, std::move(pins), "sensor " + device.id.value);
    const double value = measurand(device, part);
    double series = 0;
    bool pulls = false;
    for (const job::Circuit& c : m_job.circuits)
        if (c.device == device.id) {
            pulls = m_situation.pulling.contains(c.id);
            series = parts::isDriven(part) ? Wiring(m_job).seriesOhm(c) : 0;
        }
    parts::write(pen, part, {value, value, value, keyOn(), turns(), series, pulls});
}

template <class Kind> void fitOne(job::Job& job, const faults::Fault& fault)
{
    if (const auto* f = std::get_if<Kind>(&fault))
        f->rewire(job);
}

template <class... Kinds> void fit(job::Job& job, const faults::Fault& fault)
{
    (fitOne<Kinds>(job, fault), ...);
}

} // namespace

std::string Netlist::deck(const std::string& title) const
{
    std::string out = "* " + title + "\n";
    for (const auto& [point, node] : places)
        out += "* " + point.text() + " is " + node + "\n";
    out += elements + ".control\nset numdgt=15\nop\n";
    for (const auto& [point, node] : places)
        if (node != "0")
            out += "print v(" + node + ")\n";
    return out + "quit\n.endc\n.end\n";
}

Netlist netlist(const job::Job& job, const Situation& situation)
{
    job::Job fitted = job; // what is set or fitted otherwise, or counted wrong as a whole, is a matter of the job
    for (const faults::Fault& fault : situation.faults)
        fit<faults::InputSetting, faults::OtherPart, faults::Miscounted, faults::ExchangedPlugs, faults::DeadCranking>(
            fitted, fault);
    return Deck(fitted, situation).written();
}

} // namespace vicegrip::electrics
