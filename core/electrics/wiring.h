#pragma once

#include "core/job/job.h"

#include <functional>
#include <set>
#include <string>
#include <string_view>
#include <unordered_map>
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
    /// The job must outlive it, and stay as it is.
    explicit Wiring(const job::Job& job);

    /// The shortest way (fewest joints) from the sensor's pin to where this conductor must end: signal at the ECU
    /// cavity of the circuit's input; supply at a sensor supply cavity or the battery's positive post; ground at a
    /// sensor ground cavity, a stud or the negative post. No path object when the sensor has no such pin.
    [[nodiscard]] std::vector<Path> paths(const job::Circuit& circuit) const;

    /// Those of every circuit, in the job's order: much quicker than one by one.
    [[nodiscard]] std::vector<std::vector<Path>> paths() const;

    /// The shortest way from a place to the first other one that `ends` accepts; not complete when there is none.
    [[nodiscard]] Path way(const job::PointRef& from, const std::function<bool(const job::PointRef&)>& ends) const;

    /// The places of one net with the part's signal pin, or another of its signals: along wires, mated pairs and
    /// resistors in series. Empty when the part has no such pin.
    [[nodiscard]] std::set<job::PointRef> signalNet(const job::Circuit& circuit,
                                                    parts::PinRole role = parts::PinRole::Signal) const;

    /// The resistor of the harness that pulls the circuit's signal up; null when there is none.
    [[nodiscard]] const job::Resistor* pullUp(const job::Circuit& circuit) const;

    /// What the resistors in series in the circuit's signal wire add up to, Ohm; 0 without one.
    [[nodiscard]] double seriesOhm(const job::Circuit& circuit) const;

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

    /// The studs and posts that the ECU's own ground wires end at.
    [[nodiscard]] std::vector<const job::Joint*> groundEnds() const;

    [[nodiscard]] const job::Job& job() const { return m_job; }

  private:
    enum class Kind { Wire, Switch, Pair, Series };
    struct Edge
    {
        size_t to = 0;
        size_t subject = 0; ///< in m_subjects
        Kind kind = Kind::Wire;
    };
    /// A unit's pin, and which one of its output it is.
    struct UnitPin
    {
        const parts::EcuPin* pin = nullptr;
        size_t leg = 0;
    };
    struct Place
    {
        job::PointRef at;
        const job::Joint* joint = nullptr;
        UnitPin unit;
        std::vector<Edge> edges;
    };
    struct PlaceHash
    {
        size_t operator()(const job::PointRef& p) const
        {
            const std::hash<std::string> hash;
            return hash(p.owner) * 31 + hash(p.cavity);
        }
    };
    class Search;

    size_t nodeOf(const job::PointRef& point);
    void connect(const job::PointRef& a, const job::PointRef& b, Kind kind, const std::string& subject);
    [[nodiscard]] std::vector<Path> paths(const job::Circuit& circuit, Search& search) const;
    [[nodiscard]] job::PointRef plugOf(const job::Circuit& circuit, parts::PinRole role) const;
    [[nodiscard]] static bool ends(const Place& place, parts::PinRole role, const job::Circuit& circuit);

    const job::Job& m_job;
    std::unordered_map<job::PointRef, size_t, PlaceHash> m_index;
    std::vector<Place> m_places;
    std::vector<std::string> m_subjects;
    std::unordered_map<job::PointRef, UnitPin, PlaceHash> m_ecuPins;
    std::unordered_map<std::string_view, const job::Joint*> m_joints;
    std::unordered_map<std::string_view, const job::Device*> m_devices;
    std::unordered_map<std::string_view, const parts::Part*> m_parts;
    std::unordered_map<std::string_view, const job::Connector*> m_pairs; ///< halves of inline pairs
};

} // namespace vicegrip::electrics
