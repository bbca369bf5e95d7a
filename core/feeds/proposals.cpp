#include "core/feeds/proposals.h"

#include "core/base/phrase.h"
#include "core/harness/edits.h"
#include "core/harness/places.h"
#include "core/harness/relay_feed.h"
#include "core/parts/conductor.h"
#include "core/wires/area.h"

#include <algorithm>
#include <map>
#include <set>

namespace vicegrip::feeds {
namespace {

using electrics::Path;
using job::PointRef;
using job::SwitchKind;
using parts::EcuPinRole;
using parts::PartUse;

constexpr double kLead_m = 1.0; ///< planned, until somebody measures

/// Consumers that are fused together: what fails with one of them fails at once (common practice).
struct Group
{
    const char* id;
    const char* title;
    const char* name; ///< behind "fuse of"
};

constexpr Group kInjectors{"injectors", key("Injectors"), key("the injectors")};
constexpr Group kCoils{"coils", key("Ignition coils"), key("the ignition coils")};
constexpr Group kOthers{"others", key("Relays, valves and sensors"), key("relays, valves and sensors")};

const Group& groupOf(PartUse use)
{
    switch (use) {
    case PartUse::Injector:
        return kInjectors;
    case PartUse::IgnitionCoil:
    case PartUse::IgnitionModule:
        return kCoils;
    default:
        return kOthers;
    }
}

class Proposer
{
  public:
    Proposer(const job::Job& job, const parts::Library& library)
        : m_job(job), m_library(library), m_wiring(job), m_feeds(feedsOf(job, m_wiring))
    {
    }

    std::vector<Proposal> all()
    {
        for (const job::Circuit& c : m_job.circuits)
            suppress(c);
        for (const parts::Ecu* unit : job::units(m_job))
            mainFeed(*unit);
        for (const parts::Ecu* unit : job::units(m_job))
            grounds(*unit);
        for (const job::Load& l : m_job.loads)
            ownRelay(l);
        for (const Feed& f : m_feeds)
            split(f);
        for (const Feed& f : m_feeds)
            rate(f);
        return std::move(m_out);
    }

  private:
    [[nodiscard]] Path toBattery(const PointRef& from) const
    {
        return m_wiring.way(from, [&](const PointRef& p) {
            const job::Joint* j = m_wiring.joint(p);
            return j != nullptr && j->kind == job::JointKind::BatteryPositive;
        });
    }
    [[nodiscard]] std::vector<const job::Switch*> between(const Path& path) const
    {
        std::vector<const job::Switch*> out;
        for (const std::string& subject : path.subjects)
            for (const job::Switch& s : m_job.switches)
                if (path.complete && subject == "switch " + s.id)
                    out.push_back(&s);
        return out;
    }

    /// A relay's coil that throws its kick back takes its place with one that has a diode or a resistor.
    void suppress(const job::Circuit& circuit)
    {
        const parts::Part* part = job::actuatorOf(m_job, circuit);
        const auto drive = part == nullptr ? std::nullopt : parts::driveOf(*part);
        if (!drive || part->kind != PartUse::Relay || !drive->kicks)
            return;
        const auto quiet = std::ranges::find_if(m_library.parts, [&](const parts::Part& p) {
            return p.kind == PartUse::Relay && p.pins == part->pins && p.feed == part->feed && parts::driveOf(p) &&
                   !parts::driveOf(p)->kicks && parts::windingOhm(p) && parts::windingOhm(*part);
        });
        if (quiet == m_library.parts.end())
            return;
        m_out.push_back({circuit.id.value, phrase("{}: {}", circuit.name, quiet->name),
                         phrase("switched off, a coil without a diode or a resistor across it throws a hundred volts "
                                "and more back at its output and at what shares its feed (common practice)"),
                         [id = circuit.id, part = *quiet](job::Job& job) {
                             // The pins are the same, so nothing about it can fail.
                             static_cast<void>(harness::setSensor(job, id, part));
                         }});
    }

    /// A unit that has a key feed besides is meant to stay on the battery's post.
    void mainFeed(const parts::Ecu& unit)
    {
        const bool keyed = std::ranges::any_of(unit.pins, [](const auto& p) { return p.role == EcuPinRole::KeyFeed; });
        for (const parts::EcuPin& pin : unit.pins) {
            const PointRef at = PointRef::fromText(pin.at);
            const Path path = toBattery(at);
            const auto on = between(path);
            const bool feeds = pin.role == EcuPinRole::PowerFeed || pin.role == EcuPinRole::KeyFeed;
            if (!feeds || !path.complete)
                continue;
            const auto dies = std::ranges::find(on, true, &job::Switch::opensCranking);
            const bool relayed = std::ranges::any_of(
                on, [](const job::Switch* s) { return s->kind == SwitchKind::Relay || s->kind == SwitchKind::Hand; });
            if (keyed && pin.role == EcuPinRole::PowerFeed && relayed)
                straightToPost(unit, at, path.points.back());
            else if (dies != on.end())
                fromWhatStays(unit, at, **dies);
        }
    }

