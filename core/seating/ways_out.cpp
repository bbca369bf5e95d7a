#include "core/seating/ways_out.h"

#include "core/base/phrase.h"
#include "core/harness/edits.h"
#include "core/harness/resistors.h"
#include "core/harness/start.h"
#include "core/seating/compatibility.h"
#include "core/seating/driven_ways.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace vicegrip::seating {
namespace {

using units::Dimension;

std::vector<const parts::EcuInput*> freeInputs(const job::Job& job)
{
    std::set<parts::InputId> taken;
    for (const job::Circuit& c : job.circuits)
        taken.insert(c.input);
    auto out = job::inputs(job);
    std::erase_if(out, [&](const parts::EcuInput* i) { return taken.contains(i->id); });
    return out;
}

bool hasSupplyFor(const job::Job& job, const job::Circuit& circuit, const parts::EcuInput& input)
{
    const parts::Ecu* unit = job::unitOf(job, input.id);
    const auto all = job::units(job);
    const auto budgets = supplyBudgets(job);
    for (size_t u = 0; u < all.size(); ++u)
        if (all[u] == unit)
            return budgets[u].drawn_a + supplyDraw(job, circuit, *unit) <= budgets[u].limit_a;
    return true;
}

std::string volts(double v)
{
    return units::format(v, Dimension::Voltage, "V", 2);
}

/// The circuit as it would be with a pull-up in the harness at this input.
bool compatibleWithPullUp(const electrics::Wiring& wiring, const job::Circuit& circuit, const parts::EcuInput& input)
{
    parts::EcuInput with = input;
    with.pull_up_ohm = 1000;
    return !compatibility(wiring, circuit, input).compatible() && compatibility(wiring, circuit, with).compatible();
}

/// The pull-up this input would want in the harness: the best there is for a sensor with a resistance to read, any
/// clean level for a switch or an open collector.
AddedPullUp pullUpFor(const job::Job& job, const job::Circuit& circuit, const parts::Part& sensor,
                      const parts::EcuInput& input)
{
    constexpr double kTolerance = 0.01, kSwitching = 0.05;
    const parts::Ecu& unit = *job::unitOf(job, input.id);
    const double low = circuit.scaling.low, high = circuit.scaling.high;
    if (const auto best = bestPullUp(sensor, low, high, input, unit.supply.volts, kTolerance))
        return {*best, kTolerance, pullUpTable(sensor, low, high, input, unit, kTolerance)};
    PullUpChoice plain;
    plain.ohm = 2200;
    plain.high_v = unit.supply.volts;
    return {plain, kSwitching, {}};
}

std::string detailOf(const AddedPullUp& fitted, const parts::Part& sensor)
{
    const PullUpChoice& c = fitted.choice;
    return !fitted.weighed.empty() ? described(c, sensor)
                                   : phrase("Rises to {} and carries {} while it is pulled down.", volts(c.high_v),
                                            units::format(c.high_v / c.ohm, Dimension::Current, "mA", 1));
}

/// Title and detail of a way out that fits a pull-up, for the value it has now.
void describe(WayOut& way, const job::Job& job)
{
    const parts::Part& sensor = *job::sensorOf(job, *job::find(job, way.circuit));
    if (const auto* m = std::get_if<ExternalPullUp>(&way.measure)) {
        way.title = phrase("Fit a {} pull-up at {}", units::formatOhms(m->fitted.choice.ohm), m->input.value);
        way.detail = detailOf(m->fitted, sensor);
    } else if (const auto* g = std::get_if<GiveWay>(&way.measure)) {
        const job::Circuit& other = *job::find(job, g->other);
        way.title = phrase("{} gives up {}", other.name, g->input.value);
        way.detail = !g->otherTo.empty() ? phrase("{} moves to {}.", other.name, g->otherTo.value)
                                         : phrase("{} is {} only, and is left without an input.", other.name,
                                                  phrase(fields::enumName(other.want)));
        if (g->fitted) {
            way.title += phrase(", with a {} pull-up", units::formatOhms(g->fitted->choice.ohm));
            way.detail += " " + detailOf(*g->fitted, sensor);
        }
    }
}

void pullUps(std::vector<WayOut>& out, const electrics::Wiring& wiring, const job::Circuit& circuit,
             const parts::Part& sensor)
{
    const job::Job& job = wiring.job();
    for (const parts::EcuInput* input : freeInputs(job)) {
        if (!compatibleWithPullUp(wiring, circuit, *input))
            continue;
        WayOut way{circuit.id, ExternalPullUp{input->id, pullUpFor(job, circuit, sensor, *input)}, {}, {}};
        describe(way, job);
        out.push_back(std::move(way));
        return;
    }
}

void dividers(std::vector<WayOut>& out, const electrics::Wiring& wiring, const job::Circuit& circuit,
              const parts::Part& sensor)
{
    const double most = parts::mostVolts(sensor);
    for (const parts::EcuInput* input : freeInputs(wiring.job())) {
        if (most <= input->span_v || parts::traitsOf(sensor).alternating)
            continue;
        parts::EcuInput wide = *input;
        wide.span_v = wide.withstands_v = 2 * most;
        if (compatibility(wiring, circuit, *input).compatible() || !compatibility(wiring, circuit, wide).compatible())
            continue;
        // The lower resistor is a tenth of what the input itself loads it with, or less.
        const double below = parts::nearestValue(parts::ESeries::E96, std::min(10e3, input->pull_down_ohm / 20));
        const double loaded = below * input->pull_down_ohm / (below + input->pull_down_ohm);
        const auto above = parts::preferredValues(parts::ESeries::E96, loaded * (most / input->span_v - 1), 1e7);
        if (above.empty())
            continue;
        const double share = loaded / (loaded + above.front());
        out.push_back(
            {circuit.id, Divider{input->id, above.front(), below, 0.01},
             phrase("Fit a divider at {}: {} over {}", input->id.value, units::formatOhms(above.front()),
                    units::formatOhms(below)),
             phrase(
                 "Brings {} down to {} for an input that reads to {}; two 1 % resistors add up to {} % of the reading.",
                 volts(most), volts(most * share), volts(input->span_v), units::formatNumber(2 * (1 - share), 1))});
        return;
    }
}

void otherSensors(std::vector<WayOut>& out, const job::Job& job, const job::Circuit& circuit, const parts::Part& sensor,
                  const parts::Library& library)
{
    constexpr size_t kMost = 2;
    const bool bare = parts::traitsOf(sensor).alternating;
    const auto freeNow = freeInputs(job);
    const auto spans = [&](const parts::Part& candidate) {
        return candidate.id != sensor.id && candidate.kind == sensor.kind && candidate.measures == sensor.measures &&
               candidate.low <= circuit.scaling.low + 0.3 * (circuit.scaling.high - circuit.scaling.low) &&
               candidate.high >= circuit.scaling.high * 0.98;
    };
    for (const parts::EcuInput* i : freeNow)
        if (i->inside && spans(*i->inside) && kindCompatibility(circuit, *i->inside, *i).compatible())
            out.push_back(
                {circuit.id, OtherSensor{*i->inside, i->id},
                 phrase("Read the sensor inside the unit: {}", i->inside->name),
                 phrase("A hose leads to it, and no wire; range {}. The plug and its wires go.",
                        units::formatRange(i->inside->low, i->inside->high, i->inside->measures, i->inside->unit, 0))});
    const auto mayTake = [&](const parts::Part& candidate) {
        return std::ranges::any_of(
            freeNow, [&](const parts::EcuInput* i) { return kindCompatibility(circuit, candidate, *i).compatible(); });
    };
    std::vector<WayOut> found;
    for (const parts::Part& candidate : library.parts) {
        if (!spans(candidate) || !mayTake(candidate))
            continue;
        job::Job other = job;
        if (!harness::setSensor(other, circuit.id, candidate))
            continue;
        const job::Circuit& changed = *job::find(other, circuit.id);
        const electrics::Wiring wiring(other);
        const auto free = freeInputs(other);
        const auto taker = std::ranges::find_if(free, [&](const parts::EcuInput* input) {
            return compatibility(wiring, changed, *input).compatible() && hasSupplyFor(other, changed, *input);
        });
        if (taker == free.end())
            continue;
        const bool box = bare && candidate.conditioned;
        WayOut way{circuit.id, OtherSensor{candidate, (*taker)->id},
                   (box ? phrase("Put a conditioner in between: ") : phrase("Take another version: ")) + candidate.name,
                   phrase("Input {} reads it as it is; range {}{}", (*taker)->id.value,
                          units::formatRange(candidate.low, candidate.high, candidate.measures, candidate.unit, 0),
                          (box ? phrase(". The sensor stays; the box needs a feed and a ground of its own.")
                               : phrase(". The sensor and its plug change.")))};
        found.insert(box ? found.begin() : found.end(), std::move(way)); // what keeps the sensor is less trouble
    }
    for (size_t i = 0; i < std::min(found.size(), kMost); ++i)
        out.push_back(std::move(found[i]));
}

void expanders(std::vector<WayOut>& out, const electrics::Wiring& wiring, const job::Circuit& circuit,
               const parts::Library& library)
{
    for (const parts::EcuProfile& profile : library.ecus) {
        if (!profile.ecu.expander)
            continue;
        const auto taker = std::ranges::find_if(profile.ecu.inputs, [&](const parts::EcuInput& i) {
            return compatibility(wiring, circuit, i).compatible();
        });
        if (taker == profile.ecu.inputs.end())
            continue;
        out.push_back({circuit.id, Expander{profile, taker->id}, phrase("Add {}", profile.name),
                       phrase("Brings {} inputs; {} reads this one. It needs a feed, a ground and two CAN wires, and "
                              "an ECU whose firmware listens to it: ask the tuner.",
                              std::to_string(profile.ecu.inputs.size()), taker->id.value)});
    }
}

void giveWays(std::vector<WayOut>& out, const electrics::Wiring& wiring, const job::Circuit& circuit,
              const parts::Part& sensor)
{
    const job::Job& job = wiring.job();
    for (const job::Circuit& other : job.circuits) {
        const parts::EcuInput* input = job::findInput(job, other.input);
        if (input == nullptr || other.locked || other.want <= circuit.want)
            continue;
        const bool withPullUp = compatibleWithPullUp(wiring, circuit, *input);
        if (!withPullUp && !compatibility(wiring, circuit, *input).compatible())
            continue;
        const auto free = freeInputs(job);
        const auto refuge = std::ranges::find_if(
            free, [&](const parts::EcuInput* i) { return compatibility(wiring, other, *i).compatible(); });
        GiveWay measure{other.id, input->id, refuge != free.end() ? (*refuge)->id : parts::InputId{}, std::nullopt};
        if (withPullUp)
            measure.fitted = pullUpFor(job, circuit, sensor, *input);
        WayOut way{circuit.id, std::move(measure), {}, {}};
        describe(way, job);
        out.push_back(std::move(way));
        return;
    }
}

struct Apply
{
    job::Job& job;
    const job::CircuitId& id;

