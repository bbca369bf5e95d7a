#include "core/seating/driven_ways.h"

#include "core/base/phrase.h"
#include "core/feeds/feeds.h"
#include "core/harness/edits.h"
#include "core/harness/relay_feed.h"
#include "core/harness/resistors.h"
#include "core/harness/start.h"
#include "core/parts/e_series.h"
#include "core/seating/drivers.h"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace vicegrip::seating {
namespace {

using parts::DriverKind;
using parts::PartUse;

std::vector<const parts::EcuOutput*> freeOutputs(const job::Job& job)
{
    auto out = job::outputs(job);
    std::erase_if(out,
                  [&](const parts::EcuOutput* o) { return !o->isShared() && job::drivenBy(job, o->id) != nullptr; });
    return out;
}

bool canDrive(const job::Job& job, const job::Circuit& circuit, const parts::Part& part, const parts::EcuOutput& output)
{
    return compatibility(job, circuit, part, output).compatible();
}

const parts::EcuOutput* takerOf(const job::Job& job, const job::Circuit& circuit, const parts::Part& part)
{
    // Of those made for it the one that can do least else: an injector's output is no relay's.
    const auto price = [&](const parts::EcuOutput* o) {
        return std::tuple(detour(part, *o), o->drives.size(), o->most_hz);
    };
    const parts::EcuOutput* best = nullptr;
    for (const parts::EcuOutput* o : freeOutputs(job))
        if (canDrive(job, circuit, part, *o) && (best == nullptr || price(o) < price(best)))
            best = o;
    return best;
}

/// What may stand between the output and the part: a relay before what is only switched, a module before a coil.
bool standsBetween(const parts::Part& candidate, const parts::Part& part, const parts::Drive& drive)
{
    if (candidate.kind == PartUse::IgnitionModule)
        return part.kind == PartUse::IgnitionCoil && drive.driver == DriverKind::Ignition;
    return candidate.kind == PartUse::Relay && part.kind != PartUse::Relay && drive.driver == DriverKind::Switched &&
           drive.most_hz == 0;
}

WayOut otherVersion(const job::Circuit& circuit, const parts::Part& candidate, const parts::EcuOutput& output)
{
    return {circuit.id, OtherPart{candidate, output.id, 0}, phrase("Take another version: {}", candidate.name),
            phrase("Output {} drives it as it is. The part and its plug change.", output.id.value)};
}

WayOut inBetween(const job::Circuit& circuit, const parts::Drive& drive, const parts::Part& candidate,
                 const parts::EcuOutput& output)
{
    if (candidate.kind != PartUse::Relay)
        return {circuit.id, OtherPart{candidate, output.id, 0}, phrase("Put a module in between: {}", candidate.name),
                phrase("Output {} gives it its signal, and it switches the coil. It needs a feed and a ground of its "
                       "own, and metal to lose its heat to.",
                       output.id.value)};
    return {circuit.id, OtherPart{candidate, output.id, drive.amps},
            phrase("Put a relay in between: {}", candidate.name),
            phrase("Output {} switches its coil, and its contact {} from the battery over a fuse of {}. Fuse, contact, "
                   "plug and wires are drawn.",
                   output.id.value, units::format(drive.amps, units::Dimension::Current, "A", drive.amps < 10 ? 1 : 0),
                   units::format(feeds::leastRating(drive.amps), units::Dimension::Current, "A", 0))};
}

/// First what keeps the part, then two other versions of it.
void otherParts(std::vector<WayOut>& out, const job::Job& job, const job::Circuit& circuit, const parts::Part& part,
                const parts::Library& library)
{
    constexpr size_t kMost = 2;
    const parts::Drive drive = *parts::driveOf(part);
    std::vector<WayOut> versions;
    bool kept = false;
    for (const parts::Part& candidate : library.parts) {
        if (!parts::isDriven(candidate) || candidate.id == part.id || parts::isOnBus(candidate) != parts::isOnBus(part))
            continue;
        const bool stands = standsBetween(candidate, part, drive);
        if (!stands && candidate.kind != part.kind)
            continue;
        const parts::EcuOutput* taker = takerOf(job, circuit, candidate);
        if (taker == nullptr || (stands && (kept || feeds::leastRating(drive.amps) == 0)))
            continue;
        kept = kept || stands;
        if (stands)
            out.push_back(inBetween(circuit, drive, candidate, *taker));
        else if (versions.size() < kMost)
            versions.push_back(otherVersion(circuit, candidate, *taker));
    }
    std::ranges::move(versions, std::back_inserter(out));
}

/// Of an injector of low resistance: what brings it up to a plain driver's kind, and within what that carries.
void seriesResistor(std::vector<WayOut>& out, const job::Job& job, const job::Circuit& circuit, const parts::Part& part)
{
    constexpr double kTolerance = 0.05, kLeast_ohm = 1, kMost_ohm = 22;
    if (part.kind != PartUse::Injector || parts::driveOf(part)->driver != DriverKind::PeakAndHold)
        return;
    for (const double ohm : parts::preferredValues(parts::ESeries::E24, kLeast_ohm, kMost_ohm)) {
        const parts::Part behind = parts::behindResistor(part, ohm * (1 - kTolerance));
        const parts::EcuOutput* taker = takerOf(job, circuit, behind);
        if (taker == nullptr)
            continue;
        const double amps = parts::kCharging_v / (*parts::windingOhm(part) + ohm);
        const double heating_a = feeds::heating(parts::behindResistor(part, ohm));
        const double watts = heating_a * heating_a * ohm;
        out.push_back({circuit.id, SeriesResistor{taker->id, ohm, kTolerance},
                       phrase("Fit {} in series at {}", units::formatOhms(ohm), taker->id.value),
                       phrase("It draws {} then. The resistor gets {} hot at full load: one of {} or more in a metal "
                              "housing, on metal, clear of hands and wires. The injector opens later: its dead time is "
                              "to be measured again.",
                              feeds::ampsText(amps), units::formatNumber(watts, 0) + " W",
                              units::formatNumber(std::ceil(2 * watts / 5) * 5, 0) + " W")});
        return;
    }
}

void giveWay(std::vector<WayOut>& out, const job::Job& job, const job::Circuit& circuit, const parts::Part& part)
{
    for (const job::Circuit& other : job.circuits) {
        const parts::EcuOutput* output = job::findOutput(job, other.output);
        const parts::Part* there = job::actuatorOf(job, other);
        if (output == nullptr || there == nullptr || output->isShared() || other.locked || other.want <= circuit.want ||
            !canDrive(job, circuit, part, *output))
            continue;
        const parts::EcuOutput* refuge = takerOf(job, other, *there);
        out.push_back({circuit.id,
                       GiveWayOutput{other.id, output->id, refuge != nullptr ? refuge->id : parts::OutputId{}},
                       phrase("{} gives up {}", other.name, output->id.value),
                       refuge != nullptr ? phrase("{} moves to {}.", other.name, refuge->id.value)
                                         : phrase("{} is {} only, and is left without an output.", other.name,
                                                  phrase(fields::enumName(other.want)))});
        return;
    }
}

void outputExpanders(std::vector<WayOut>& out, const job::Circuit& circuit, const parts::Part& part,
                     const parts::Library& library)
{
    for (const parts::EcuProfile& profile : library.ecus) {
        if (!profile.ecu.expander)
            continue;
        const parts::EcuOutput* joins = parts::firstPort(profile.ecu); // the ECU's bus
        for (const parts::EcuOutput& o : profile.ecu.outputs)
            if (&o != joins &&
                compatibility(circuit, part, o, parts::cavitiesOf(profile.ecu, o.id).size()).compatible()) {
                out.push_back(
                    {circuit.id, OutputExpander{profile, o.id}, phrase("Add {}", profile.name),
                     o.isShared()
                         ? phrase("The vehicle's pair goes to its port {}, and its other one to the ECU's "
                                  "bus. It needs a feed and a ground, and must know the messages of both.",
                                  o.id.value)
                         : phrase("Its output {} drives this one. It needs a feed, a ground and two CAN wires, and "
                                  "an ECU whose firmware talks to it: ask the tuner.",
                                  o.id.value)});
                break;
            }
    }
}

} // namespace

