#pragma once

#include "core/electrics/electrics.h"
#include "core/electrics/powered.h"
#include "core/electrics/sensor_model.h"
#include "core/electrics/wiring.h"
#include "core/parts/elements.h"

#include <algorithm>

/// A network that is being built: places and conductors (build.cpp), units (build_units.cpp), devices
/// (build_devices.cpp). Inside electrics/.
namespace vicegrip::electrics {

using circuit::ElementIndex;
using circuit::kReference;
using circuit::Network;
using circuit::Node;

class Builder
{
  public:
    Builder(const job::Job& job, const Situation& situation)
        : m_faulted(faults::rewires(situation.faults) ? std::optional(faults::asWired(job, situation.faults))
                                                      : std::nullopt),
          m_edits(faults::editsOf(situation.faults)),
          m_job(m_faulted ? *m_faulted : job),
          m_situation(situation),
          m_keyOn(job::isLive(situation.condition)),
          m_turns(job::engineTurns(situation.condition))
    {
        if (!job.resistors.empty())
            m_drawn.emplace(job);
    }

    Result<Electrics> build();

  private:
    Node at(const job::PointRef& point);
    Node body(const std::string& name);
    Node behind(const job::PointRef& point);
    void contact(const job::PointRef& point, Node a, Node b, double more_ohm);
    [[nodiscard]] double badContact(const job::PointRef& point) const;
    [[nodiscard]] double moreUnder(const std::string& stud) const;
    void addJoints();
    void addInlinePairs();
    void addConductors();
    void addSwitch(const job::Switch& s);
    [[nodiscard]] bool rests(const std::string& device) const;
    void addFaults();
    void addResistors();
    void addUnits();
    void addUnit(const parts::Ecu& unit);
    void addInput(const parts::EcuInput& input, Node pin);
    void addPort(const parts::EcuOutput& port, const std::vector<Node>& pair);
    void addOutput(const parts::EcuOutput& output, size_t leg, Node pin, Node feed);
    void addDevices();
    void addSensor(const job::Device& device, const parts::Part& sensor, const job::Circuit* circuit);
    void causeOf(const job::Circuit* circuit, const parts::Part& sensor, const std::vector<ElementIndex>& elements,
                 double x);
    void boundsOf(const parts::Laid& laid, const parts::Part& sensor, const Measurand& measurand,
                  const std::string& device);
    [[nodiscard]] const job::Circuit* circuitOf(const job::Device& device) const;
    [[nodiscard]] Measurand drifted(const Measurand& is, const parts::Part& sensor,
                                    const job::CircuitId& circuit) const;
    [[nodiscard]] Measurand measurandOf(const parts::Part& sensor, const job::Circuit* circuit) const;

    std::optional<job::Job> m_faulted; ///< a copy only where something differs: jobs can be large
    faults::NetworkEdits m_edits;
    const job::Job& m_job; ///< as wired, faults included
    std::optional<Wiring> m_drawn; ///< without them; where the harness has resistors
    const Situation& m_situation;
    bool m_keyOn, m_turns;
    Network m_net;
    std::map<job::PointRef, Node> m_nodes;
    std::map<std::string, Node> m_bodies;
    std::map<job::CircuitId, CircuitElements> m_circuits;
    std::map<parts::InputId, InputNodes> m_inputs;
    std::map<parts::InputId, std::map<parts::PinRole, Node>> m_inside; ///< where a sensor inside the unit hangs
    std::vector<UnitNodes> m_units;
    std::map<job::WireId, ElementIndex> m_wires;
    std::vector<Cause> m_causes;
    Cause m_ambient{"ambient", 0, {}}, m_barometer{"barometer", 0, {}};
    std::vector<Powered> m_powered;
};

} // namespace vicegrip::electrics
