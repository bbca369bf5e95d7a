#include "core/seating/plan.h"

#include "core/base/phrase.h"
#include "core/harness/edits.h"
#include "core/seating/assignment.h"
#include "core/seating/compatibility.h"
#include "core/seating/drivers.h"

#include <algorithm>
#include <map>
#include <numeric>

namespace vicegrip::seating {
namespace {

constexpr double kMoving = 10; ///< what it costs to move a circuit, against one more thing an input could have done
constexpr double kUnwantedPullUp = 5;
constexpr double kDetour = 4; ///< of an output made for something else
constexpr int kAllowed_ms = 10000;
constexpr size_t kOnOneBus = 30; ///< more than anybody hangs on one

/// Inputs that are alike in everything that matters to a seat; or outputs.
struct Alike
{
    std::vector<const parts::EcuInput*> inputs;
    std::vector<const parts::EcuOutput*> outputs;
    int unit = 0;

    /// As many as like hang on a bus.
    [[nodiscard]] size_t seats() const { return shared() ? kOnOneBus : inputs.size() + outputs.size(); }
    [[nodiscard]] bool shared() const { return !outputs.empty() && outputs.front()->isShared(); }
};

bool alike(const parts::Ecu& unit, const parts::EcuOutput& a, const parts::EcuOutput& b)
{
    return a.drives == b.drives && a.functions == b.functions && a.most_a == b.most_a && a.most_hz == b.most_hz &&
           a.clamped == b.clamped && a.high_v == b.high_v && a.pull_up_ohm == b.pull_up_ohm &&
           parts::cavitiesOf(unit, a.id).size() == parts::cavitiesOf(unit, b.id).size();
}

/// How much else an output could drive: what is lost by giving it away. Amperes count little, so that of two that can
/// the weaker one is taken.
double versatility(const parts::EcuOutput& o)
{
    return static_cast<double>(o.drives.size()) + (o.most_hz > 0 ? 1 : 0) + (o.functions.empty() ? 2 : 0) +
           0.02 * o.most_a;
}

bool alike(const parts::EcuInput& a, const parts::EcuInput& b)
{
    return a.modes == b.modes && a.functions == b.functions && a.pullUpFixed == b.pullUpFixed &&
           a.pullUpChoices_ohm == b.pullUpChoices_ohm &&
           (a.pullUpChoices_ohm.empty() ? a.pull_up_ohm == b.pull_up_ohm : true) && a.span_v == b.span_v &&
           a.withstands_v == b.withstands_v && a.most_hz == b.most_hz && a.variableReluctance == b.variableReluctance;
}

/// How many kinds of sensor an input could serve: what is lost by giving it away.
double versatility(const parts::EcuInput& i)
{
    const bool pullUp = harness::suitingPullUp(i, true).has_value();
    return static_cast<double>(i.modes.size()) + (pullUp && !i.pullUpFixed ? 1 : 0) + (i.variableReluctance ? 1 : 0) +
           (i.functions.empty() ? 2 : 0);
}

struct Table
{
    std::vector<const job::Circuit*> circuits; ///< not locked
    std::vector<Alike> classes; ///< not locked
    Problem problem;
};

std::vector<Alike> classesOf(const job::Job& job)
{
    std::vector<Alike> out;
    const auto units = job::units(job);
    for (size_t u = 0; u < units.size(); ++u)
        for (const parts::EcuInput& input : units[u]->inputs) {
            const job::Circuit* there = job::seatedOn(job, input.id);
            if (there != nullptr && there->locked)
                continue;
            const auto same = std::ranges::find_if(out, [&](const Alike& c) {
                return c.unit == static_cast<int>(u) && !c.inputs.empty() && alike(*c.inputs.front(), input);
            });
            if (same != out.end())
                same->inputs.push_back(&input);
            else
                out.push_back({{&input}, {}, static_cast<int>(u)});
        }
    for (size_t u = 0; u < units.size(); ++u)
        for (const parts::EcuOutput& output : units[u]->outputs) {
            const job::Circuit* there = job::drivenBy(job, output.id);
            if (there != nullptr && there->locked && !output.isShared())
                continue;
            const auto same = std::ranges::find_if(out, [&](const Alike& c) {
                return c.unit == static_cast<int>(u) && !c.outputs.empty() && !output.isShared() &&
                       alike(*units[u], *c.outputs.front(), output);
            });
            if (same != out.end())
                same->outputs.push_back(&output);
            else
                out.push_back({{}, {&output}, static_cast<int>(u)});
        }
    return out;
}

bool holds(const Alike& seats, const job::Circuit& circuit)
{
    return std::ranges::any_of(seats.inputs, [&](const parts::EcuInput* i) { return i->id == circuit.input; }) ||
           std::ranges::any_of(seats.outputs, [&](const parts::EcuOutput* o) { return o->id == circuit.output; });
}

/// What an actuator costs on one of these outputs; none where they cannot drive it.
std::optional<double> costOf(const job::Job& job, const job::Circuit& circuit, const parts::Part& part,
                             const Alike& outputs)
{
    if (outputs.outputs.empty())
        return std::nullopt;
    const parts::EcuOutput& output = *outputs.outputs.front();
    if (!compatibility(job, circuit, part, output).compatible())
        return std::nullopt;
    return versatility(output) + kDetour * detour(part, output) +
           (job::isSeated(circuit) && !holds(outputs, circuit) ? kMoving : 0);
}

std::optional<double> costOf(const electrics::Wiring& wiring, const job::Circuit& circuit, const Alike& inputs)
{
    if (const auto part = asDriven(wiring, circuit))
        return costOf(wiring.job(), circuit, *part, inputs);
    if (inputs.inputs.empty())
        return std::nullopt;
    const parts::EcuInput& input = *inputs.inputs.front();
    if (!compatibility(wiring, circuit, input).compatible())
        return std::nullopt;
    double cost = versatility(input);
    if (job::isSeated(circuit) && !holds(inputs, circuit))
        cost += kMoving;
    if (input.pullUpFixed && !parts::needsPullUp(*job::sensorOf(wiring.job(), circuit)))
        cost += kUnwantedPullUp;
    return cost;
}

Table tableOf(const job::Job& job)
{
    Table t;
    const electrics::Wiring wiring(job);
    t.classes = classesOf(job);
    const auto units = job::units(job);
    for (const parts::Ecu* unit : units)
        t.problem.budgets.push_back(unit->supply.limit_a);
    for (const Alike& c : t.classes)
        t.problem.classes.push_back({static_cast<int>(c.seats()), c.unit});
    for (const job::Circuit& c : job.circuits) {
        if (c.locked) {
            for (size_t u = 0; u < units.size(); ++u)
                if (units[u] == job::unitOf(job, c.input))
                    t.problem.budgets[u] = std::max(0.0, t.problem.budgets[u] - supplyDraw(job, c, *units[u]));
            continue;
        }
        Item item{static_cast<int>(c.want), supplyDraw(job, c, job.ecu), {}}; // at the first unit's volts
        for (const Alike& inputs : t.classes)
            item.cost.push_back(costOf(wiring, c, inputs));
        t.circuits.push_back(&c);
        t.problem.items.push_back(std::move(item));
    }
    // What a sensor draws goes with its supply: the others' budgets are counted at the first unit's volts as well.
    for (size_t u = 0; u < units.size(); ++u)
        t.problem.budgets[u] *= job.ecu.supply.volts / units[u]->supply.volts;
    return t;
}

/// Who sits in the class already keeps his seat; the others take what is free, in the unit's order. A bus is free
/// whoever hangs on it.
template <class Item, class Id>
void placeAmong(const std::vector<const Item*>& all, std::vector<const job::Circuit*> members, Id job::Circuit::*has,
                Id Seat::*gets, bool shared, std::vector<Seat>& seats)
{
    std::vector<const Item*> free = all;
    const auto give = [&](const job::Circuit& c, const Id& id) {
        Seat seat;
        seat.circuit = c.id;
        seat.*gets = id;
        seats.push_back(std::move(seat));
        if (!shared)
            std::erase_if(free, [&](const Item* i) { return i->id == id; });
    };
    std::erase_if(members, [&](const job::Circuit* c) {
        const bool stays = std::ranges::any_of(all, [&](const Item* i) { return i->id == c->*has; });
        if (stays)
            give(*c, c->*has);
        return stays;
    });
    for (const job::Circuit* c : members)
        give(*c, Id(free.front()->id));
}

const job::Circuit* occupantOf(const job::Job& job, const Seat& seat)
{
    if (seat.output.empty())
        return job::seatedOn(job, seat.input);
    return job::findOutput(job, seat.output)->isShared() ? nullptr : job::drivenBy(job, seat.output);
}

bool keepsSeat(const job::Circuit& circuit, const Seat& seat)
{
    return circuit.input == seat.input && circuit.output == seat.output;
}

} // namespace

double supplyDraw(const job::Job& job, const job::Circuit& circuit, const parts::Ecu& unit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr || sensor->feed != parts::Feed::SensorSupply ||
        parts::cavityOf(*sensor, parts::PinRole::Supply).empty())
        return 0;
    return parts::supplyAmps(*sensor, unit.supply.volts);
}

