#include "core/harness/resistors.h"

#include "core/base/phrase.h"
#include "core/electrics/wiring.h"
#include "core/harness/edits.h"
#include "core/harness/places.h"
#include "core/wires/colour_plan.h"

#include <algorithm>

namespace vicegrip::harness {
namespace {

using job::PointRef;
using parts::EcuPinRole;

/// A splice in the signal wire beside the input's cavity; what led to the cavity ends there now.
PointRef spliceBefore(job::Job& job, const PointRef& cavity, const std::string& label)
{
    const PointRef splice{freeName(job, "S"), {}};
    job.joints.push_back({splice.owner, label, job::JointKind::Splice, {}});
    for (job::Wire& w : job.wires)
        for (PointRef* end : {&w.from, &w.to})
            if (*end == cavity)
                *end = splice;
    return splice;
}

Result<void> unseated(const job::CircuitId& id, const job::Circuit* circuit)
{
    return fail(ErrorCode::Reference,
                circuit == nullptr ? phrase("there is no circuit \"{}\"", id.value)
                                   : phrase("\"{}\" has no seat: a resistor is added beside one", circuit->name));
}

constexpr double kShort_m = 0.1; ///< from a splice beside the plug to its cavity

} // namespace

Result<void> addPullUp(job::Job& job, const job::CircuitId& id, double ohm, double tolerance)
{
    const job::Circuit* circuit = job::find(job, id);
    if (circuit == nullptr || circuit->input.empty())
        return unseated(id, circuit);
    if (const job::Resistor* there = electrics::Wiring(job).pullUp(*circuit)) {
        const auto same = std::ranges::find(job.resistors, there->id, &job::Resistor::id);
        same->ohm = ohm;
        same->tolerance = tolerance;
        return {};
    }
    const PointRef cavity = job::cavityOf(job, circuit->input);
    const PointRef supply = sensorSplice(job, *job::unitOf(job, circuit->input), EcuPinRole::SensorSupply);
    const PointRef splice = spliceBefore(job, cavity, "Pull-up of " + circuit->name);
    drawWire(job, splice, cavity, kShort_m, kPlannedArea_m2, wires::freeColour(job, splice, cavity));
    job.resistors.push_back(
        {freeName(job, "R"), "Pull-up of " + circuit->name, job::ResistorKind::PullUp, supply, splice, ohm, tolerance});
    if (parts::EcuInput* input = job::findInput(job, circuit->input); !input->pullUpFixed)
        input->pull_up_ohm.reset();
    return {};
}

Result<void> addDivider(job::Job& job, const job::CircuitId& id, double series_ohm, double toGround_ohm,
                        double tolerance)
{
    const job::Circuit* circuit = job::find(job, id);
    if (circuit == nullptr || circuit->input.empty())
        return unseated(id, circuit);
    const PointRef cavity = job::cavityOf(job, circuit->input);
    const PointRef ground = sensorSplice(job, *job::unitOf(job, circuit->input), EcuPinRole::SensorGround);
    const PointRef before = spliceBefore(job, cavity, "Divider of " + circuit->name + ", sensor side");
    const PointRef middle{freeName(job, "S"), {}};
    job.joints.push_back({middle.owner, "Divider of " + circuit->name + ", ECU side", job::JointKind::Splice, {}});
    drawWire(job, middle, cavity, kShort_m, kPlannedArea_m2, wires::freeColour(job, middle, cavity));
    job.resistors.push_back({freeName(job, "R"), "Divider of " + circuit->name, job::ResistorKind::Series, before,
                             middle, series_ohm, tolerance});
    job.resistors.push_back({freeName(job, "R"), "Divider of " + circuit->name, job::ResistorKind::ToGround, middle,
                             ground, toGround_ohm, tolerance});
    return {};
}

Result<void> addSeries(job::Job& job, const job::CircuitId& id, double ohm, double tolerance)
{
    const job::Circuit* circuit = job::find(job, id);
    if (circuit == nullptr || circuit->output.empty())
        return unseated(id, circuit);
    const PointRef cavity = job::cavitiesOf(job, circuit->output).front();
    double area_m2 = kPlannedArea_m2;
    for (const job::Wire& w : job.wires)
        if (w.from == cavity || w.to == cavity)
            area_m2 = std::max(area_m2, w.area_m2);
    const PointRef before = spliceBefore(job, cavity, "Resistor of " + circuit->name + ", its side");
    const PointRef after{freeName(job, "S"), {}};
    job.joints.push_back({after.owner, "Resistor of " + circuit->name + ", ECU side", job::JointKind::Splice, {}});
    drawWire(job, after, cavity, kShort_m, area_m2, wires::freeColour(job, after, cavity));
    job.resistors.push_back(
        {freeName(job, "R"), "Resistor of " + circuit->name, job::ResistorKind::Series, before, after, ohm, tolerance});
    return {};
}

} // namespace vicegrip::harness
