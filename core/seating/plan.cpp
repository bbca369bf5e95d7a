#include "core/seating/plan.h"

#include "core/base/phrase.h"
#include "core/harness/edits.h"
#include "core/seating/assignment.h"
#include "core/seating/compatibility.h"

#include <algorithm>
#include <map>
#include <numeric>

namespace vicegrip::seating {
namespace {

constexpr double kMoving = 10; ///< what it costs to move a circuit, against one more thing an input could have done
constexpr double kUnwantedPullUp = 5;
constexpr int kAllowed_ms = 10000;

/// Inputs that are alike in everything that matters to a seat.
struct AlikeInputs
{
    std::vector<const parts::EcuInput*> inputs;
    int unit = 0;
};

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
    std::vector<AlikeInputs> classes; ///< not locked
    Problem problem;
};

std::vector<AlikeInputs> classesOf(const job::Job& job)
{
    std::vector<AlikeInputs> out;
    const auto units = job::units(job);
    for (size_t u = 0; u < units.size(); ++u)
        for (const parts::EcuInput& input : units[u]->inputs) {
            const job::Circuit* there = job::seatedOn(job, input.id);
            if (there != nullptr && there->locked)
                continue;
            const auto same = std::ranges::find_if(out, [&](const AlikeInputs& c) {
                return c.unit == static_cast<int>(u) && alike(*c.inputs.front(), input);
            });
            if (same != out.end())
                same->inputs.push_back(&input);
            else
                out.push_back({{&input}, static_cast<int>(u)});
        }
    return out;
}

bool holds(const AlikeInputs& inputs, const parts::InputId& id)
{
    return std::ranges::any_of(inputs.inputs, [&](const parts::EcuInput* i) { return i->id == id; });
}

std::optional<double> costOf(const electrics::Wiring& wiring, const job::Circuit& circuit, const AlikeInputs& inputs)
{
    const parts::EcuInput& input = *inputs.inputs.front();
    if (!compatibility(wiring, circuit, input).compatible())
        return std::nullopt;
    double cost = versatility(input);
    if (!circuit.input.empty() && !holds(inputs, circuit.input))
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
    for (const AlikeInputs& c : t.classes)
        t.problem.classes.push_back({static_cast<int>(c.inputs.size()), c.unit});
    for (const job::Circuit& c : job.circuits) {
        if (c.locked) {
            for (size_t u = 0; u < units.size(); ++u)
                if (units[u] == job::unitOf(job, c.input))
                    t.problem.budgets[u] = std::max(0.0, t.problem.budgets[u] - supplyDraw(job, c, *units[u]));
            continue;
        }
        Item item{static_cast<int>(c.want), supplyDraw(job, c, job.ecu), {}}; // at the first unit's volts
        for (const AlikeInputs& inputs : t.classes)
            item.cost.push_back(costOf(wiring, c, inputs));
        t.circuits.push_back(&c);
        t.problem.items.push_back(std::move(item));
    }
    // What a sensor draws goes with its supply: the others' budgets are counted at the first unit's volts as well.
    for (size_t u = 0; u < units.size(); ++u)
        t.problem.budgets[u] *= job.ecu.supply.volts / units[u]->supply.volts;
    return t;
}

/// Who sits in the class already keeps his input; the others take what is free, in the unit's order.
void placeClass(const AlikeInputs& inputs, std::vector<const job::Circuit*> members, std::vector<Seat>& seats)
{
    std::vector<const parts::EcuInput*> free = inputs.inputs;
    std::erase_if(members, [&](const job::Circuit* c) {
        if (!holds(inputs, c->input))
            return false;
        seats.push_back({c->id, c->input});
        std::erase_if(free, [&](const parts::EcuInput* i) { return i->id == c->input; });
        return true;
    });
    for (size_t i = 0; i < members.size(); ++i)
        seats.push_back({members[i]->id, free[i]->id});
}

} // namespace

double supplyDraw(const job::Job& job, const job::Circuit& circuit, const parts::Ecu& unit)
{
    const parts::Sensor* sensor = job::sensorOf(job, circuit);
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
        placeClass(table.classes[static_cast<size_t>(index)], circuits, plan.seats);
    for (const job::Circuit& c : job.circuits)
        if (c.locked)
            plan.seats.push_back({c.id, c.input});
    for (const Seat& s : plan.seats) {
        const job::Circuit& c = *job::find(job, s.circuit);
        (c.want == job::Want::Required ? plan.required : c.want == job::Want::Wanted ? plan.wanted : plan.preferred)++;
        plan.moved += !c.input.empty() && c.input != s.input ? 1 : 0;
    }
    return plan;
}

Result<void> seat(job::Job& job, const job::CircuitId& id, const parts::InputId& to)
{
    if (auto seated = harness::seat(job, id, to); !seated)
        return seated;
    const job::Circuit* circuit = job::find(job, id);
    parts::EcuInput* input = job::findInput(job, to);
    const parts::Sensor* sensor = job::sensorOf(job, *circuit);
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
        if (job::find(job, s.circuit)->input != s.input)
            moving.push_back(s);
    const auto inTheWay = [&](const Seat& s) {
        const job::Circuit* there = job::seatedOn(job, s.input);
        return there != nullptr && there->id != s.circuit;
    };
    while (!moving.empty()) {
        // A chain of moves is walked from its free end, so that wires move and are not drawn again; a ring is opened.
        auto next = std::ranges::find_if_not(moving, inTheWay);
        if (next == moving.end()) {
            if (auto up = harness::unseat(job, job::CircuitId(job::seatedOn(job, moving.front().input)->id)); !up)
                return up;
            next = moving.begin();
        }
        if (auto seated = seat(job, next->circuit, next->input); !seated)
            return seated;
        moving.erase(next);
    }
    return {};
}

std::vector<Refusal> refusals(const job::Job& job, const job::Circuit& circuit)
{
    std::vector<Refusal> out;
    const electrics::Wiring wiring(job);
    const auto budgets = supplyBudgets(job);
    const auto units = job::units(job);
    std::map<parts::InputId, const job::Circuit*> seated;
    for (const job::Circuit& c : job.circuits)
        seated.try_emplace(c.input, &c);
    const auto judge = [&](const parts::EcuInput* input, double draw, const SupplyBudget& budget) {
        std::string reason = compatibility(wiring, circuit, *input).reason;
        const auto it = seated.find(input->id);
        const job::Circuit* there = it == seated.end() ? nullptr : it->second;
        if (reason.empty() && there != nullptr && there->id != circuit.id)
            reason = phrase("it is taken by {}{}", there->name, (there->locked ? ", locked" : ""));
        if (reason.empty() && circuit.input.empty() && draw > 0 && budget.drawn_a + draw > budget.limit_a)
            reason = phrase("the sensor supply would deliver {} of {}",
                            units::format(budget.drawn_a + draw, units::Dimension::Current, "mA", 0),
                            units::format(budget.limit_a, units::Dimension::Current, "mA", 0));
        if (!reason.empty())
            out.push_back({input->id, std::move(reason)});
    };
    for (size_t u = 0; u < units.size(); ++u) {
        const double draw = supplyDraw(job, circuit, *units[u]);
        for (const parts::EcuInput& input : units[u]->inputs)
            judge(&input, draw, budgets[u]);
    }
    return out;
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
            const parts::Sensor* s = job::sensorOf(job, c);
            b.groundUsers += s != nullptr && harness::onSensorGround(*s) ? 1 : 0;
        }
        out.push_back(std::move(b));
    }
    return out;
}

} // namespace vicegrip::seating
