#include "core/circuit/network.h"

#include <cmath>

namespace vicegrip::circuit {

double Spread::standardDeviation() const
{
    return sigma >= 0 ? sigma : tolerance / std::sqrt(3.0);
}

ElementIndex Network::add(Element element)
{
    m_elements.push_back(std::move(element));
    return static_cast<ElementIndex>(m_elements.size()) - 1;
}

ElementIndex Network::addResistor(Node a, Node b, double ohms, Spread spread, std::string label)
{
    return add({Element::Kind::Resistor, a, b, 0, 0, ohms, spread, std::move(label)});
}

ElementIndex Network::addVoltageSource(Node plus, Node minus, double volts, Spread spread, std::string label)
{
    return add({Element::Kind::VoltageSource, plus, minus, 0, 0, volts, spread, std::move(label)});
}

ElementIndex Network::addCurrentSource(Node from, Node to, double amps, Spread spread, std::string label)
{
    return add({Element::Kind::CurrentSource, from, to, 0, 0, amps, spread, std::move(label)});
}

ElementIndex Network::addVoltageControlledVoltage(Node plus, Node minus, Node controlPlus, Node controlMinus,
                                                  double gain, Spread spread, std::string label)
{
    return add({Element::Kind::VoltageControlledVoltage, plus, minus, controlPlus, controlMinus, gain, spread,
                std::move(label)});
}

} // namespace vicegrip::circuit
