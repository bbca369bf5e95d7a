#include "core/findings/end_checks.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <map>

namespace vicegrip::findings {
namespace {

using electrics::Path;
using parts::EcuPinRole;
using parts::PinRole;

/// What the place at the far end of a conductor is; none where it is nothing of the kind.
std::optional<PinRole> purposeOf(const electrics::Wiring& wiring, const job::PointRef& place)
{
    if (const parts::EcuPin* pin = wiring.ecuPin(place); pin != nullptr)
        switch (pin->role) {
        case EcuPinRole::Input:
        case EcuPinRole::Output:
            return PinRole::Signal;
        case EcuPinRole::SensorSupply:
            return PinRole::Supply;
        case EcuPinRole::SensorGround:
            return PinRole::Ground;
        default:
            return std::nullopt;
        }
    const job::Joint* joint = wiring.joint(place);
    if (joint == nullptr || joint->kind == job::JointKind::Splice)
        return std::nullopt;
    return joint->kind == job::JointKind::BatteryPositive ? PinRole::Supply : PinRole::Ground;
}

bool inEcuPlug(const job::Job& job, const job::PointRef& place)
{
    const job::Connector* c = job::findConnector(job, place.owner);
    return c != nullptr && c->kind == job::ConnectorKind::Ecu;
}

class Ends
{
  public:
    Ends(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit, const electrics::Wiring& wiring,
         const std::vector<Path>& paths)
        : m_out(out), m_job(job), m_circuit(circuit), m_wiring(wiring), m_paths(paths)
    {
        for (const Path& path : paths)
            if (!path.complete)
                if (const Path way = wiring.way(
                        path.points.front(), [&](const job::PointRef& p) { return purposeOf(wiring, p).has_value(); });
                    way.complete)
                    m_reaches[path.role] = {way.points.back(), *purposeOf(wiring, way.points.back())};
    }

    void check()
    {
        for (const Path& path : m_paths)
            if (!path.complete && !exchanged(path) && !pairExchanged(path) && !unread(path))
                nowhere(path);
        groundOnMetal();
    }

  private:
    struct Reached
    {
        job::PointRef place;
        PinRole purpose = PinRole::Signal;
    };

    void say(const char* rule, Severity severity, std::string what, std::string why, std::string todo)
    {
        m_out.push_back(
            {rule, severity, m_circuit.id, m_circuit.name + ": " + std::move(what), std::move(why), std::move(todo)});
    }

    [[nodiscard]] std::string roleName(PinRole role) const
    {
        return parts::roleWords(*job::partOf(m_job, m_circuit), role);
    }

    /// Two conductors that each end where the other belongs; said once, for the first of them.
    bool exchanged(const Path& path)
    {
        const auto here = m_reaches.find(path.role);
        if (here == m_reaches.end())
            return false;
        const auto other = m_reaches.find(here->second.purpose);
        if (other == m_reaches.end() || other == here || other->second.purpose != path.role)
            return false;
        if (path.role < other->first)
            say("ends-exchanged", Severity::Stop,
                phrase("{} and {} are exchanged: the one ends at {}, the other at {}", roleName(path.role),
                       roleName(other->first), job::spoken(m_job, here->second.place),
                       job::spoken(m_job, other->second.place)),
                phrase("A supply on a ground pin can destroy the sensor; a signal on a ground reads nothing."),
                phrase("Exchange the two wires at one end, and only at one."));
        return true;
    }

    /// High and low of a bus, each at the other's cavity; said once.
    bool pairExchanged(const Path& path)
    {
        const parts::Part* part = job::actuatorOf(m_job, m_circuit);
        const auto pair = job::seatCavities(m_job, m_circuit);
        if (part == nullptr || !parts::isOnBus(*part) || pair.size() != 2 || !parts::isSignal(path.role))
            return false;
        for (const size_t leg : {0U, 1U}) {
            const auto here = m_reaches.find(leg == 0 ? PinRole::Signal : PinRole::Signal2);
            if (here == m_reaches.end() || here->second.place != pair[1 - leg])
                return false;
        }
        if (path.role == PinRole::Signal)
            say("pair-exchanged", Severity::Stop, phrase("CAN high and low are exchanged"),
                phrase("The devices talk against each other: nobody on the bus understands anything. A meter does not "
                       "see it, both rest near 2.5 V."),
                phrase("Exchange {} and {} at one end, and only at one.", job::spoken(m_job, path.points.front()),
                       job::spoken(m_job, plugAcross())));
        return true;
    }

    /// Where the low wire of the pair starts.
    [[nodiscard]] job::PointRef plugAcross() const
    {
        return std::ranges::find(m_paths, PinRole::Signal2, &Path::role)->points.front();
    }

