#include "core/clicks/clicks.h"

#include "core/base/phrase.h"
#include "core/brief/driven_needs.h"
#include "core/brief/firing_order.h"

#include <algorithm>
#include <charconv>
#include <map>
#include <set>
#include <tuple>

namespace vicegrip::clicks {
namespace {

using job::CircuitId;
using proof::State;

/// The number at the end of "inj3"; 0 for none.
int numberOf(const std::string& function)
{
    const size_t digits = function.find_last_not_of("0123456789") + 1;
    int out = 0;
    std::from_chars(function.data() + digits, function.data() + function.size(), out);
    return out;
}

/// How many outputs come before this one's: injectors, then coils, each in firing order, then the rest. A coil of two
/// cylinders is numbered by its pair, and pairs are numbered as they fire.
std::tuple<int, size_t> turnOf(const job::Job& job, const job::Circuit& circuit)
{
    const parts::PartUse use = job::actuatorOf(job, circuit)->kind;
    if (use != parts::PartUse::Injector && use != parts::PartUse::IgnitionCoil)
        return {2, 0};
    const int number = numberOf(circuit.function.value);
    const auto& order = job.brief ? job.brief->firingOrder : std::vector<int>();
    const bool byCylinder =
        use == parts::PartUse::Injector || (job.brief && job.brief->ignition == job::Ignition::Sequential);
    const auto at = std::ranges::find(order, number);
    const auto turn = byCylinder && at != order.end() ? at - order.begin() : number;
    return {use == parts::PartUse::Injector ? 0 : 1, static_cast<size_t>(turn)};
}

std::vector<const job::Circuit*> inOrder(const job::Job& job)
{
    std::vector<const job::Circuit*> out;
    for (const job::Circuit& c : job.circuits)
        if (const parts::Part* part = job::actuatorOf(job, c);
            !c.output.empty() && part != nullptr && !parts::isOnBus(*part))
            out.push_back(&c);
    std::ranges::stable_sort(out, {}, [&](const job::Circuit* c) { return turnOf(job, *c); });
    return out;
}

using Latest = std::map<CircuitId, const job::Click*>;

const job::Click* lastOf(const Latest& latest, const CircuitId& id)
{
    const auto it = latest.find(id);
    return it == latest.end() ? nullptr : it->second;
}

/// "Cavity A15"; of several pins the first.
std::string seatWords(const job::Job& job, const job::Circuit& circuit)
{
    const auto cavities = job::seatCavities(job, circuit);
    return cavities.empty() ? phrase("output {}", circuit.output.value) : job::spoken(job, cavities.front());
}

std::string names(const job::Job& job, const std::vector<CircuitId>& ids)
{
    std::string out;
    for (const CircuitId& id : ids)
        if (const job::Circuit* c = job::find(job, id))
            out += (out.empty() ? "" : ", ") + c->name;
    return out;
}

/// From this circuit on, each one's click names the next. It ends where a click is missing, names none or several, or
/// one that is in the chain already.
std::vector<const job::Circuit*> chainFrom(const job::Job& job, const Latest& latest, const job::Circuit& circuit)
{
    std::vector<const job::Circuit*> out = {&circuit};
    for (;;) {
        const job::Click* click = lastOf(latest, out.back()->id);
        const job::Circuit* next =
            click == nullptr || click->answered.size() != 1 ? nullptr : job::find(job, click->answered.front());
        if (next == nullptr || std::ranges::find(out, next) != out.end())
            return out;
        out.push_back(next);
    }
}

void tellRing(Standing& s, const job::Job& job, const std::vector<const job::Circuit*>& ring)
{
    for (const job::Circuit* c : ring)
        s.ring.push_back(c->id);
    const job::Circuit &circuit = *ring[0], &other = *ring[1];
    const std::string here = seatWords(job, circuit), there = seatWords(job, other);
    if (ring.size() == 2) {
        s.reason = phrase("{} works {}, and {} works {}: they are exchanged", here, other.name, there, circuit.name);
        s.todo = phrase("Exchange the wires of {} and {} at the ECU's plug, or the two plugs where each sits on the "
                        "other's part. Then click both again.",
                        here, there);
        return;
    }
    std::string moves;
    for (size_t i = 0; i < ring.size(); ++i)
        moves += (i == 0 ? "" : "; ") +
                 phrase("{} to {}", seatWords(job, *ring[i]), seatWords(job, *ring[(i + 1) % ring.size()]));
    s.reason = phrase("{} works {}, and so on round {} outputs", here, other.name, std::to_string(ring.size()));
    s.todo = phrase("Move each wire at the ECU's plug to where its part belongs, or the plugs likewise: {}. Then click "
                    "them again.",
                    moves);
}

/// Another part answered alone: what the others' outputs work says what is wrong.
void judgeAnother(Standing& s, const job::Job& job, const Latest& latest, const job::Circuit& circuit,
                  const job::Circuit& other)
{
    const std::string here = seatWords(job, circuit), there = seatWords(job, other);
    const auto chain = chainFrom(job, latest, circuit);
    const job::Circuit& end = *chain.back();
    const job::Click* last = lastOf(latest, end.id);
    if (last != nullptr && last->answered == std::vector{circuit.id}) {
        tellRing(s, job, chain);
    } else if (last != nullptr && &end == &other && last->answered == std::vector{other.id}) {
        s.reason = phrase("{} and {} both work {}: their wires are joined, and none leads to {}", here, there,
                          other.name, circuit.name);
        s.todo = phrase("Find where the two wires meet, and bring {} to {} alone.", here, circuit.name);
    } else {
        s.reason = phrase("{} works {}: the wire in it, or the plug at its end, is another's", here, other.name);
        s.todo = last != nullptr
                     ? phrase("Its wire belongs in {}. Mend what is wrong at {} first.", there, seatWords(job, end))
                     : phrase("Click {} next: what answers there says which are exchanged.", end.name);
        if (last == nullptr)
            s.next = end.id;
    }
}

/// A click that stands: what it says of the wiring.
void judge(Standing& s, const job::Job& job, const Latest& latest, const job::Circuit& circuit)
{
    const job::Click& click = *s.last;
    if (click.answered == std::vector{circuit.id}) {
        s.state = State::Done;
        return;
    }
    s.state = State::Failing;
    if (click.answered.empty()) {
        s.reason = phrase("nothing answered to {}", seatWords(job, circuit));
        s.todo = phrase("Read its winding with the battery off and its feed with the key on: an open wire, a feed that "
                        "is off, or an output that does not switch.");
        return;
    }
    const job::Circuit* other = job::find(job, click.answered.front());
    if (click.answered.size() == 1 && other != nullptr) {
        judgeAnother(s, job, latest, circuit, *other);
        return;
    }
    s.reason = phrase("{} works more than one part: {}", seatWords(job, circuit), names(job, click.answered));
    s.todo = phrase("Look for wires that touch, or that share a splice, between them.");
}

} // namespace

std::vector<Standing> standings(const job::Job& job, const job::Facts& facts)
{
    Latest latest; // newer clicks are appended
    for (const job::Click& click : job.clicks)
        latest[click.circuit] = &click;
    const auto circuits = inOrder(job);
    std::vector<Standing> out(circuits.size());
    for (size_t i = 0; i < out.size(); ++i) {
        Standing& s = out[i];
        s.circuit = circuits[i]->id;
        const job::Click* last = lastOf(latest, s.circuit);
        if (last == nullptr)
            continue;
        s.last = *last;
        if (const auto changed = job::changes(last->restsOn.facts(), facts); !changed.empty()) {
            s.state = State::Stale;
            s.reason = changed.front();
            s.todo = phrase("Click it again.");
            latest.erase(s.circuit); // it says nothing of the others either
        }
    }
    for (size_t i = 0; i < out.size(); ++i)
        if (out[i].last && out[i].state != State::Stale)
            judge(out[i], job, latest, *circuits[i]);
    return out;
}

std::optional<size_t> nextOf(const std::vector<Standing>& standings)
{
    const auto open = std::ranges::find_if(standings, [](const Standing& s) { return s.state != State::Done; });
    return open == standings.end() ? std::nullopt : std::optional(static_cast<size_t>(open - standings.begin()));
}

job::Click record(const job::Job& job, const job::Facts& facts, const electrics::Wiring& wiring,
                  const job::Circuit& circuit, std::vector<CircuitId> answered, std::string when)
{
    std::set<std::string> subjects = {"circuit " + circuit.id.value, "output " + circuit.output.value};
    for (const electrics::Path& path : wiring.paths(circuit))
        subjects.insert(path.subjects.begin(), path.subjects.end());
    if (const parts::Part* part = job::actuatorOf(job, circuit))
        subjects.insert(job::partSubject(*part, circuit.device));
    subjects.erase("ECU"); // its firmware moves no wire
    std::ranges::sort(answered);
    return {circuit.id, std::move(answered), std::move(when),
            job::RestsOn(job::factsOf(facts, {subjects.begin(), subjects.end()}))};
}

namespace {

/// The bank of an injector or a coil; empty for anything else.
std::string bankOf(const job::Job& job, const CircuitId& id)
{
    const job::Circuit* circuit = job::find(job, id);
    return circuit == nullptr || !job.brief ? std::string() : brief::bankOfDriven(circuit->function, *job.brief);
}

/// Two exchanged pairs or more, each across the banks and none within: whole plugs are exchanged, and not their wires.
/// Who is told of so.
std::set<CircuitId> banksExchanged(std::vector<findings::Finding>& out, const job::Job& job,
                                   const std::vector<Standing>& standings)
{
    std::set<CircuitId> across;
    for (const Standing& s : standings) {
        if (s.state != State::Failing || bankOf(job, s.circuit).empty())
            continue;
        if (s.ring.size() != 2 || bankOf(job, s.ring[0]) == bankOf(job, s.ring[1]))
            return {};
        across.insert(s.circuit);
    }
    constexpr size_t kTwoPairs = 4;
    if (across.size() < kTwoPairs)
        return {};
    const auto& banks = job.brief->banks;
    out.push_back({"banks-exchanged", findings::Severity::Stop, *across.begin(),
                   phrase("{} and {} are exchanged: {} outputs each work the other side's part", banks[0].name,
                          banks[1].name, std::to_string(across.size())),
                   phrase("Which side is the first bank differs from maker to maker. Fuel and spark go to the wrong "
                          "cylinders."),
                   phrase("Exchange the two sides' plugs where the harness parts, or the names of the banks at Brief, "
                          "whichever is wrong. Then click them again.")});
    return across;
}

} // namespace

void check(std::vector<findings::Finding>& out, const job::Job& job, const std::vector<Standing>& standings)
{
    std::set<CircuitId> told = banksExchanged(out, job, standings);
    for (const Standing& s : standings) {
        if (s.state != State::Failing || told.contains(s.circuit))
            continue;
        told.insert(s.ring.begin(), s.ring.end());
        const bool silent = s.last->answered.empty();
        const parts::PartUse use = job::actuatorOf(job, *job::find(job, s.circuit))->kind;
        const bool fires = use == parts::PartUse::Injector || use == parts::PartUse::IgnitionCoil;
        out.push_back({silent ? "click-silent" : "click-exchanged",
                       silent ? findings::Severity::Fix : findings::Severity::Stop, s.circuit,
                       phrase("{}: {}", job::find(job, s.circuit)->name, s.reason),
                       silent  ? phrase("What does not move when it is switched on does not work when the engine runs.")
                       : fires ? phrase("Fuel and spark go to the wrong cylinder: it backfires, or does not start.")
                               : phrase("The ECU switches something else than it means to."),
                       s.todo});
    }
}

} // namespace vicegrip::clicks
