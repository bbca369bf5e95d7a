#include "core/work/work_steps.h"

#include "core/base/phrase.h"
#include "core/hand_test/standing.h"
#include "core/pinning/pinning.h"
#include "core/wires/joins.h"
#include "core/work/sites.h"

#include <algorithm>
#include <map>
#include <optional>
#include <set>

namespace vicegrip::work {
namespace {

using pinning::Pin;

/// Where a plug is: where the user said, else where its function usually sits.
std::string placeOf(const job::Connector& plug, const char* usual)
{
    return plug.place.empty() ? usual : plug.place;
}

/// What buries a plug that the user has put somewhere himself.
std::string gateAt(const std::string& place)
{
    const std::vector<Gate> all = gates();
    const auto it = std::ranges::find(all, place, &Gate::place);
    return it == all.end() ? std::string() : it->id;
}

std::optional<Gate> gateOf(const std::string& id)
{
    const std::vector<Gate> all = gates();
    const auto it = std::ranges::find(all, id, &Gate::id);
    return it == all.end() ? std::nullopt : std::optional(*it);
}

bool has(const std::vector<std::string>& list, const std::string& name)
{
    return std::ranges::find(list, name) != list.end();
}

/// Wires of a plug are all in their cavities, counted.
bool pinned(const job::Job& job, const job::Connector& connector)
{
    return std::ranges::all_of(pinning::pinsOf(job, connector), [](const Pin& p) { return pinning::isDone(p.state); });
}

bool hasWires(const job::Job& job, const std::string& owner)
{
    return std::ranges::any_of(job.wires,
                               [&](const job::Wire& w) { return w.from.owner == owner || w.to.owner == owner; });
}

/// Collects the steps in the order a person would name them.
class Collector
{
  public:
    explicit Collector(const job::Job& job)
        : m_job(job), m_turned(hand_test::standings(job, job.handTurns.empty() ? job::Facts() : job::facts(job)))
    {
    }

    std::vector<Step> all()
    {
        add({"battery-off",
             phrase("Battery negative lead off"),
             kBay,
             {},
             phrase("spanner"),
             phrase("Nothing is cut or crimped on a live car."),
             false});
        mounting();
        for (const job::Circuit& c : m_job.circuits)
            device(c);
        grounds();
        plugs();
        closing();
        return std::move(m_out);
    }

  private:
    void add(Step step)
    {
        if (step.id != "battery-off")
            step.after.insert(step.after.begin(), "battery-off");
        step.done = step.done || has(m_job.workSteps.done, step.id);
        m_out.push_back(std::move(step));
    }

    void mounting()
    {
        // A wire that is pinned anywhere shows that the harness lies.
        const bool laid = std::ranges::any_of(m_job.pinned, [](const job::Pinned& p) { return !p.wires.empty(); });
        add({"mount-ecu",
             phrase("Mount {}", m_job.ecu.name),
             kCabin,
             {},
             "",
             phrase("The hole in the wall is planned from where it sits."),
             laid});
        for (const parts::Ecu& unit : m_job.expanders)
            if (!unit.pins.empty()) {
                const std::string plug = job::PointRef::fromText(unit.pins.front().at).owner;
                m_mounts[plug] = "mount-" + plug;
                const job::Connector* connector = job::findConnector(m_job, plug);
                const bool done = connector != nullptr && pinned(m_job, *connector) && hasWires(m_job, plug);
                add({m_mounts[plug], phrase("Mount {}", unit.name), kCabin, {}, "", {}, done});
            }
        add({"wall-hole",
             phrase("Drill the wall, grommet on the harness first"),
             kCabin,
             {"mount-ecu"},
             phrase("drill, hole saw"),
             phrase("The grommet does not go on over the plugs."),
             laid});
        std::vector<std::string> before = {"wall-hole"};
        if (const size_t unused = wires::unusedWires(m_job, electrics::Wiring(m_job)).size(); unused > 0) {
            add({"take-out",
                 phrase("Take out what this engine does not use: wires at Pins, Wires, {} of them",
                        std::to_string(unused)),
                 kBench,
                 {},
                 phrase("pin tools"),
                 phrase("Afterwards it stays: nothing comes out of a shrunk sleeve."),
                 false});
            before.emplace_back("take-out");
        }
        add({"lay", phrase("Lay the harness, long, nothing shrunk"), kBay, before, "",
             phrase("Nothing is cut to length before it lies."), laid});
    }

    /// What is behind a gate that is shut waits until it is open.
    void behind(const std::string& gate, Step& step)
    {
        if (gate.empty())
            return;
        if (has(m_job.workSteps.closed, gate) && !step.done) {
            const Gate g = *gateOf(gate);
            if (m_opened.insert(gate).second)
                add({"open-" + gate,
                     g.open,
                     g.place,
                     {},
                     "",
                     phrase("It is on already, and there is work behind it."),
                     false});
            step.after.push_back("open-" + gate);
        }
        m_behind[gate].push_back(step.id);
    }