    bool unread(const Path& path)
    {
        if (!parts::isSignal(path.role))
            return false;
        const Path way =
            m_wiring.way(path.points.front(), [&](const job::PointRef& place) { return inEcuPlug(m_job, place); });
        if (!way.complete)
            return false;
        const job::PointRef& end = way.points.back();
        const parts::EcuPin* pin = m_wiring.ecuPin(end);
        if (job::actuatorOf(m_job, m_circuit) != nullptr)
            return undriven(path, end, pin);
        const bool input = pin != nullptr && pin->role == EcuPinRole::Input;
        say("signal-unread", Severity::Stop,
            phrase("its signal ends at {}{}", job::spoken(m_job, end),
                   (input ? phrase(", which is input {}, and it sits on {}", pin->input.value, m_circuit.input.value)
                          : phrase(", which the ECU does not read"))),
            phrase("The ECU reads another cavity, where nothing comes in."),
            phrase("Move the wire to {}{}", job::spoken(m_job, job::cavityOf(m_job, m_circuit.input)),
                   (input ? phrase(", or seat the circuit on that input.") : ".")));
        return true;
    }

    /// What the ECU drives hangs on another output, which moves something else: or on none.
    bool undriven(const Path& path, const job::PointRef& end, const parts::EcuPin* pin)
    {
        const bool output = pin != nullptr && pin->role == EcuPinRole::Output;
        const auto cavities = job::cavitiesOf(m_job, m_circuit.output);
        const size_t leg = parts::legOf(path.role);
        const job::Circuit* other = output ? job::drivenBy(m_job, pin->output) : nullptr;
        if (leg >= cavities.size())
            return false; // it has no seat, which is said elsewhere
        say("signal-undriven", Severity::Stop,
            phrase("its signal ends at {}{}", job::spoken(m_job, end),
                   (output
                        ? phrase(", which is output {}, and it sits on {}", pin->output.value, m_circuit.output.value)
                        : phrase(", which drives nothing"))),
            other != nullptr && other != &m_circuit
                ? phrase("When the ECU drives {}, this one works instead.", other->name)
                : phrase("The ECU drives another cavity, where nothing hangs."),
            phrase("Move the wire to {}{}", job::spoken(m_job, cavities[leg]),
                   (output ? phrase(", or seat the circuit on that output.") : ".")));
        return true;
    }

    void nowhere(const Path& path)
    {
        say("open-conductor", Severity::Stop,
            phrase("the {} of {} leads nowhere", roleName(path.role), job::spoken(m_job, path.points.front())),
            phrase("As drawn, no wire joins it to where it must end, so the circuit cannot work."),
            phrase("Draw the missing wire, or put the ECU cavity it ends in to its use."));
    }

    /// Of a sensor that takes its supply from the ECU; one with the battery's own feed may return to metal.
    void groundOnMetal()
    {
        const parts::Part* sensor = job::sensorOf(m_job, m_circuit);
        const auto ground = std::ranges::find(m_paths, PinRole::Ground, &Path::role);
        if (sensor == nullptr || ground == m_paths.end() || !ground->complete)
            return;
        const job::Joint* metal = job::findJoint(m_job, ground->points.back().owner);
        const bool ecuFed = sensor->feed != parts::Feed::Battery || parts::cavityOf(*sensor, PinRole::Supply).empty();
        const parts::SignalKind signal = parts::signalOf(*sensor);
        const bool frequency = signal == parts::SignalKind::Frequency;
        if (metal == nullptr || (!ecuFed && !frequency) || signal == parts::SignalKind::OnOff)
            return;
        const std::string where = phrase("its ground ends at {} and not at the ECU's sensor ground",
                                         job::spoken(m_job, ground->points.back()));
        if (frequency)
            say("ground-on-metal", Severity::Note, where,
                phrase("A frequency is counted, not measured: it forgives an offset that a voltage would not. Some say "
                       "any clean bolt will do; others keep every sensor on the ECU's ground."),
                phrase("Leave it, or bring it to the sensor ground."));
        else
            say("ground-on-metal", Severity::Fix, where,
                phrase("Whatever current flows in that metal lifts it against the ECU, and the difference is read as "
                       "signal; it comes and goes with the starter, the fan and the lamps."),
                phrase("Bring it to the ECU's sensor ground."));
    }

    std::vector<Finding>& m_out;
    const job::Job& m_job;
    const job::Circuit& m_circuit;
    const electrics::Wiring& m_wiring;
    const std::vector<Path>& m_paths;
    std::map<PinRole, Reached> m_reaches; ///< of conductors that do not end where they must
};

} // namespace

void checkEnds(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
               const electrics::Wiring& wiring, const std::vector<electrics::Path>& paths)
{
    if (job::isSeated(circuit)) // nothing is drawn before there is a seat to draw to
        Ends(out, job, circuit, wiring, paths).check();
}

} // namespace vicegrip::findings
