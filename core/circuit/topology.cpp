#include "core/circuit/topology.h"

#include "core/base/joined.h"
#include "core/base/phrase.h"

#include <cmath>

namespace vicegrip::circuit {
namespace {

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
    Joined<Node> parts;
    for (const Element& e : network.elements())
        if (e.kind != Element::Kind::CurrentSource)
            parts.join(e.a, e.b);
    std::map<int, size_t> known; // place of a part in `out`
    std::vector<std::vector<Node>> out;
    for (Node node = 1; node < network.nodeCount(); ++node) {
        const int part = parts.of(node);
        if (part == parts.of(kReference))
            continue;
        const auto [it, fresh] = known.try_emplace(part, out.size());
        if (fresh)
            out.emplace_back();
        out[it->second].push_back(node);
    }
    return out;
}

std::optional<Error> contradiction(const Network& network)
{
    Joined<Node> byVoltage;
    for (const Element& e : network.elements()) {
        if (outside(e.a, network) || outside(e.b, network) || outside(e.c, network) || outside(e.d, network))
            return networkError(phrase("{} ends on a node that does not exist", called(e)));
        if (!std::isfinite(e.value))
            return networkError(phrase("{} has a value that is not a number", called(e)));
        if (e.kind == Element::Kind::Resistor && e.value < 0)
            return networkError(phrase("{} has a resistance below zero", called(e)));
        if (fixesVoltage(e) && !byVoltage.join(e.a, e.b))
            return networkError(
                phrase("{} fixes a voltage that other sources already fix: they are shorted or contradict each other",
                       called(e)));
    }
    return std::nullopt;
}

} // namespace vicegrip::circuit
