#include "core/bus/bus.h"

#include "core/base/phrase.h"
#include "core/harness/bus_wires.h"
#include "core/harness/missing_wires.h"
#include "core/units/units.h"

#include <algorithm>
#include <limits>
#include <map>
#include <queue>

namespace vicegrip::bus {
namespace {

using job::PointRef;

constexpr double kFar = std::numeric_limits<double>::infinity();
/// A terminator closes an end from within a lead of its own beside a lead of the end's.
constexpr double kAtEnd_m = 2 * harness::kLongestStub_m;

/// Lengths along wires and through inline pairs.
class Lengths
{
  public:
    explicit Lengths(const job::Job& job)
    {
        for (const job::Wire& w : job.wires)
            join(w.from, w.to, w.length_m);
        for (const job::Connector& c : job.connectors)
            if (c.kind == job::ConnectorKind::Inline && c.id < c.mates)
                for (const std::string& cavity : c.cavities)
                    join({c.id, cavity}, {c.mates, cavity}, 0);
    }

    /// From one place to all that a wire leads to (Dijkstra 1959).
    [[nodiscard]] std::map<PointRef, double> from(const PointRef& start) const
    {
        std::map<PointRef, double> out;
        using Open = std::pair<double, PointRef>;
        std::priority_queue<Open, std::vector<Open>, std::greater<>> open;
        for (open.emplace(0, start); !open.empty();) {
            const auto [so_far, at] = open.top();
            open.pop();
            if (!out.try_emplace(at, so_far).second)
                continue;
            if (const auto edges = m_edges.find(at); edges != m_edges.end())
                for (const auto& [to, length] : edges->second)
                    if (!out.contains(to))
                        open.emplace(so_far + length, to);
        }
        return out;
    }

  private:
    void join(const PointRef& a, const PointRef& b, double length)
    {
        m_edges[a].emplace_back(b, length);
        m_edges[b].emplace_back(a, length);
    }

    std::map<PointRef, std::vector<std::pair<PointRef, double>>> m_edges;
};

double lengthTo(const std::map<PointRef, double>& from, const PointRef& to)
{
    const auto at = from.find(to);
    return at == from.end() ? kFar : at->second;
}

/// A port's cavities, high and low; empty where it has no pair.
std::pair<PointRef, PointRef> pairOf(const parts::Ecu& unit, const parts::EcuOutput& port)
{
    const auto pair = parts::cavitiesOf(unit, port.id);
    return pair.size() == 2 ? std::pair(PointRef::fromText(pair[0]), PointRef::fromText(pair[1]))
                            : std::pair<PointRef, PointRef>();
}

/// Ports and devices that could hang on one: with fewer than two there is no bus, and no wire need be looked at.
bool anyBus(const job::Job& job)
{
    const auto ports =
        std::ranges::count_if(job::outputs(job), [](const parts::EcuOutput* o) { return o->isShared(); });
    const auto devices = std::ranges::count_if(job.circuits, [&](const job::Circuit& c) {
        const parts::Part* part = job::partOf(job, c);
        return part != nullptr && parts::isOnBus(*part);
    });
    return ports > 0 && ports + devices > 1;
}

class Line
{
  public:
    Line(const job::Job& job, const Lengths& lengths, const parts::EcuOutput& port,
         const std::pair<PointRef, PointRef>& pair)
        : m_job(job), m_lengths(lengths), m_reach(lengths.from(pair.first)), m_low(lengths.from(pair.second))
    {
        m_bus.port = port.id;
    }

    /// False where nobody else hangs on it.
    bool find()
    {
        for (const parts::Ecu* unit : job::units(m_job))
            for (const parts::EcuOutput& port : unit->outputs)
                if (port.isShared())
                    hang({unit == &m_job.ecu ? phrase("ECU") : unit->name, {}, pairOf(*unit, port).first},
                         port.terminator_ohm);
        for (const job::Circuit& c : m_job.circuits)
            if (const parts::Part* part = job::partOf(m_job, c); part != nullptr && parts::isOnBus(*part)) {
                const PointRef high = harness::plugOf(m_job, c, parts::PinRole::Signal);
                if (const auto unit = std::ranges::find(m_bus.nodes, high, &Node::high); unit != m_bus.nodes.end())
                    unit->circuit = c.id; // the port of a unit, which hangs there already
                else
                    hang({c.name, c.id, high}, parts::terminatorOhm(*part));
            }
        if (m_bus.nodes.size() < 2)
            return false;
        for (const job::Resistor& r : m_job.resistors)
            if (r.kind == job::ResistorKind::Terminator)
                for (const auto& [high, low] : {std::pair(r.from, r.to), {r.to, r.from}})
                    if (m_reach.contains(high) && m_low.contains(low))
                        m_bus.terminators.push_back({r.id, high, r.ohm});
        layOut();
        close();
        return true;
    }

