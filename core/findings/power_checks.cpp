#include "core/findings/power_checks.h"

#include "core/base/phrase.h"
#include "core/feeds/feeds.h"

#include <algorithm>
#include <map>
#include <set>

namespace vicegrip::findings {
namespace {

using electrics::Path;
using job::PointRef;
using job::Switch;
using job::SwitchKind;
using parts::EcuPinRole;

std::string nameOf(SwitchKind kind)
{
    switch (kind) {
    case SwitchKind::Fuse:
        return phrase("fuse ");
    case SwitchKind::Relay:
        return phrase("relay ");
    case SwitchKind::Hand:
        return phrase("switch ");
    case SwitchKind::Contact:
        break;
    }
    return phrase("contact ");
}

class Power
{
  public:
    Power(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring)
        : m_out(out), m_job(job), m_wiring(wiring)
    {
        for (const job::Load& l : job.loads)
            for (const Switch* s : between(toBattery(l.from)))
                m_loadsBehind[s->id].push_back(&l);
    }

    void check()
    {
        for (const parts::Ecu* unit : job::units(m_job))
            checkUnit(*unit);
        for (const job::Load& l : m_job.loads)
            checkLoad(l);
    }

  private:
    void say(const char* rule, Severity severity, std::string what, std::string why, std::string todo)
    {
        m_out.push_back({rule, severity, {}, std::move(what), std::move(why), std::move(todo)});
    }

    [[nodiscard]] bool isJoint(const PointRef& place, std::initializer_list<job::JointKind> kinds) const
    {
        const job::Joint* j = m_wiring.joint(place);
        return j != nullptr && std::ranges::find(kinds, j->kind) != kinds.end();
    }
    [[nodiscard]] Path toBattery(const PointRef& from) const
    {
        return m_wiring.way(from, [&](const PointRef& p) { return isJoint(p, {job::JointKind::BatteryPositive}); });
    }
    [[nodiscard]] Path toGround(const PointRef& from) const
    {
        return m_wiring.way(from, [&](const PointRef& p) {
            const parts::EcuPin* pin = m_wiring.ecuPin(p);
            return isJoint(p, {job::JointKind::Stud, job::JointKind::BatteryNegative}) ||
                   (pin != nullptr && pin->role == EcuPinRole::SensorGround);
        });
    }
    [[nodiscard]] std::vector<const Switch*> between(const Path& path) const
    {
        std::vector<const Switch*> out;
        for (const std::string& subject : path.subjects)
            for (const Switch& s : m_job.switches)
                if (path.complete && subject == "switch " + s.id)
                    out.push_back(&s);
        return out;
    }
    static const Switch* first(const std::vector<const Switch*>& all, SwitchKind kind)
    {
        const auto it = std::ranges::find(all, kind, &Switch::kind);
        return it == all.end() ? nullptr : *it;
    }
    /// Nobody has said what the contacts on the way are: nothing can be missed in them.
    static bool known(const std::vector<const Switch*>& all) { return first(all, SwitchKind::Contact) == nullptr; }

    void checkUnit(const parts::Ecu& unit)
    {
        const bool keyed = std::ranges::any_of(unit.pins, [](const auto& p) { return p.role == EcuPinRole::KeyFeed; });
        int grounds = 0, wired = 0;
        std::string missing;
        for (const parts::EcuPin& pin : unit.pins) {
            const PointRef at = PointRef::fromText(pin.at);
            if (pin.role == EcuPinRole::PowerFeed || pin.role == EcuPinRole::KeyFeed)
                checkFeed(unit, at, keyed && pin.role == EcuPinRole::PowerFeed);
            if (pin.role != EcuPinRole::PowerGround)
                continue;
            ++grounds;
            const bool ends = toGround(at).complete;
            wired += ends ? 1 : 0;
            if (!ends)
                missing += (missing.empty() ? "" : ", ") + job::spoken(m_job, at);
        }
        if (wired < grounds)
            say("ground-missing", Severity::Stop,
                phrase("{} has {} power grounds, and {} lead to ground; missing: {}", unit.name,
                       std::to_string(grounds), std::to_string(wired), missing),
                phrase("What is left of them carries all of its current: its ground lifts when an output switches, and "
                       "every sensor reads the lift."),
                phrase("Wire every ground, each with a wire of its own to clean metal or the post."));
    }

