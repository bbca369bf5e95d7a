#include "core/findings/back_feed.h"

#include "core/base/phrase.h"
#include "core/electrics/electrics.h"
#include "core/units/units.h"

#include <algorithm>
#include <array>
#include <set>

namespace vicegrip::findings {
namespace {

using circuit::Node;
using electrics::Path;
using job::PointRef;
using parts::EcuPinRole;

/// The elements that the largest current comes through, from a place up to the battery.
std::string wayOf(const electrics::Electrics& car, Node at)
{
    const circuit::Solution& solution = car.solution;
    std::string out, last;
    std::set<Node> seen = {at};
    for (;;) {
        double most = 1e-6; // A: less keeps nothing awake
        const circuit::Element* through = nullptr;
        Node next = at;
        for (const circuit::Element& e : solution.network().elements()) {
            if (e.kind != circuit::Element::Kind::Resistor || (e.a != at && e.b != at))
                continue;
            const Node other = e.a == at ? e.b : e.a;
            const double amps = solution.volts(other, at) / std::max(e.value, circuit::kLeastOhms);
            if (amps > most && !seen.contains(other)) {
                most = amps;
                through = &e;
                next = other;
            }
        }
        if (through == nullptr || through->label == "battery")
            return out;
        if (!through->label.empty() && through->label != last && !through->label.starts_with("contact ")) {
            out += (out.empty() ? "" : ", ") + through->label;
            last = through->label;
        }
        seen.insert(next);
        at = next;
    }
}

/// The pins over which the key switches a unit on: its key feeds, else its feeds.
std::vector<PointRef> switchedPins(const parts::Ecu& unit, const job::Job& job, const electrics::Wiring& wiring)
{
    const bool keyed = std::ranges::any_of(unit.pins, [](const auto& p) { return p.role == EcuPinRole::KeyFeed; });
    const auto behindKey = [&](const PointRef& p) {
        return std::ranges::any_of(job.switches, [&](const job::Switch& s) { return s.needsKey && s.to == p; });
    };
    const auto needsKey = [&](const PointRef& pin) {
        const Path path = wiring.way(pin, behindKey);
        return behindKey(pin) ||
               (path.complete && std::ranges::none_of(job.switches, [&](const job::Switch& s) {
                    return s.needsKey && std::ranges::find(path.subjects, "switch " + s.id) != path.subjects.end();
                }));
    };
    std::vector<PointRef> out;
    for (const parts::EcuPin& pin : unit.pins)
        if (pin.role == (keyed ? EcuPinRole::KeyFeed : EcuPinRole::PowerFeed))
            if (const PointRef at = PointRef::fromText(pin.at); needsKey(at))
                out.push_back(at);
    return out;
}

using Switched = std::vector<std::pair<const parts::Ecu*, PointRef>>;

double wakesAt(const parts::Ecu& unit, const PointRef& pin, const electrics::Wiring& wiring)
{
    return wiring.ecuPin(pin)->role == EcuPinRole::KeyFeed ? kTakenForOn_v : unit.least_supply_v;
}

/// By opening the contacts in the network that is solved already: exact, but for devices that lose their supply, which
/// feed nobody.
bool mayStayAwake(const Switched& switched, const job::Job& job, const electrics::Wiring& wiring,
                  const electrics::Electrics& car)
{
    constexpr double kOpen_ohm = 1e12;
    std::set<std::string> keyed;
    for (const job::Switch& s : job.switches)
        if (s.needsKey)
            keyed.insert("switch " + s.id);
    std::vector<circuit::ElementIndex> contacts;
    const auto& elements = car.solution.network().elements();
    for (size_t i = 0; i < elements.size(); ++i)
        if (keyed.contains(elements[i].label))
            contacts.push_back(static_cast<circuit::ElementIndex>(i));
    if (contacts.size() > circuit::Sweep::kMost)
        return true;
    std::array<double, circuit::Sweep::kMost> open{};
    open.fill(kOpen_ohm);
    return std::ranges::any_of(switched, [&](const auto& at) {
        const auto node = car.node(at.second);
        return node && circuit::Sweep(car.solution, contacts, {{*node, circuit::kReference}}).at(open)[0] >=
                           wakesAt(*at.first, at.second, wiring);
    });
}

} // namespace

void checkBackFeed(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring,
                   const electrics::Electrics& keyOn)
{
    Switched switched;
    for (const parts::Ecu* unit : job::units(job))
        for (const PointRef& pin : switchedPins(*unit, job, wiring))
            switched.emplace_back(unit, pin);
    if (switched.empty() || !mayStayAwake(switched, job, wiring, keyOn))
        return;
    const auto car = electrics::build(job, {.surroundings = job.surroundings, .keyOff = true, .bounded = false});
    if (!car)
        return; // the network has no answer, and that is said
    std::set<const parts::Ecu*> told;
    for (const auto& [unit, pin] : switched) {
        const auto node = car->node(pin);
        const double volts = node ? car->solution.volts(*node) : 0;
        if (volts < wakesAt(*unit, pin, wiring) || !told.insert(unit).second)
            continue;
        out.push_back(
            {"back-feed",
             Severity::Stop,
             {},
             phrase("{} still has {} at {} with the key off, through {}", unit->name,
                    units::format(volts, units::Dimension::Voltage, "V", 1), job::spoken(job, pin), wayOf(*car, *node)),
             phrase("The engine runs on when the key is taken out, or the battery is flat in the morning."),
             phrase("Feed what brings it in over the same contact as the unit, or put a diode into that "
                    "way.")});
    }
}

} // namespace vicegrip::findings
