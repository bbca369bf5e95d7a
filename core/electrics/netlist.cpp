#include "core/electrics/netlist.h"

#include "core/electrics/deck.h"
#include "core/parts/conductor.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::electrics {

std::string plain(double number)
{
    return units::shortest(number);
}

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

namespace {

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
        fit<faults::InputSetting, faults::OtherPart, faults::Miscounted, faults::ExchangedPlugs, faults::DeadCranking,
            faults::NoCharge>(fitted, fault);
    return Deck(fitted, situation).written();
}

} // namespace vicegrip::electrics