std::vector<WayOut> drivenWaysOut(const job::Job& job, const job::Circuit& circuit, const parts::Part& part,
                                  const parts::Library& library)
{
    std::vector<WayOut> out;
    giveWay(out, job, circuit, part);
    seriesResistor(out, job, circuit, part);
    otherParts(out, job, circuit, part, library);
    outputExpanders(out, circuit, part, library);
    return out;
}

Result<void> apply(job::Job& job, const job::CircuitId& id, const OtherPart& measure)
{
    const job::Circuit before = *job::find(job, id);
    return harness::setSensor(job, id, measure.part)
        .and_then([&] { return harness::seat(job, id, measure.output); })
        .map([&] {
            if (measure.switched_a > 0)
                harness::addRelayFeed(job, job::Device(*job::find(job, before.device)), before.name, measure.switched_a,
                                      feeds::leastRating(measure.switched_a));
        });
}

Result<void> apply(job::Job& job, const job::CircuitId& id, const OutputExpander& measure)
{
    harness::addExpander(job, measure.profile);
    // Names may have got a number behind them: it is the output in the same place.
    for (size_t i = 0; i < measure.profile.ecu.outputs.size(); ++i)
        if (measure.profile.ecu.outputs[i].id == measure.output)
            return harness::seat(job, id, parts::OutputId(job.expanders.back().outputs[i].id));
    return fail(ErrorCode::Reference, phrase("the expander has no output \"{}\"", measure.output.value));
}

Result<void> apply(job::Job& job, const job::CircuitId& id, const SeriesResistor& measure)
{
    return harness::seat(job, id, measure.output).and_then([&] {
        return harness::addSeries(job, id, measure.ohm, measure.tolerance);
    });
}

Result<void> apply(job::Job& job, const job::CircuitId& id, const GiveWayOutput& measure)
{
    const auto moved = measure.otherTo.empty() ? harness::unseat(job, measure.other)
                                               : harness::seat(job, measure.other, measure.otherTo);
    return moved.and_then([&] { return harness::seat(job, id, measure.output); });
}

} // namespace vicegrip::seating