    void straightToPost(const parts::Ecu& unit, const PointRef& pin, const PointRef& post)
    {
        const double amps = m_job.battery.charging_v / unit.feed_ohm, rating = leastRating(amps);
        m_out.push_back(
            {pin.text(),
             phrase("Main feed of {} ({}) straight to the post, over {}", unit.name, job::spoken(m_job, pin),
                    ampsText(rating)),
             phrase("it has a key feed of its own, and a contact or a kill switch in the main feed takes away what it "
                    "keeps (common practice)"),
             [pin, post, rating, name = unit.name](job::Job& job) {
                 std::erase_if(job.wires, [&](const job::Wire& w) { return w.from == pin || w.to == pin; });
                 const PointRef fused = harness::addFuse(job, name, post, rating);
                 harness::drawWire(job, fused, pin, kLead_m, wires::areaBehind(rating), "RD");
                 harness::dropLost(job);
             }});
    }

    /// What is switched by the key and stays on while the starter turns.
    void fromWhatStays(const parts::Ecu& unit, const PointRef& pin, const job::Switch& dies)
    {
        const auto stays = std::ranges::find_if(m_job.switches, [](const job::Switch& s) {
            return s.needsKey && !s.opensCranking && s.coil.empty() && s.kind != SwitchKind::Fuse;
        });
        if (stays == m_job.switches.end())
            return; // "feed-drops-cranking" says so; where another feed is, only hands know
        m_out.push_back({pin.text(),
                         phrase("Feed of {} ({}) from {}", unit.name, job::spoken(m_job, pin),
                                stays->label.empty() ? stays->id : stays->label),
                         phrase("{} opens while the starter turns: the unit would restart at every crank",
                                dies.label.empty() ? dies.id : dies.label),
                         [pin, to = stays->to](job::Job& job) {
                             for (job::Wire& w : job.wires)
                                 if (w.from == pin || w.to == pin)
                                     (w.from == pin ? w.to : w.from) = to;
                         }});
    }

    /// Each of a unit's power grounds has a wire of its own, to metal or to the post.
    void grounds(const parts::Ecu& unit)
    {
        const auto isGround = [&](const PointRef& p) {
            const job::Joint* j = m_wiring.joint(p);
            return j != nullptr && (j->kind == job::JointKind::Stud || j->kind == job::JointKind::BatteryNegative);
        };
        for (const parts::EcuPin& pin : unit.pins) {
            const PointRef at = PointRef::fromText(pin.at), to = harness::powerGround(m_job, unit);
            if (pin.role != EcuPinRole::PowerGround || m_wiring.way(at, isGround).complete || !isGround(to))
                continue;
            const double area =
                std::max(wires::kLeastArea_m2, wires::areaToCarry(m_job.battery.charging_v / unit.feed_ohm));
            m_out.push_back(
                {pin.at, phrase("Ground of {} ({}) to {}", unit.name, job::spoken(m_job, at), job::spoken(m_job, to)),
                 phrase("it leads nowhere: what is left of its grounds carries all of its current, and "
                        "every sensor reads the lift"),
                 [at, to, area](job::Job& job) { harness::drawWire(job, at, to, kLead_m, area, "BK"); }});
        }
    }

    void ownRelay(const job::Load& load)
    {
        const Path path = toBattery(load.from);
        if (load.starter || load.current_a <= kRelayAbove_a || !path.complete || leastRating(load.current_a) == 0)
            return;
        const auto on = between(path);
        if (std::ranges::any_of(on, [](const job::Switch* s) { return s->kind == SwitchKind::Contact; }))
            return; // nobody has said what it is
        const auto relay = std::ranges::find(on, SwitchKind::Relay, &job::Switch::kind);
        if (relay != on.end() && !sharesRelay(**relay, load))
            return;
        const double rating = leastRating(load.current_a);
        m_out.push_back(
            {load.id, phrase("{}: a relay of its own, over {}", load.label, ampsText(rating)),
             relay == on.end() ? phrase("it draws {}; above {} a load goes through its own relay (common practice)",
                                        ampsText(load.current_a), ampsText(kRelayAbove_a))
                               : phrase("it draws {} through {}, and so do others: one contact carries them all",
                                        ampsText(load.current_a), (*relay)->id),
             [id = load.id, name = load.label, rating](job::Job& job) {
                 const job::Load fed = *std::ranges::find(job.loads, id, &job::Load::id);
                 std::erase_if(job.wires, [&](const job::Wire& w) { return w.from == fed.from || w.to == fed.from; });
                 harness::addRelayContact(job, {name, {}, fed.from, fed.current_a, rating});
                 harness::dropLost(job);
             }});
    }

