#pragma once

#include <string>
#include <vector>

/// A linear DC network: nodes, and elements between them. Node 0 is the reference (the battery's negative post in a
/// job).
///
///     Network net;
///     const Node top = net.addNode(), middle = net.addNode();
///     net.addVoltageSource(top, kReference, 5.0, {.tolerance = 0.05}, "5 V supply");
///     net.addResistor(top, middle, 2490, {.tolerance = 24.9}, "pull-up");
///     net.addResistor(middle, kReference, 2200, {}, "thermistor");
///     auto solution = solve(net);          // solution.h
namespace vicegrip::circuit {

using Node = int;
using ElementIndex = int;
inline constexpr Node kReference = 0;

/// Resistances below this are taken as this (1 µOhm): a perfect short has no finite conductance.
inline constexpr double kLeastOhms = 1e-6;

/// How far an element's value may be from its nominal one, in the value's own unit.
struct Spread
{
    double tolerance = 0; ///< bound, never exceeded by a good part
    double sigma = -1; ///< standard deviation; below 0: tolerance / sqrt 3 (rectangular, JCGM 100:2008, 4.3.7)

    [[nodiscard]] double standardDeviation() const;
};

struct Element
{
    enum class Kind {
        Resistor, ///< value: Ohm, between a and b
        VoltageSource, ///< value: V, a above b
        CurrentSource, ///< value: A, driven out of a, through the element, into b
        VoltageControlledVoltage ///< value: gain; V(a, b) = gain * V(c, d)
    };
    Kind kind = Kind::Resistor;
    Node a = 0, b = 0, c = 0, d = 0;
    double value = 0;
    double least = 0, most = 0; ///< between which a good part lies: value ± tolerance, where nothing else was said
    Spread spread;
    std::string label;
};

/// Elements that one thing moves together, such as the two halves of a track: the settings they may take, as extremes.
/// A reading is taken to lie between those of the settings.
struct Together
{
    std::vector<ElementIndex> elements;
    std::vector<std::vector<double>> settings; ///< values, as `elements`
};

class Network
{
  public:
    /// A new node, not connected to anything yet.
    Node addNode() { return m_nodes++; }

    ElementIndex addResistor(Node a, Node b, double ohms, Spread spread = {}, std::string label = {});
    ElementIndex addVoltageSource(Node plus, Node minus, double volts, Spread spread = {}, std::string label = {});
    ElementIndex addCurrentSource(Node from, Node to, double amps, Spread spread = {}, std::string label = {});
    ElementIndex addVoltageControlledVoltage(Node plus, Node minus, Node controlPlus, Node controlMinus, double gain,
                                             Spread spread = {}, std::string label = {});

    [[nodiscard]] int nodeCount() const { return m_nodes; }
    [[nodiscard]] const std::vector<Element>& elements() const { return m_elements; }
    [[nodiscard]] const Element& element(ElementIndex i) const { return m_elements.at(static_cast<size_t>(i)); }
    [[nodiscard]] const std::vector<Together>& together() const { return m_together; }

    /// The value, and no other.
    void setValue(ElementIndex i, double value) { setBounds(i, value, value, value); }
    /// The value with the bounds of a good part, for one that its tolerance does not say alone. The spread stays.
    void setBounds(ElementIndex i, double value, double least, double most);
    /// The elements keep no bounds of their own.
    void moveTogether(Together together);

  private:
    ElementIndex add(Element element);

    int m_nodes = 1;
    std::vector<Element> m_elements;
    std::vector<Together> m_together;
};

} // namespace vicegrip::circuit
