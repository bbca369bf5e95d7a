#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/parts/layout.h"

#include <compare>
#include <optional>
#include <string>
#include <vector>

/// What a job's drawing is made of: plugs, joints, wires, what is fitted between them, what they feed, and how the
/// harness lies. Lengths in m, areas in m².
namespace vicegrip::job {

using WireId = Id<struct WireTag>;

/// A place a wire can end: a connector's cavity ("CLT.1") or a joint ("S2", "G1", "BAT-").
struct PointRef
{
    std::string owner;
    std::string cavity; ///< empty for a joint

    [[nodiscard]] std::string text() const { return cavity.empty() ? owner : owner + "." + cavity; }
    [[nodiscard]] bool empty() const { return owner.empty(); }
    [[nodiscard]] static PointRef fromText(std::string_view text);
    auto operator<=>(const PointRef&) const = default;
};

enum class ConnectorKind {
    Sensor, ///< harness plug of a device
    Inline, ///< one half of a bulkhead or inline pair
    Ecu, ///< harness plug of the ECU
    Load ///< harness plug of a pump, a coil, an injector, a fan
};

struct Connector
{
    std::string id;
    std::string label;
    ConnectorKind kind = ConnectorKind::Sensor;
    std::string mates; ///< Inline: the other half
    std::vector<std::string> cavities;
    std::optional<parts::Layout> layout; ///< its face; none: nobody has described it
    bool faceProposed = false; ///< the face fits the number of cavities; nobody has looked at the part yet
    std::string place; ///< where hands must be to reach it; empty: where its function usually sits
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Connector&) const = default;
};

/// A connector's face: as described, else its cavities in a row with a family nobody has named.
[[nodiscard]] parts::Layout faceOf(const Connector& connector);

enum class JointKind { Splice, Stud, BatteryPositive, BatteryNegative };

/// How wires meet at a splice.
enum class JointMethod {
    Crimp, ///< butt or parallel splice
    Solder,
    Tap ///< one wire is left whole, the other is joined to it
};

struct Joint
{
    std::string id;
    std::string label;
    JointKind kind = JointKind::Splice;
    std::string body; ///< Stud: the metal it is on; studs on one body are joined by it
    JointMethod method = JointMethod::Crimp; ///< Splice
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Joint&) const = default;
};

/// Whether a wire ends there for good: at a stud or a battery post. Null is no joint.
[[nodiscard]] bool isFixture(const Joint* joint);

struct Wire
{
    WireId id;
    PointRef from, to;
    double length_m = 0;
    double area_m2 = 0;
    std::string colour; ///< IEC 60757, tracer after a slash: "BU/WH"
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Wire&) const = default;
};

/// What opens and closes between two places.
enum class SwitchKind {
    Contact, ///< nobody has said
    Fuse,
    Relay,
    Hand ///< the key, a kill switch, a battery isolator
};

/// A fuse, a relay's contact or a switch.
struct Switch
{
    std::string id;
    std::string label;
    PointRef from, to;
    double ohm = 0.01;
    bool needsKey = false; ///< closed only with the key on
    SwitchKind kind = SwitchKind::Contact;
    double rating_a = 0; ///< 0: not said
    bool opensCranking = false; ///< open while the starter turns
    std::string coil = {}; ///< of a relay: the device that pulls it in; empty: nothing that the ECU drives
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Switch&) const = default;
};

enum class ResistorKind {
    PullUp, ///< from a supply to a signal
    Series, ///< in the signal wire
    ToGround, ///< from a signal to ground
    Terminator ///< across the pair of a bus, at an end of it
};

/// A resistor the installer fits into the harness.
struct Resistor
{
    std::string id;
    std::string label;
    ResistorKind kind = ResistorKind::PullUp;
    PointRef from, to;
    double ohm = 0;
    double tolerance = 0.01;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Resistor&) const = default;
};

/// What draws current and is not a sensor: a pump, coils, injectors, a fan. Off with the key on and the engine
/// stopped. The starter is one too, and draws only while it turns the engine.
struct Load
{
    std::string id;
    std::string label;
    PointRef from, to; ///< where it is fed, where its current returns
    double current_a = 0; ///< at work
    bool starter = false;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Load&) const = default;
};

/// A stretch of the harness between two places: plugs and joints by their ids, or a branch point by a name of its own.
/// The stretches of a job form a tree.
struct Branch
{
    std::string from, to;
    double length_m = 0;
    bool wall = false; ///< it goes through a wall, in a grommet
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Branch&) const = default;
};

/// Wires that lie twisted as one: a bus's pair, or the cores of a lead with a shield round them. The shield's drain
/// lands at one place, or its two ends carry what flows between two grounds.
struct Lead
{
    std::string id;
    std::vector<WireId> cores;
    bool shield = false;
    std::vector<PointRef> drain; ///< where it lands; empty: nowhere
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Lead&) const = default;
};

/// A cavity of a plug that is taken off.
struct OldPin
{
    std::string cavity;
    std::string function; ///< in the words of whoever wrote its list
    std::string colour; ///< IEC 60757; empty: not noted
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const OldPin&) const = default;
};

/// A plug that is taken off, or the list another generation of the same plug came with; a plug of the job takes its
/// place.
struct OldPlug
{
    std::string connector; ///< of the job
    std::string label;
    bool repinned = true; ///< the housing stays and wires move within it; else another plug takes its place
    std::vector<OldPin> pins;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const OldPlug&) const = default;
};

} // namespace vicegrip::job