    /// Whether this contact feeds anything but this load.
    [[nodiscard]] bool sharesRelay(const job::Switch& relay, const job::Load& load) const
    {
        const auto passes = [&](const PointRef& from) {
            const auto on = between(toBattery(from));
            return std::ranges::find(on, &relay) != on.end();
        };
        for (const job::Load& l : m_job.loads)
            if (&l != &load && !l.starter && passes(l.from))
                return true;
        for (const parts::Ecu* unit : job::units(m_job))
            for (const parts::EcuPin& pin : unit->pins)
                if (pin.role == EcuPinRole::PowerFeed && passes(PointRef::fromText(pin.at)))
                    return true;
        return false;
    }

    /// A unit shares its fuse with nobody, nor do injectors with coils: each gets one of its own, behind the same
    /// relay, so that the key still switches them.
    void split(const Feed& feed)
    {
        std::map<const Group*, std::vector<const Consumer*>> groups;
        std::vector<const parts::Ecu*> units;
        for (const Consumer& c : feed.consumers) {
            const job::Circuit* circuit = job::find(m_job, c.circuit);
            const parts::Part* part = circuit == nullptr ? nullptr : job::partOf(m_job, *circuit);
            for (const parts::Ecu* u : job::units(m_job))
                if (c.circuit.empty() && u->name == c.name && fusesOf(feedOf(*u)) == 1)
                    units.push_back(u);
            if (part != nullptr && fusesOf(plugOf(c)) == 1)
                groups[&groupOf(part->kind)].push_back(&c);
        }
        if (feed.fuse.empty() || feed.consumers.size() < 2)
            return;
        for (const Group* group : {&kInjectors, &kCoils, &kOthers})
            if (groups.contains(group) &&
                (!units.empty() || (group != &kOthers && groups.contains(&kInjectors) && groups.contains(&kCoils))))
                fuseTogether(*group, groups[group], feed);
        for (const parts::Ecu* unit : units)
            fuseUnit(*unit, feed);
    }

    [[nodiscard]] PointRef plugOf(const Consumer& c) const
    {
        const job::Circuit& circuit = *job::find(m_job, c.circuit);
        return {job::find(m_job, circuit.device)->connector,
                parts::cavityOf(*job::partOf(m_job, circuit), parts::PinRole::Supply)};
    }
    /// The first of a unit's feeds.
    [[nodiscard]] static PointRef feedOf(const parts::Ecu& unit)
    {
        const auto pin = std::ranges::find(unit.pins, EcuPinRole::PowerFeed, &parts::EcuPin::role);
        return pin == unit.pins.end() ? PointRef{} : PointRef::fromText(pin->at);
    }

    /// How many fuses are on the way from here to the battery.
    [[nodiscard]] size_t fusesOf(const PointRef& from) const
    {
        const auto on = between(toBattery(from));
        return static_cast<size_t>(std::ranges::count(on, SwitchKind::Fuse, &job::Switch::kind));
    }

    /// The splice that all of these places are wired to; empty where it is not one: what comes through bulkheads is
    /// hands' work.
    [[nodiscard]] PointRef sourceOf(const std::vector<PointRef>& places) const
    {
        std::set<PointRef> sources;
        for (const job::Wire& w : m_job.wires)
            for (const PointRef& place : places)
                if (w.from == place || w.to == place)
                    sources.insert(w.from == place ? w.to : w.from);
        return sources.size() == 1 && m_wiring.joint(*sources.begin()) != nullptr ? *sources.begin() : PointRef{};
    }

    void fuseTogether(const Group& group, const std::vector<const Consumer*>& members, const Feed& feed)
    {
        double amps = 0;
        std::vector<PointRef> plugs;
        for (const Consumer* c : members) {
            amps += c->amps;
            plugs.push_back(plugOf(*c));
        }
        fuseApart(
            group.id, key("{} on a fuse of their own: {}"), phrase(group.title), phrase(group.name), amps, plugs,
            phrase("together {}, and on {} a chafed lead of one would stop whatever else hangs there (common practice)",
                   ampsText(amps), nameOf(feed.fuse)));
    }