    void device(const job::Circuit& circuit)
    {
        const job::Device* device = job::find(m_job, circuit.device);
        const job::Connector* plug = device == nullptr ? nullptr : job::findConnector(m_job, device->connector);
        if (device != nullptr && device->connector.empty()) // inside the unit
            add({"hose-" + circuit.id.value,
                 phrase("Run a hose to {}: {}", m_job.ecu.name, circuit.name),
                 kBay,
                 {"mount-ecu"},
                 phrase("hose, clamps"),
                 phrase("From a full-vacuum port of its own, falling to the port; through the wall in a grommet."),
                 false});
        if (plug == nullptr || plug->kind == job::ConnectorKind::Ecu) // the port of a unit
            return;
        const Site& site = siteOf(circuit);
        const std::string place = placeOf(*plug, site.place), gate = plug->place.empty() ? site.gate : gateAt(place);
        const bool done = pinned(m_job, *plug) && hasWires(m_job, plug->id);
        Step fit{"fit-" + circuit.id.value,
                 job::actuatorOf(m_job, circuit) != nullptr ? phrase("Fit: {}", circuit.name)
                                                            : phrase("Fit the sensor: {}", circuit.name),
                 place,
                 {},
                 phrase(site.tools),
                 phrase(site.mount),
                 done};
        const parts::Part* part = job::partOf(m_job, circuit);
        const bool fitted = part == nullptr || !parts::isVehicleNetwork(*part); // that one is there
        if (fitted) {
            behind(gate, fit);
            add(fit);
        }
        Step pin{"plug-" + plug->id,
                 phrase("Pin and count {}", plug->label),
                 place,
                 fitted ? std::vector<std::string>{fit.id, "lay"} : std::vector<std::string>{"lay"},
                 phrase("crimp tool"),
                 {},
                 done};
        behind(gate, pin);
        m_plugs.push_back(pin.id);
        add(pin);
        turnByHand(circuit, fit, gate);
    }

    /// A sensor that will be buried is proved before. One that is buried already is proved as it stands: the engine
    /// turns with everything on it.
    void turnByHand(const job::Circuit& circuit, const Step& fit, const std::string& gate)
    {
        const auto of = std::ranges::find(m_turned, circuit.id, &hand_test::Standing::circuit);
        if (of == m_turned.end() || !of->byHand || gate.empty())
            return;
        const bool buried = has(m_job.workSteps.closed, gate);
        Step turn{"turn-" + circuit.id.value,
                  phrase("Turn the engine by hand, every tooth: {}", circuit.name),
                  fit.place,
                  {fit.id},
                  phrase("meter, spare battery"),
                  buried ? phrase("What stands before it is on already: if a tooth fails, it comes off again.")
                         : phrase("Proved before anything stands in front of it. Trigger, By hand says how."),
                  of->state == proof::State::Done};
        if (!buried)
            m_behind[gate].push_back(turn.id);
        add(turn);
    }

    void grounds()
    {
        for (const job::Joint& j : m_job.joints)
            if (j.kind == job::JointKind::Stud && hasWires(m_job, j.id))
                add({"ground-" + j.id,
                     phrase("Ground: {}, clean metal, star washer", j.label),
                     j.body == "chassis" ? kCabin : kBay,
                     {"lay"},
                     phrase("wire brush, spanner"),
                     phrase("A ground on paint reads as a fault of whatever returns to it."),
                     false});
    }

    void plugs()
    {
        std::set<std::string> fitted; // with the device they belong to
        for (const job::Device& d : m_job.devices)
            fitted.insert(d.connector);
        for (const job::Connector& c : m_job.connectors)
            if (c.kind == job::ConnectorKind::Load && hasWires(m_job, c.id) && !fitted.contains(c.id)) {
                const std::string place = placeOf(c, kBay);
                Step pin{"plug-" + c.id,  phrase("Pin and count {}", c.label), place, {"lay"}, phrase("crimp tool"), {},
                         pinned(m_job, c)};
                behind(gateAt(place), pin);
                m_plugs.push_back(pin.id);
                add(pin);
            }
        std::vector<std::string> arrived = m_plugs;
        for (const job::Connector& c : m_job.connectors)
            if (c.kind == job::ConnectorKind::Inline && hasWires(m_job, c.id)) {
                add({"plug-" + c.id,
                     phrase("Pin and count {}", c.label),
                     kBench,
                     {},
                     phrase("crimp tool"),
                     phrase("A bulkhead half is pinned on the bench, where both faces can be seen."),
                     pinned(m_job, c)});
                arrived.push_back("plug-" + c.id);
            }
        for (const job::Connector& c : m_job.connectors)
            if (c.kind == job::ConnectorKind::Ecu && hasWires(m_job, c.id)) {
                std::vector<std::string> after = arrived;
                if (const auto mount = m_mounts.find(c.id); mount != m_mounts.end())
                    after.push_back(mount->second);
                add({"plug-" + c.id, phrase("Pin and count {}", c.label), kCabin, after, phrase("crimp tool"),
                     phrase("Every wire must have arrived before the last plug is closed."), pinned(m_job, c)});
                m_plugs.push_back("plug-" + c.id);
            }
    }