    Result<void> operator()(const ExternalPullUp& m) const
    {
        return seat(job, id, m.input).and_then([&] {
            return harness::addPullUp(job, id, m.fitted.choice.ohm, m.fitted.tolerance);
        });
    }
    Result<void> operator()(const OtherSensor& m) const
    {
        return harness::setSensor(job, id, m.sensor).and_then([&] { return seat(job, id, m.input); });
    }
    Result<void> operator()(const Divider& m) const
    {
        return seat(job, id, m.input).and_then([&] {
            return harness::addDivider(job, id, m.series_ohm, m.toGround_ohm, m.tolerance);
        });
    }
    Result<void> operator()(const Expander& m) const
    {
        harness::addExpander(job, m.profile);
        // Names may have got a number behind them: it is the input in the same place.
        for (size_t i = 0; i < m.profile.ecu.inputs.size(); ++i)
            if (m.profile.ecu.inputs[i].id == m.input)
                return seat(job, id, parts::InputId(job.expanders.back().inputs[i].id));
        return fail(ErrorCode::Reference, phrase("the expander has no input \"{}\"", m.input.value));
    }
    template <class Driven> Result<void> operator()(const Driven& m) const { return apply(job, id, m); }
    Result<void> operator()(const GiveWay& m) const
    {
        const auto moved = m.otherTo.empty() ? harness::unseat(job, m.other) : seat(job, m.other, m.otherTo);
        return moved.and_then([&] { return seat(job, id, m.input); }).and_then([&] {
            return m.fitted ? harness::addPullUp(job, id, m.fitted->choice.ohm, m.fitted->tolerance) : Result<void>{};
        });
    }
};

} // namespace

