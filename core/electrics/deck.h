#pragma once

#include "core/electrics/netlist.h"
#include "core/electrics/sensor_model.h"
#include "core/parts/conductor.h"

#include <map>
#include <string>
#include <vector>

/// Inside: how a deck's lines are written. What is drawn in netlist.cpp, units and what hangs on them in
/// deck_units.cpp.
namespace vicegrip::electrics {

using job::PointRef;

/// A number as a deck reads it.
[[nodiscard]] std::string plain(double number);

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

} // namespace vicegrip::electrics