Plan bestPlan(const job::Job& job, const Watch& watch)
{
    const Table table = tableOf(job);
    const Assignment found = assign(table.problem, kAllowed_ms, watch);
    Plan plan;
    plan.optimal = found.optimal;
    plan.cost = found.cost;
    std::map<int, std::vector<const job::Circuit*>> members;
    for (size_t i = 0; i < table.circuits.size(); ++i)
        if (found.classOf[i] >= 0)
            members[found.classOf[i]].push_back(table.circuits[i]);
        else
            plan.unseated.push_back(table.circuits[i]->id);
    for (const auto& [index, circuits] : members)
        if (const Alike& seats = table.classes[static_cast<size_t>(index)]; seats.outputs.empty())
            placeAmong(seats.inputs, circuits, &job::Circuit::input, &Seat::input, false, plan.seats);
        else
            placeAmong(seats.outputs, circuits, &job::Circuit::output, &Seat::output, seats.shared(), plan.seats);
    for (const job::Circuit& c : job.circuits)
        if (c.locked)
            plan.seats.push_back({c.id, c.input, c.output});
    for (const Seat& s : plan.seats) {
        const job::Circuit& c = *job::find(job, s.circuit);
        (c.want == job::Want::Required ? plan.required : c.want == job::Want::Wanted ? plan.wanted : plan.preferred)++;
        plan.moved += job::isSeated(c) && !keepsSeat(c, s) ? 1 : 0;
    }
    return plan;
}

