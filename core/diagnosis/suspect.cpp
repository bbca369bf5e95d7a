#include "core/diagnosis/suspect.h"

#include "core/base/phrase.h"
#include "core/diagnosis/suspicions.h"
#include "core/electrics/unit_ways.h"
#include "core/electrics/wiring.h"
#include "core/harness/edits.h"

#include <algorithm>
#include <set>

namespace vicegrip::diagnosis {
namespace {

using electrics::Path;
using job::PointRef;
using parts::PinRole;

class Collector
{
  public:
    Collector(const job::Job& job, const job::Circuit& circuit, const Families& families, const parts::Library& library)
        : m_job(job),
          m_circuit(circuit),
          m_library(library),
          m_wiring(job),
          m_paths(m_wiring.paths(circuit)),
          m_part(job::partOf(job, circuit)),
          m_out(job, families)
    {
    }

    std::vector<Suspect> all(const std::vector<faults::HeldTable::Point>& table)
    {
        m_out.add({"nothing",
                   {},
                   phrase("Nothing: it is as drawn, and the reading is of a slip or at the edge"),
                   phrase("Read it again."),
                   {}});
        if (m_part == nullptr)
            return m_out.take();
        std::vector<Path> ways = m_paths;
        for (Path& p : electrics::unitWays(m_job, m_wiring, m_circuit))
            ways.push_back(std::move(p));
        for (const Path& path : ways)
            for (const std::string& subject : path.subjects)
                if (subject.starts_with("wire "))
                    wire(job::WireId{subject.substr(5)});
        for (const Path& path : ways)
            for (const PointRef& p : path.points)
                place(p);
        shorts();
        grounds();
        feeds();
        plugs();
        for (const Path& path : ways)
            for (const std::string& subject : path.subjects)
                if (subject.starts_with("switch "))
                    contactOf(subject.substr(7));
        suspectPart(m_out, m_job, m_circuit, m_library, table);
        return m_out.take();
    }

  private:
    [[nodiscard]] std::string at(const PointRef& p) const { return job::spoken(m_job, p); }

    void wire(const job::WireId& id)
    {
        const auto w = std::ranges::find(m_job.wires, id, &job::Wire::id);
        if (w == m_job.wires.end() || !m_wires.insert(id).second)
            return;
        const std::string between = phrase("{} to {}", at(w->from), at(w->to));
        const bool tap = std::ranges::any_of(std::array{w->from, w->to}, [&](const PointRef& p) {
            const job::Joint* j = m_wiring.joint(p);
            return j != nullptr && j->kind == job::JointKind::Splice && j->method == job::JointMethod::Tap;
        });
        m_out.add({tap ? "tap" : "open-wire",
                   {faults::OpenWire{id}},
                   tap ? phrase("The tap of wire {} touches no copper, {}", id.value, between)
                       : phrase("Wire {} is open, {}", id.value, between),
                   phrase("Mend wire {}: pull at both its ends first.", id.value),
                   {w->from, w->to}});
        const bool ground = isFixture(w->from) || isFixture(w->to);
        m_out.sized(
            ohmSizes(ground ? 0.1 : 1), "wire " + id.value,
            {ground ? "ground-paint" : "bad-crimp",
             {},
             {},
             ground ? phrase("Clean the metal under its ring, then crimp anew.")
                    : phrase("Crimp both ends of wire {} anew.", id.value),
             {w->from, w->to}},
            [&](double ohm) {
                return faults::AddedResistance{id, ohm};
            },
            [&](double ohm) {
                return phrase(ground ? key("Wire {} has some {} too many, {}: paint under its ring, a bad crimp")
                                     : key("Wire {} has some {} too many, {}: a bad crimp"),
                              id.value, units::formatOhms(ohm), between);
            });
    }

    [[nodiscard]] bool isFixture(const PointRef& p) const { return job::isFixture(m_wiring.joint(p)); }

    void place(const PointRef& p)
    {
        if (!m_places.insert(p).second)
            return;
        if (const job::Joint* joint = m_wiring.joint(p); joint != nullptr) {
            if (joint->kind == job::JointKind::Stud)
                m_out.sized(
                    ohmSizes(0.1), "stud " + joint->id,
                    {"ground-paint", {}, {}, phrase("Take {} off, clean the metal, star washer, tighten.", at(p)), {p}},
                    [&](double ohm) {
                        return faults::BadStud{joint->id, ohm};
                    },
                    [&](double ohm) {
                        return phrase("{} stands on some {} of paint or rust", at(p), units::formatOhms(ohm));
                    });
            return;
        }
        const job::Connector* plug = job::findConnector(m_job, p.owner);
        if (plug == nullptr)
            return;
        neighbours(*plug, p);
        if (m_plugs.insert(plug->id).second && plug->cavities.size() > 2)
            miscounted(*plug);
        contact(*plug, p);
    }