    void fuseUnit(const parts::Ecu& unit, const Feed& feed)
    {
        std::vector<PointRef> pins;
        for (const parts::EcuPin& pin : unit.pins)
            if (pin.role == EcuPinRole::PowerFeed || pin.role == EcuPinRole::KeyFeed)
                if (sourceOf({feedOf(unit)}) == sourceOf({PointRef::fromText(pin.at)}))
                    pins.push_back(PointRef::fromText(pin.at));
        double amps = m_job.battery.charging_v / unit.feed_ohm;
        for (const Consumer& c : feed.consumers) // what it drives from its own feed draws there
            if (const job::Circuit* circuit = job::find(m_job, c.circuit);
                circuit != nullptr && job::unitOf(m_job, circuit->output) == &unit && plugOf(c).cavity.empty())
                amps += c.amps;
        fuseApart(
            unit.name, key("{} on a fuse of its own: {}"), unit.name, unit.name, amps, pins,
            phrase(
                "it takes {}; whatever else hangs on {}, stops the engine where it blows that fuse (common practice)",
                ampsText(amps), nameOf(feed.fuse)));
    }

    /// As people call it: "Main fuse".
    [[nodiscard]] std::string nameOf(const std::string& fuse) const
    {
        const auto s = std::ranges::find(m_job.switches, fuse, &job::Switch::id);
        return s == m_job.switches.end() || s->label.empty() ? phrase("Fuse {}", fuse) : s->label;
    }

    void fuseApart(const std::string& subject, const char* what, const std::string& title, const std::string& name,
                   double amps, const std::vector<PointRef>& places, std::string why)
    {
        const PointRef source = sourceOf(places);
        const double rating = leastRating(amps);
        if (rating == 0 || source.empty())
            return;
        m_out.push_back({subject, phrase(what, title, ampsText(rating)), std::move(why),
                         [places, source, rating, name](job::Job& job) {
                             const PointRef fused = harness::addFuse(job, name, source, rating);
                             for (job::Wire& w : job.wires)
                                 for (const PointRef& place : places)
                                     if (w.from == place || w.to == place) {
                                         (w.from == place ? w.to : w.from) = fused;
                                         w.area_m2 = std::max(w.area_m2, wires::areaBehind(rating));
                                     }
                         }});
    }

    /// The rating that its current asks for, and wires that outlast it.
    void rate(const Feed& feed)
    {
        if (feed.fuse.empty() || feed.consumers.empty() || feed.proposed_a == 0)
            return;
        const bool small = feed.rating_a > 0 && feed.rating_a * kLoaded < feed.amps;
        const bool large = feed.rating_a > feed.stands_a && feed.proposed_a < feed.rating_a;
        const double rating = feed.rating_a == 0 || small || large ? feed.proposed_a : feed.rating_a;
        std::vector<job::WireId> thin;
        const double area = wires::areaBehind(rating);
        for (const job::WireId& id : feed.wires)
            if (const auto w = std::ranges::find(m_job.wires, id, &job::Wire::id);
                w != m_job.wires.end() && w->area_m2 < area * (1 - 1e-9))
                thin.push_back(id);
        if (rating == feed.rating_a && thin.empty())
            return;
        std::string what = rating == feed.rating_a
                               ? phrase("Wires behind {}: {}", nameOf(feed.fuse), parts::areaText(area))
                               : phrase("{}: to {}", nameOf(feed.fuse), ampsText(rating));
        if (rating != feed.rating_a && !thin.empty())
            what =
                phrase("{}: to {}, the wires behind it {}", nameOf(feed.fuse), ampsText(rating), parts::areaText(area));
        m_out.push_back(
            {feed.fuse, std::move(what), feed.reason, [fuse = feed.fuse, rating, thin, area](job::Job& job) {
                 std::ranges::find(job.switches, fuse, &job::Switch::id)->rating_a = rating;
                 for (job::Wire& w : job.wires)
                     if (std::ranges::find(thin, w.id) != thin.end())
                         w.area_m2 = area;
             }});
    }

    const job::Job& m_job;
    const parts::Library& m_library;
    electrics::Wiring m_wiring;
    std::vector<Feed> m_feeds;
    std::vector<Proposal> m_out;
};

} // namespace

std::vector<Proposal> propose(const job::Job& job, const parts::Library& library)
{
    return Proposer(job, library).all();
}

int takeAll(job::Job& job, const parts::Library& library)
{
    constexpr int kMost = 200; // more than a car has
    for (int taken = 0; taken < kMost; ++taken) {
        const auto all = propose(job, library);
        if (all.empty())
            return taken;
        all.front().change(job);
    }
    return kMost;
}

} // namespace vicegrip::feeds