Result<void> seat(job::Job& job, const job::CircuitId& id, const parts::InputId& to)
{
    if (auto seated = harness::seat(job, id, to); !seated)
        return seated;
    job::Circuit* circuit = job::find(job, id);
    parts::EcuInput* input = job::findInput(job, to);
    const parts::Part* sensor = job::sensorOf(job, *circuit);
    if (const auto edge = job::sharpEdge(*sensor); edge && !(circuit->trigger && circuit->trigger->edge)) {
        if (!circuit->trigger)
            circuit->trigger.emplace();
        circuit->trigger->edge = edge;
    }
    if (electrics::Wiring(job).pullUp(*circuit) != nullptr)
        return {};
    const auto choices = switchedPullUps(*sensor, circuit->scaling.low, circuit->scaling.high, *input,
                                         job::unitOf(job, to)->supply.volts);
    if (const auto best = finest(choices))
        input->pull_up_ohm = best->ohm;
    return {};
}

Result<void> take(job::Job& job, const Plan& plan)
{
    for (const job::CircuitId& id : plan.unseated)
        if (auto freed = harness::unseat(job, id); !freed)
            return freed;
    // Who moves gets up first, so that nobody is pushed off the seat he was given; his wire keeps hanging on the plug.
    std::vector<Seat> moving;
    for (const Seat& s : plan.seats)
        if (!keepsSeat(*job::find(job, s.circuit), s))
            moving.push_back(s);
    const auto inTheWay = [&](const Seat& s) {
        const job::Circuit* there = occupantOf(job, s);
        return there != nullptr && there->id != s.circuit;
    };
    while (!moving.empty()) {
        // A chain of moves is walked from its free end, so that wires move and are not drawn again; a ring is opened.
        auto next = std::ranges::find_if_not(moving, inTheWay);
        if (next == moving.end()) {
            if (auto up = harness::unseat(job, job::CircuitId(occupantOf(job, moving.front())->id)); !up)
                return up;
            next = moving.begin();
        }
        if (auto seated = next->output.empty() ? seat(job, next->circuit, next->input)
                                               : harness::seat(job, next->circuit, next->output);
            !seated)
            return seated;
        moving.erase(next);
    }
    return {};
}

std::vector<SupplyBudget> supplyBudgets(const job::Job& job)
{
    std::vector<SupplyBudget> out;
    for (const parts::Ecu* unit : job::units(job)) {
        SupplyBudget b{unit->name, 0, unit->supply.limit_a, 0, 0, 0};
        b.grounds =
            static_cast<int>(std::ranges::count(unit->pins, parts::EcuPinRole::SensorGround, &parts::EcuPin::role));
        for (const job::Circuit& c : job.circuits) {
            if (job::unitOf(job, c.input) != unit)
                continue;
            const double draw = supplyDraw(job, c, *unit);
            b.drawn_a += draw;
            b.circuits += draw > 0 ? 1 : 0;
            const parts::Part* s = job::sensorOf(job, c);
            b.groundUsers += s != nullptr && harness::onSensorGround(*s) ? 1 : 0;
        }
        out.push_back(std::move(b));
    }
    return out;
}

} // namespace vicegrip::seating
