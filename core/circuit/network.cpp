#include "core/circuit/network.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::circuit {

double Spread::standardDeviation() const
{
    return sigma >= 0 ? sigma : tolerance / std::sqrt(3.0);
}

ElementIndex Network::add(Element element)
{
    element.least = element.value - element.spread.tolerance;
    element.most = element.value + element.spread.tolerance;
    if (element.kind == Element::Kind::Resistor)
        element.least = std::max(element.least, std::min(element.value, 0.0)); // a value below 0 is refused as it is
    m_elements.push_back(std::move(element));
    return static_cast<ElementIndex>(m_elements.size()) - 1;
}

ElementIndex Network::addResistor(Node a, Node b, double ohms, Spread spread, std::string label)
{
    return add({Element::Kind::Resistor, a, b, 0, 0, ohms, 0, 0, spread, std::move(label)});
}

ElementIndex Network::addVoltageSource(Node plus, Node minus, double volts, Spread spread, std::string label)
{
    return add({Element::Kind::VoltageSource, plus, minus, 0, 0, volts, 0, 0, spread, std::move(label)});
}

ElementIndex Network::addCurrentSource(Node from, Node to, double amps, Spread spread, std::string label)
{
    return add({Element::Kind::CurrentSource, from, to, 0, 0, amps, 0, 0, spread, std::move(label)});
}

ElementIndex Network::addVoltageControlledVoltage(Node plus, Node minus, Node controlPlus, Node controlMinus,
                                                  double gain, Spread spread, std::string label)
{
    return add({Element::Kind::VoltageControlledVoltage, plus, minus, controlPlus, controlMinus, gain, 0, 0, spread,
                std::move(label)});
}

void Network::setBounds(ElementIndex i, double value, double least, double most)
{
    Element& e = m_elements.at(static_cast<size_t>(i));
    e.value = value;
    e.least = least;
    e.most = most;
}

void Network::moveTogether(Together together)
{
    for (ElementIndex i : together.elements)
        setValue(i, element(i).value);
    m_together.push_back(std::move(together));
}

} // namespace vicegrip::circuit
