#include "core/circuit/topology.h"

#include <cmath>
#include <map>
#include <numeric>

namespace vicegrip::circuit {
namespace {

/// Union of node sets, with path halving.
class Parts
{
  public:
    explicit Parts(int nodes) : m_parent(static_cast<size_t>(nodes)) { std::iota(m_parent.begin(), m_parent.end(), 0); }

    int find(int node)
    {
        while (m_parent[static_cast<size_t>(node)] != node) {
            int& parent = m_parent[static_cast<size_t>(node)];
            parent = m_parent[static_cast<size_t>(parent)];
            node = parent;
        }
        return node;
    }

    /// False when the two were one part already.
    bool join(int a, int b)
    {
        const int rootA = find(a), rootB = find(b);
        if (rootA == rootB)
            return false;
        m_parent[static_cast<size_t>(std::max(rootA, rootB))] = std::min(rootA, rootB);
        return true;
    }

  private:
    std::vector<int> m_parent;
};

std::string called(const Element& e)
{
    return e.label.empty() ? std::string("an element") : "\"" + e.label + "\"";
}

bool outside(Node node, const Network& network)
{
    return node < 0 || node >= network.nodeCount();
}

bool fixesVoltage(const Element& e)
{
    return e.kind == Element::Kind::VoltageSource || e.kind == Element::Kind::VoltageControlledVoltage;
}

Error networkError(std::string sentence)
{
    return {ErrorCode::Network, std::move(sentence), {}};
}

} // namespace

std::vector<std::vector<Node>> floatingParts(const Network& network)
{
    Parts parts(network.nodeCount());
    for (const Element& e : network.elements())
        if (e.kind != Element::Kind::CurrentSource)
            parts.join(e.a, e.b);
    std::map<int, std::vector<Node>> floating;
    for (Node node = 1; node < network.nodeCount(); ++node)
        if (const int root = parts.find(node); root != kReference)
            floating[root].push_back(node);
    std::vector<std::vector<Node>> out;
    for (auto& [root, nodes] : floating)
        out.push_back(std::move(nodes));
    return out;
}

std::optional<Error> contradiction(const Network& network)
{
    Parts byVoltage(network.nodeCount());
    for (const Element& e : network.elements()) {
        if (outside(e.a, network) || outside(e.b, network) || outside(e.c, network) || outside(e.d, network))
            return networkError(called(e) + " ends on a node that does not exist");
        if (!std::isfinite(e.value))
            return networkError(called(e) + " has a value that is not a number");
        if (e.kind == Element::Kind::Resistor && e.value < 0)
            return networkError(called(e) + " has a resistance below zero");
        if (fixesVoltage(e) && !byVoltage.join(e.a, e.b))
            return networkError(
                called(e) +
                " fixes a voltage that other sources already fix: they are shorted or contradict each other");
    }
    return std::nullopt;
}

} // namespace vicegrip::circuit