std::vector<WayOut> waysOut(const job::Job& job, const job::Circuit& circuit, const parts::Library& library)
{
    std::vector<WayOut> out;
    if (job::isSeated(circuit))
        return out;
    if (const parts::Part* part = job::actuatorOf(job, circuit))
        return drivenWaysOut(job, circuit, *part, library);
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr)
        return out;
    const electrics::Wiring wiring(job);
    pullUps(out, wiring, circuit, *sensor);
    dividers(out, wiring, circuit, *sensor);
    giveWays(out, wiring, circuit, *sensor);
    otherSensors(out, job, circuit, *sensor, library);
    expanders(out, wiring, circuit, library);
    return out;
}

const AddedPullUp* addedBy(const WayOut& way)
{
    if (const auto* m = std::get_if<ExternalPullUp>(&way.measure))
        return &m->fitted;
    const auto* g = std::get_if<GiveWay>(&way.measure);
    return g != nullptr && g->fitted ? &*g->fitted : nullptr;
}

WayOut withAnother(const job::Job& job, WayOut way, const PullUpChoice& choice)
{
    if (auto* m = std::get_if<ExternalPullUp>(&way.measure))
        m->fitted.choice = choice;
    else if (auto* g = std::get_if<GiveWay>(&way.measure); g != nullptr && g->fitted)
        g->fitted->choice = choice;
    describe(way, job);
    return way;
}

Result<void> apply(job::Job& job, const WayOut& way)
{
    const job::CircuitId id = way.circuit;
    return std::visit(Apply{job, id}, way.measure);
}

} // namespace vicegrip::seating