    void checkFeed(const parts::Ecu& unit, const PointRef& at, bool straight)
    {
        const Path path = toBattery(at);
        const std::string where = phrase("The feed of {} ({})", unit.name, job::spoken(m_job, at));
        if (!path.complete) {
            say("feed-open", Severity::Stop, phrase("{} does not reach the battery", where),
                phrase("Without it the unit is off."), phrase("Draw it: from the battery's post, fused."));
            return;
        }
        const auto switches = between(path);
        for (const Switch* s : switches) {
            const std::string through = phrase("{} comes through {}{}", where, nameOf(s->kind), s->id);
            if (s->opensCranking)
                say("feed-drops-cranking", Severity::Stop, phrase("{}, which opens while the starter turns", through),
                    phrase("The unit restarts at every crank, and the engine does not fire."),
                    phrase("Take it from what stays live while cranking."));
            if (s->kind == SwitchKind::Hand && !s->needsKey)
                say("feed-by-hand", Severity::Fix, through,
                    phrase("The unit loses its supply with the engine running, and with it what it has learned."),
                    phrase("Bring its main feed straight to the battery's post, fused (common practice)."));
            if (straight && s->kind == SwitchKind::Relay)
                say("feed-by-relay", Severity::Fix, phrase("{}, and it has a key feed of its own for that", through),
                    phrase("A tired contact takes the unit's supply away; the main feed is meant to stay on."),
                    phrase("Bring it straight to the battery's post, fused (common practice)."));
            const auto shared = m_loadsBehind.find(s->id);
            if (s->kind == SwitchKind::Relay && shared != m_loadsBehind.end())
                say("relay-shared", Severity::Fix, phrase("{}, and so does {}", through, shared->second.front()->label),
                    phrase("What the load draws and the kick when it stops are on the unit's own supply."),
                    phrase("Give the load a relay of its own."));
        }
        if (known(switches) && first(switches, SwitchKind::Fuse) == nullptr)
            say("feed-no-fuse", Severity::Stop, phrase("{} has no fuse", where),
                phrase("A chafed wire straight from the battery burns."), phrase("Fuse it at the battery."));
    }

    void checkLoad(const job::Load& load)
    {
        Path feed = toBattery(load.from), back = toGround(load.to);
        feed.complete |= isJoint(load.from, {job::JointKind::BatteryPositive});
        back.complete |= isJoint(load.to, {job::JointKind::Stud, job::JointKind::BatteryNegative});
        const auto switches = between(feed);
        const std::string where = load.label + " (" + feeds::ampsText(load.current_a) + ")";
        if (!feed.complete || !back.complete)
            say("load-open", Severity::Fix,
                where + (feed.complete ? phrase(" does not return to ground") : phrase(" does not reach the battery")),
                phrase("It cannot run."), phrase("Draw its wires."));
        for (const Path* path : {&feed, &back})
            for (const PointRef& place : path->points) {
                const parts::EcuPin* pin = m_wiring.ecuPin(place);
                if (pin != nullptr && pin->role == EcuPinRole::SensorGround)
                    say("load-on-sensor-ground", Severity::Stop,
                        phrase("{} returns through {}", where, job::spoken(m_job, place)),
                        phrase(
                            "Its current lifts every sensor on that ground, and the thin wires are not made for it."),
                        phrase("Give it a ground of its own."));
            }
        if (load.starter)
            return; // switched by its own solenoid, on a cable without a fuse (common practice)
        if (load.current_a > feeds::kRelayAbove_a && feed.complete && known(switches)) {
            const Switch* relay = first(switches, SwitchKind::Relay);
            if (relay == nullptr)
                say("load-no-relay", Severity::Fix, phrase("{} has no relay", where),
                    phrase("Above 10 A a load goes through its own relay, and the ECU's wire only pulls that (common "
                           "practice)."),
                    phrase("Fit a relay, its contact fused from the battery."));
            else if (m_loadsBehind.at(relay->id).size() > 1)
                say("relay-shared", Severity::Fix, phrase("{} shares relay {} with others", where, relay->id),
                    phrase("One contact carries them all, and one load's fault stops the others."),
                    phrase("Give it a relay of its own."));
        }
        const Switch* fuse = first(switches, SwitchKind::Fuse);
        if (feed.complete && known(switches) && fuse == nullptr)
            say("load-no-fuse", Severity::Stop, phrase("{} has no fuse", where),
                phrase("A chafed wire straight from the battery burns."), phrase("Fuse it at the battery."));
    }

    std::vector<Finding>& m_out;
    const job::Job& m_job;
    const electrics::Wiring& m_wiring;
    std::map<std::string, std::vector<const job::Load*>> m_loadsBehind; ///< by switch
};

} // namespace

void checkPower(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring)
{
    Power(out, job, wiring).check();
}

} // namespace vicegrip::findings
