#pragma once

#include "core/circuit/network.h"
#include "core/parts/elements.h"

#include <map>
#include <string>

namespace vicegrip::electrics {

/// Puts a part's elements into the network, under the fact subject of its device.
class PartInNetwork : public parts::ElementSink
{
  public:
    PartInNetwork(circuit::Network& net, std::map<parts::PinRole, circuit::Node> pins, std::string label)
        : m_net(net), m_pins(std::move(pins)), m_label(std::move(label))
    {
    }
    Node at(parts::PinRole role) override
    {
        if (const auto pin = m_pins.find(role); pin != m_pins.end())
            return pin->second;
        return role == parts::PinRole::Supply   ? at(parts::PinRole::Ground)
               : role == parts::PinRole::Ground ? circuit::kReference
                                                : m_pins[role] = m_net.addNode();
    }
    Node inside() override { return m_net.addNode(); }
    Index resistor(Node a, Node b, double ohm, double within) override
    {
        return m_net.addResistor(a, b, ohm, {within}, m_label);
    }
    Index volts(Node plus, Node minus, double volts, double within) override
    {
        return m_net.addVoltageSource(plus, minus, volts, {within}, m_label);
    }
    Index shareOf(Node out, Node high, Node low, double share, double within) override
    {
        return m_net.addVoltageControlledVoltage(out, low, high, low, share, {within}, m_label);
    }

  private:
    circuit::Network& m_net;
    std::map<parts::PinRole, circuit::Node> m_pins;
    std::string m_label;
};

} // namespace vicegrip::electrics