    /// Two halves of a bulkhead touch at one place.
    void contact(const job::Connector& plug, const PointRef& p)
    {
        const PointRef mate{plug.mates, p.cavity};
        const bool mated = plug.kind == job::ConnectorKind::Inline && !plug.mates.empty();
        if (mated && m_places.contains(mate))
            return;
        const std::vector<PointRef> places = mated ? std::vector{p, mate} : std::vector{p};
        const std::string where = mated ? phrase("{} or {}", at(p), at(mate)) : at(p);
        m_out.add({"not-home",
                   {faults::BadContact{p, {}}},
                   phrase("Terminal not home in {}", where),
                   phrase("Push it home, hear it, pull at it; then the lock."),
                   places});
        m_out.sized(
            ohmSizes(1), "contact " + p.text(),
            {"bad-crimp",
             {},
             {},
             phrase("Look for a spread terminal or green copper in {}; a new terminal.", where),
             places},
            [&](double ohm) {
                return faults::BadContact{p, ohm};
            },
            [&](double ohm) { return phrase("{} touches badly, some {}", where, units::formatOhms(ohm)); });
    }

    void neighbours(const job::Connector& plug, const PointRef& p)
    {
        const auto all = parts::cavities(job::faceOf(plug));
        const auto here = std::ranges::find(all, p.cavity, &parts::Cavity::name);
        for (const std::string& other : plug.cavities) {
            const auto there = std::ranges::find(all, other, &parts::Cavity::name);
            const bool near = here != all.end() && there != all.end() && std::abs(here->row - there->row) <= 1 &&
                              std::abs(here->place - there->place) <= 1;
            if (other == p.cavity || (!near && plug.cavities.size() > 4) ||
                !m_pairs.insert(std::minmax(p, PointRef{plug.id, other})).second)
                continue;
            const PointRef next{plug.id, other};
            const bool wired =
                std::ranges::any_of(m_job.wires, [&](const job::Wire& w) { return w.from == next || w.to == next; });
            m_out.add({"exchanged",
                       {faults::SwappedCavities{plug.id, {p.cavity, other}}},
                       wired ? phrase("{} and {} are exchanged", at(p), at(next))
                             : phrase("What belongs in {} sits in {}", at(p), at(next)),
                       phrase("Count both again, on the other face, and exchange them."),
                       {p, next}});
            if (wired)
                m_out.add({"touching",
                           {faults::Short{p, next, 0.1}},
                           phrase("{} and {} touch", at(p), at(next)),
                           phrase("Look for a strand or a bent terminal between them."),
                           {p, next}});
        }
    }

    void miscounted(const job::Connector& plug)
    {
        std::vector<PointRef> cavities;
        for (const std::string& c : plug.cavities)
            cavities.push_back({plug.id, c});
        const auto count = [&](faults::Count how, std::string what) {
            m_out.add({"miscounted",
                       {faults::Miscounted{plug.id, how}},
                       std::move(what),
                       phrase("Pull all terminals of plug {} and count anew, on the other face.", plug.id),
                       cavities});
        };
        count(faults::Count::Mirrored, phrase("Plug {} was pinned from its wrong face: each row is mirrored", plug.id));
        count(faults::Count::OtherEnd, phrase("Plug {} was counted from its last cavity down", plug.id));
        count(faults::Count::ByOne, phrase("Every wire in plug {} is one cavity on", plug.id));
    }

    [[nodiscard]] const Path* path(PinRole role) const
    {
        const auto it = std::ranges::find(m_paths, role, &Path::role);
        return it == m_paths.end() || it->points.empty() ? nullptr : &*it;
    }

    [[nodiscard]] PointRef post(job::JointKind kind) const
    {
        for (const job::Joint& j : m_job.joints)
            if (j.kind == kind)
                return {j.id, {}};
        return {};
    }

    void shorts()
    {
        const Path* signal = path(PinRole::Signal);
        if (signal == nullptr)
            return;
        const PointRef here = signal->points.back();
        const auto to = [&](const char* family, const PointRef& there, std::string what) {
            if (!there.empty() && there != here)
                m_out.add({family,
                           {faults::Short{here, there, 0.1}},
                           std::move(what),
                           phrase("Follow its wire for a chafed place: edges, brackets, heat."),
                           signal->points});
        };
        to("short-ground", post(job::JointKind::BatteryNegative), phrase("The signal touches ground"));
        if (const Path* supply = path(PinRole::Supply))
            to("short-supply", supply->points.back(), phrase("The signal touches its own supply"));
        to("short-battery", post(job::JointKind::BatteryPositive), phrase("The signal touches battery voltage"));
    }