    void closing()
    {
        for (const Gate& g : gates()) {
            const auto held = m_behind.find(g.id);
            if (held == m_behind.end())
                continue;
            const bool stays = has(m_job.workSteps.closed, g.id) && !m_opened.contains(g.id);
            add({g.id, g.what, g.place, held->second, "", phrase("What it buries is fitted, pinned and counted."),
                 stays});
        }
        std::vector<std::string> beforeSleeves = m_plugs;
        if (std::ranges::find(m_out, "take-out", &Step::id) != m_out.end())
            beforeSleeves.emplace_back("take-out");
        add({"sleeves", phrase("Close sleeves and shrink"), kBay, beforeSleeves, phrase("heat gun"),
             phrase("A shrunk sleeve lets no wire be moved."), false});
        std::vector<std::string> last = {"sleeves"};
        for (const Step& c : m_out)
            if (c.id.starts_with("ground-") || gateOf(c.id))
                last.push_back(c.id);
        add({"battery-on", phrase("Battery negative lead on, key off"), kBay, last, phrase("spanner"),
             phrase("Meter comes next, before the key."), false});
    }

    const job::Job& m_job;
    std::vector<hand_test::Standing> m_turned; ///< wheels, tooth by tooth
    std::map<std::string, std::string> m_mounts; ///< of further units, by their first plug
    std::set<std::string> m_opened;
    std::map<std::string, std::vector<std::string>> m_behind; ///< steps by the gate that buries them
    std::vector<std::string> m_plugs;
    std::vector<Step> m_out;
};

} // namespace

/// Made anew each time: the language may have changed.
std::vector<Gate> gates()
{
    return {
        {"intake", phrase("Intake manifold"), phrase("Intake manifold goes back on"),
         phrase("Intake manifold off again"), kIntake, 2.5},
        {"front-drive", phrase("Front drive and pulleys"), phrase("Front drive and pulleys go back on"),
         phrase("Front drive and pulleys off again"), kFront, 3},
        {"undertray", phrase("Undertray"), phrase("Undertray goes back on"),
         phrase("Undertray off again, car on stands"), kUnder, 0.5},
    };
}

const std::vector<std::string>& places()
{
    static const std::vector<std::string> kPlaces = {kBay, kCabin, kUnder, kIntake, kFront, kBench};
    return kPlaces;
}

std::optional<std::string> plugOf(const std::string& step, const job::Job& job)
{
    if (step.starts_with("plug-"))
        return step.substr(5);
    if (step.starts_with("fit-"))
        if (const job::Circuit* c = job::find(job, job::CircuitId{step.substr(4)}))
            if (const job::Device* device = job::find(job, c->device))
                return device->connector;
    return std::nullopt;
}

void setPlace(job::Job& job, const std::string& plug, const std::string& place)
{
    for (job::Connector& c : job.connectors)
        if (c.id == plug)
            c.place = place;
}

std::vector<Step> steps(const job::Job& job)
{
    return Collector(job).all();
}

std::vector<std::string> costs(const job::Job& job)
{
    std::vector<std::string> out;
    const std::vector<Step> all = steps(job);
    for (const Gate& g : gates()) {
        const auto behind = std::ranges::count_if(
            all, [&](const Step& c) { return !c.done && c.id != g.id && has(c.after, "open-" + g.id); });
        if (behind > 0)
            out.push_back(phrase("{}: {}{} behind it, about {} h to open and close (typical)", g.open,
                                 std::to_string(behind), (behind == 1 ? phrase(" step") : phrase(" steps")),
                                 units::formatNumber(g.hours, 1)));
    }
    return out;
}

Result<void> tick(job::Job& job, const std::string& step, const std::string& when)
{
    if (step.starts_with("plug-"))
        return fail(ErrorCode::Range, phrase("a plug is done when its cavities are: tick those"));
    if (step.starts_with("turn-"))
        return fail(ErrorCode::Range, phrase("it is done when every tooth was seen: Trigger, By hand counts them"));
    const std::vector<Step> all = steps(job);
    if (const auto it = std::ranges::find(all, step, &Step::id); it != all.end())
        job::note(job, when, step, phrase("{}: done", it->what));
    if (step.starts_with("open-"))
        setClosed(job, step.substr(5), false);
    else if (gateOf(step))
        setClosed(job, step, true);
    else if (!has(job.workSteps.done, step))
        job.workSteps.done.push_back(step);
    return {};
}

void setClosed(job::Job& job, const std::string& gate, bool closed)
{
    std::erase(job.workSteps.closed, gate);
    if (closed)
        job.workSteps.closed.push_back(gate);
}

} // namespace vicegrip::work
