#pragma once

#include "core/job/job.h"

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

/// The wiring as a graph: which places a probe can reach lie between a sensor's pin and where its wire must end.
namespace vicegrip::electrics {

/// A conductor of a circuit, from the sensor outwards.
struct Path
{
    parts::PinRole role = parts::PinRole::Signal;
    std::vector<job::PointRef> points; ///< from the sensor's plug to the end; only the plug when nothing leads on
    std::vector<std::string> subjects; ///< "wire w12", "switch K1": what the path is made of, in order
    bool complete = false; ///< it ends where it must
};

class Wiring
{
  public:
    explicit Wiring(const job::Job& job);

    /// The shortest way (fewest joints) from the sensor's pin to where this conductor must end: signal at the ECU
    /// cavity of the circuit's input; supply at a sensor supply cavity or the battery's positive post; ground at a
    /// sensor ground cavity, a stud or the negative post. No path object when the sensor has no such pin.
    [[nodiscard]] std::vector<Path> paths(const job::Circuit& circuit) const;

    /// The shortest way from a place to the first other one that `ends` accepts; not complete when there is none.
    [[nodiscard]] Path way(const job::PointRef& from, const std::function<bool(const job::PointRef&)>& ends) const;

    /// One edge of a shortest way: from a place to the next one nearer to the end of it.
    struct Leg
    {
        const job::PointRef* from = nullptr;
        const job::PointRef* to = nullptr;
        const std::string* subject = nullptr; ///< empty for a mated pair
    };
    /// The legs of the shortest ways from every place that one leads from to the nearest that `ends` accepts, the
    /// nearest places first: what is asked of every wire is answered by one search.
    [[nodiscard]] std::vector<Leg> legs(const std::function<bool(const job::PointRef&)>& ends) const;

    /// The joint at this place; null when it is not one.
    [[nodiscard]] const job::Joint* joint(const job::PointRef& place) const;

    /// The unit's pin at this cavity; null when none is.
    [[nodiscard]] const parts::EcuPin* ecuPin(const job::PointRef& place) const;

  private:
    struct Edge
    {
        int to = 0;
        std::string subject; ///< empty for a mated pair
    };

    int nodeOf(const job::PointRef& point);
    void connect(const job::PointRef& a, const job::PointRef& b, const std::string& subject);
    [[nodiscard]] bool ends(const job::PointRef& place, parts::PinRole role, const job::Circuit& circuit) const;

    const job::Job& m_job;
    std::map<job::PointRef, int> m_index;
    std::vector<job::PointRef> m_points;
    std::vector<std::vector<Edge>> m_edges;
    std::map<job::PointRef, const parts::EcuPin*> m_ecuPins;
    std::map<std::string_view, const job::Joint*> m_joints;
};

/// The studs and posts that the ECU's own ground wires end at.
[[nodiscard]] std::vector<const job::Joint*> groundEnds(const job::Job& job);

} // namespace vicegrip::electrics