    /// Ground wires on another body, and heavy ones on the sensors' ground.
    void grounds()
    {
        const auto wires = m_wires;
        for (const job::Wire& w : m_job.wires)
            for (const PointRef& end : {w.from, w.to}) {
                const job::Joint* stud = m_wiring.joint(end);
                if (stud == nullptr || stud->kind != job::JointKind::Stud || !wires.contains(w.id))
                    continue;
                for (const job::Joint& other : m_job.joints)
                    if (other.kind == job::JointKind::Stud && other.body != stud->body)
                        m_out.add(
                            {"ground-other",
                             {faults::MovedEnd{w.id, end, {other.id, {}}}},
                             phrase("Ground wire {} is on {} instead of {}", w.id.value, at({other.id, {}}), at(end)),
                             phrase("Move it to {}.", at(end)),
                             {end, {other.id, {}}}});
            }
        const Path* ground = path(PinRole::Ground);
        if (ground == nullptr || ground->points.size() < 2)
            return;
        const PointRef splice = ground->points[1];
        if (m_wiring.joint(splice) == nullptr || isFixture(splice))
            return;
        for (const job::Circuit& c : m_job.circuits) {
            const job::Device* device = job::find(m_job, c.device);
            const parts::Part* part = job::partOf(m_job, c);
            if (device == nullptr || part == nullptr || part->feed != parts::Feed::Battery)
                continue;
            const PointRef pin{device->connector, parts::cavityOf(*part, PinRole::Ground)};
            for (const job::Wire& w : m_job.wires)
                if (w.from == pin || w.to == pin) {
                    const PointRef end = w.from == pin ? w.to : w.from;
                    if (end != splice)
                        m_out.add({"load-on-sensor-ground",
                                   {faults::MovedEnd{w.id, end, splice}},
                                   phrase("{} returns over the sensors' ground, at {}", c.name, at(splice)),
                                   phrase("Give its ground wire {} a stud of its own.", w.id.value),
                                   {pin, splice}});
                }
        }
    }

    /// A supply that comes from elsewhere.
    void feeds()
    {
        const Path* supply = path(PinRole::Supply);
        if (supply == nullptr || supply->points.size() < 2)
            return;
        const PointRef pin = supply->points[0];
        for (const job::Wire& w : m_job.wires) {
            if (w.from != pin && w.to != pin)
                continue;
            const PointRef end = w.from == pin ? w.to : w.from;
            for (const job::Joint& j : m_job.joints)
                if (const PointRef other{j.id, {}};
                    (j.kind == job::JointKind::Splice || j.kind == job::JointKind::BatteryPositive) && other != end)
                    m_out.add({"wrong-feed",
                               {faults::MovedEnd{w.id, end, other}},
                               phrase("Its supply comes from {} instead of {}", at(other), at(end)),
                               phrase("Move wire {} to {}.", w.id.value, at(end)),
                               {pin, other}});
        }
    }

    /// Its plug on another part that it fits: one like its own, or one that hands have before them with it.
    void plugs()
    {
        const job::Device* device = job::find(m_job, m_circuit.device);
        const job::Connector* plug = device == nullptr ? nullptr : job::findConnector(m_job, device->connector);
        if (plug == nullptr || !faults::ExchangedPlugs::isOfAPart(*plug))
            return;
        constexpr size_t kMost = 8; // of a job of hundreds
        size_t told = 0;
        for (const job::Circuit& c : m_job.circuits) {
            const job::Device* other = job::find(m_job, c.device);
            const parts::Part* part = job::partOf(m_job, c);
            const job::Connector* there = other == nullptr ? nullptr : job::findConnector(m_job, other->connector);
            if (told == kMost || there == nullptr || part == nullptr || there == plug || part->pins != m_part->pins ||
                !faults::ExchangedPlugs::fit(*plug, *there))
                continue;
            ++told;
            m_out.add({"plugs-exchanged",
                       {faults::ExchangedPlugs{{plug->id, there->id}}},
                       phrase("The plugs of {} and {} are exchanged", m_circuit.name, c.name),
                       phrase("Follow both back from their parts, exchange them, and label them."),
                       {}});
        }
    }

    /// What needs the key, and may be fed from where the starter cuts it off.
    void contactOf(const std::string& id)
    {
        const auto contact = std::ranges::find(m_job.switches, id, &job::Switch::id);
        if (contact == m_job.switches.end() || !contact->needsKey || contact->opensCranking ||
            !m_contacts.insert(id).second)
            return;
        const std::string name = contact->label.empty() ? id : contact->label;
        m_out.add({"dead-cranking",
                   {faults::DeadCranking{id}},
                   phrase("{} drops out while the starter turns", name),
                   phrase("Take the feed of {} from what stays alive while cranking, not from the accessories.", name),
                   {}});
    }

    const job::Job& m_job;
    const job::Circuit& m_circuit;
    const parts::Library& m_library;
    electrics::Wiring m_wiring;
    std::vector<Path> m_paths;
    const parts::Part* m_part;
    std::set<PointRef> m_places;
    std::set<job::WireId> m_wires;
    std::set<std::string> m_plugs, m_contacts;
    std::set<std::pair<PointRef, PointRef>> m_pairs;
    Suspicions m_out;
};

} // namespace

std::vector<Suspect> suspects(const job::Job& job, const job::CircuitId& circuit, const Families& families,
                              const parts::Library& library, const std::vector<faults::HeldTable::Point>& table)
{
    const job::Circuit* of = job::find(job, circuit);
    return of == nullptr ? std::vector<Suspect>() : Collector(job, *of, families, library).all(table);
}

} // namespace vicegrip::diagnosis
