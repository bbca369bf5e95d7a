#include "core/electrics/netlist.h"

#include "core/electrics/sensor_model.h"
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
        if (keyOn())
            for (const parts::Ecu* unit : job::units(m_job))
                unitLines(*unit);
        for (const job::Device& device : m_job.devices)
            if (const parts::Sensor* sensor = job::findPart(m_job, device.part))
                deviceLines(device, *sensor);
        tieWhatFloats();
        return std::move(m_out);
    }

  private:
    [[nodiscard]] bool keyOn() const { return m_situation.condition == job::Condition::KeyOn; }

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
        std::string node = fresh();
        resistor(place(p), node, parts::kMatedPairOhms, "contact " + p.text());
        return node;
    }

    void drawing();
    void wires();
    void unitLines(const parts::Ecu& unit);
    void deviceLines(const job::Device& device, const parts::Sensor& sensor);
    [[nodiscard]] double measurand(const job::Device& device, const parts::Sensor& sensor) const;

    const job::Job& m_job;
    const Situation& m_situation;
    Netlist m_out;
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
        for (const Fault& fault : m_situation.faults) {
            if (const auto* f = std::get_if<OpenWire>(&fault))
                open |= f->wire == w.id;
            if (const auto* f = std::get_if<AddedResistance>(&fault); f != nullptr && f->wire == w.id)
                ohm += f->ohm;
            if (const auto* f = std::get_if<SwappedCavities>(&fault))
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
            resistor(node, body, parts::kStudOhms, "stud " + j.id);
        }
        if (j.kind == job::JointKind::BatteryPositive && keyOn()) {
            const std::string emf = fresh();
            line('V', emf, "0", "DC " + plain(m_job.battery.volts), "battery");
            resistor(emf, node, m_job.battery.ohm, "battery");
        }
    }
    for (const job::Connector& c : m_job.connectors)
        for (const std::string& cavity : c.cavities)
            place({c.id, cavity});
    for (const job::Connector& c : m_job.connectors)
        for (const std::string& cavity : c.cavities)
            if (c.kind == job::ConnectorKind::Inline && c.id < c.mates && m_out.places.contains({c.mates, cavity}))
                resistor(place({c.id, cavity}), place({c.mates, cavity}), parts::kMatedPairOhms,
                         "contact " + c.id + "." + cavity);
    wires();
    for (const job::Switch& s : m_job.switches)
        if (keyOn() || !s.needsKey)
            resistor(place(s.from), place(s.to), s.ohm, "switch " + s.id);
    for (const job::Resistor& r : m_job.resistors)
        resistor(place(r.from), place(r.to), r.ohm, "resistor " + r.id);
    for (const job::Load& l : m_job.loads)
        if (keyOn() && m_situation.running)
            resistor(place(l.from), place(l.to), m_job.battery.volts / l.current_a, "load " + l.id);
    for (const Fault& fault : m_situation.faults)
        if (const auto* f = std::get_if<Short>(&fault))
            resistor(place(f->point), place(f->to), f->ohm, "short");
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
        m_out.inputs[input.id] = {converter, ground, supply};
    }
}

double Deck::measurand(const job::Device& device, const parts::Sensor& sensor) const
{
    for (const job::Circuit& c : m_job.circuits) {
        if (c.device != device.id)
            continue;
        const auto held = m_situation.measurands.find(c.id);
        return held != m_situation.measurands.end() ? held->second : atRest(c, m_situation.surroundings).value;
    }
    return sensor.low;
}

/// Each model as 3 lines at most: what is between supply, signal and ground.
void Deck::deviceLines(const job::Device& device, const parts::Sensor& sensor)
{
    using parts::PinRole;
    std::map<PinRole, std::string> pins;
    for (const auto& [cavity, role] : sensor.pins)
        pins.try_emplace(role, inside({device.connector, cavity}));
    const std::string signal = pins.contains(PinRole::Signal) ? pins[PinRole::Signal] : fresh(),
                      ground = pins.contains(PinRole::Ground) ? pins[PinRole::Ground] : "0",
                      supply = pins.contains(PinRole::Supply) ? pins[PinRole::Supply] : ground;
    const std::string what = "sensor " + device.id.value;
    const double x = measurand(device, sensor), share = (x - sensor.low) / (sensor.high - sensor.low);
    const auto output = [&](const std::string& volts, double out_ohm) {
        const std::string out = fresh();
        line('B', out, ground, "V = " + volts, what);
        resistor(out, signal, out_ohm, what);
    };
    if (const auto* t = std::get_if<parts::Thermistor>(&sensor.model)) {
        resistor(signal, ground, parts::ohms(t->curve, x), what);
    } else if (const auto* s = std::get_if<parts::Resistive>(&sensor.model)) {
        resistor(signal, ground, parts::alongPoints(s->points, &parts::Resistive::Point::ohm, x), what);
    } else if (const auto* p = std::get_if<parts::Potentiometer>(&sensor.model)) {
        const std::string wiper = fresh();
        const double at = p->endGap + std::clamp(share, 0.0, 1.0) * (1 - 2 * p->endGap);
        resistor(supply, wiper, p->track_ohm * (1 - at), what);
        resistor(wiper, ground, p->track_ohm * at, what);
        resistor(wiper, signal, p->wiper_ohm, what);
    } else if (const auto* r = std::get_if<parts::RatiometricTransducer>(&sensor.model)) {
        resistor(supply, ground, r->supply_ohm, what);
        const double low = std::min({r->low_v, r->high_v, 0.02 * r->at_supply_v}),
                     high = std::max({r->low_v, r->high_v, 0.98 * r->at_supply_v});
        const double volts =
            std::clamp(r->low_v + (r->high_v - r->low_v) * share, std::max(low, 0.0), std::min(high, r->at_supply_v));
        if (keyOn())
            output(plain(volts / r->at_supply_v) + " * V(" + supply + "," + ground + ")", r->out_ohm);
    } else if (const auto* d = std::get_if<parts::VoltageDevice>(&sensor.model)) {
        resistor(supply, ground, d->supply_ohm, what);
        const auto [least, most] = std::minmax(d->low_v, d->high_v);
        const double volts = d->points.empty() ? std::clamp(d->low_v + (d->high_v - d->low_v) * share, least, most)
                                               : parts::alongPoints(d->points, &parts::VoltageDevice::Point::volts, x);
        if (keyOn())
            output("V(" + supply + "," + ground + ") >= " + plain(d->least_supply_v) + " ? " + plain(volts) + " : 0",
                   d->out_ohm);
    } else if (const auto* o = std::get_if<parts::OpenCollector>(&sensor.model)) {
        resistor(supply, ground, o->supply_ohm, what);
        resistor(signal, ground, o->off_ohm, what + ", off");
    } else if (const auto* coil = std::get_if<parts::VariableReluctance>(&sensor.model)) {
        resistor(signal, ground, coil->coil_ohm, what);
    } else if (const auto* contact = std::get_if<parts::Contact>(&sensor.model); contact->closedAtRest) {
        resistor(signal, pins.contains(PinRole::Ground) ? ground : supply, contact->on_ohm, what + ", closed");
    }
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
    return Deck(job, situation).written();
}

} // namespace vicegrip::electrics