    [[nodiscard]] Bus done() { return std::move(m_bus); }

  private:
    void hang(Node node, double terminator_ohm)
    {
        if (node.high.empty() || !m_reach.contains(node.high))
            return;
        if (terminator_ohm > 0)
            m_bus.terminators.push_back({node.name, node.high, terminator_ohm});
        m_bus.nodes.push_back(std::move(node));
    }

    /// The line goes between the two that are farthest apart; of equals between those that came first.
    void layOut()
    {
        auto& nodes = m_bus.nodes;
        size_t first = 0, last = 1;
        for (size_t a = 0; a < nodes.size(); ++a) {
            const auto from = m_lengths.from(nodes[a].high);
            for (size_t b = a + 1; b < nodes.size(); ++b)
                if (const double apart = lengthTo(from, nodes[b].high); apart > m_bus.length_m) {
                    m_bus.length_m = apart;
                    first = a;
                    last = b;
                }
        }
        m_first = nodes[first].high;
        m_last = nodes[last].high;
        const auto fromFirst = m_lengths.from(m_first), fromLast = m_lengths.from(m_last);
        for (Node& n : nodes) {
            const double a = lengthTo(fromFirst, n.high), b = lengthTo(fromLast, n.high);
            n.stub_m = std::max(0.0, (a + b - m_bus.length_m) / 2);
            n.along_m = a - n.stub_m;
        }
        const auto place = [&](const Node& n) {
            return std::pair(n.high == m_first ? -1 : n.high == m_last ? 1 : 0, n.along_m);
        };
        std::ranges::stable_sort(nodes, {}, place);
    }

    /// Each end is closed by the terminator nearest to it, if that is near; one closes one end.
    void close()
    {
        double siemens = 0;
        for (const Terminator& t : m_bus.terminators)
            siemens += 1 / t.ohm;
        m_bus.ohm = siemens > 0 ? 1 / siemens : kFar;
        std::vector<bool> used(m_bus.terminators.size(), false);
        for (const size_t end : {0U, 1U}) {
            const auto from = m_lengths.from(end == 0 ? m_first : m_last);
            std::optional<size_t> nearest;
            for (size_t t = 0; t < used.size(); ++t) {
                const double apart = m_bus.terminators[t].apart_m[end] = lengthTo(from, m_bus.terminators[t].at);
                if (!used[t] && apart <= kAtEnd_m && (!nearest || apart < m_bus.terminators[*nearest].apart_m[end]))
                    nearest = t;
            }
            if (nearest)
                used[*nearest] = true;
            else
                m_bus.open[end] = end == 0 ? 0 : m_bus.nodes.size() - 1;
        }
        for (size_t t = 0; t < used.size(); ++t)
            if (!used[t])
                m_bus.within.push_back(t);
    }

    const job::Job& m_job;
    const Lengths& m_lengths;
    std::map<PointRef, double> m_reach, m_low; ///< from the port, along high and along low
    PointRef m_first, m_last;
    Bus m_bus;
};

std::string ohms(double ohm)
{
    return std::isinf(ohm) ? phrase("open") : units::format(ohm, units::Dimension::Resistance, "Ω", 0);
}

} // namespace

std::vector<Bus> buses(const job::Job& job)
{
    std::vector<Bus> out;
    if (!anyBus(job))
        return out;
    const Lengths lengths(job);
    std::set<PointRef> told;
    for (const parts::Ecu* unit : job::units(job))
        for (const parts::EcuOutput& port : unit->outputs) {
            const auto pair = port.isShared() ? pairOf(*unit, port) : std::pair<PointRef, PointRef>();
            if (pair.first.empty() || told.contains(pair.first))
                continue;
            Line line(job, lengths, port, pair);
            if (!line.find())
                continue;
            out.push_back(line.done());
            for (const Node& n : out.back().nodes)
                told.insert(n.high);
        }
    return out;
}

std::string orderText(const Bus& bus)
{
    std::string out;
    double at = 0;
    for (const Node& n : bus.nodes) {
        if (!out.empty())
            out += ", " + units::format(n.along_m - at, units::Dimension::Length, "m", 1) + ", ";
        at = n.along_m;
        out += n.name;
        const auto inside = std::ranges::find(bus.terminators, n.high, &Terminator::at);
        if (inside != bus.terminators.end())
            out += " (" + ohms(inside->ohm) + ")";
    }
    return out + ": " + phrase("{} across", ohms(bus.ohm));
}

} // namespace vicegrip::bus
