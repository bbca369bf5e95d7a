#include "core/brief/harness_kind.h"

#include "core/base/phrase.h"
#include "core/harness/edits.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::brief {
namespace {

// Hours a piece (typical).
constexpr double kPinHours = 0.05, kTapHours = 0.25, kConnectorHours = 0.3, kRouteHours = 0.1;
// Chance that a made joint is a fault (typical), except for taps: about half of the jobs tapped by hand are revisited
// (common practice), which with the usual eight taps is this much each.
constexpr double kCrimpFault = 0.004;
const double kTapFault = 1 - std::pow(0.5, 1.0 / 8);

double chance(double each, int joints)
{
    return 1 - std::pow(1 - each, joints);
}

int wiresOf(const job::Job& job)
{
    int wires = 0;
    for (const job::Circuit& c : job.circuits)
        if (const parts::Part* s = job::partOf(job, c))
            wires += static_cast<int>(s->pins.size());
    return wires;
}

int ecuPlugs(const job::Job& job)
{
    return static_cast<int>(std::ranges::count(job.connectors, job::ConnectorKind::Ecu, &job::Connector::kind));
}

} // namespace

std::vector<HarnessOption> harnessOptions(const job::Job& job, const job::Brief& brief)
{
    const int circuits = static_cast<int>(job.circuits.size());
    const int wires = wiresOf(job), plugs = ecuPlugs(job);
    const job::Prices& price = brief.prices;
    std::vector<HarnessOption> out(3);

    HarnessOption& adapter = out[0];
    adapter.kind = job::HarnessKind::Adapter;
    adapter.name = phrase("Adapter lead");
    adapter.connectors = 2 * plugs; // each plug once more, with its other half
    adapter.joints = 0;
    adapter.hours = 0.5 + kConnectorHours * plugs;
    adapter.money = price.adapter * plugs + adapter.hours * price.hour;
    adapter.rework = chance(kCrimpFault, 2 * wires);
    adapter.reworkSource = phrase("made joints only, typical");
    adapter.reversible = phrase("Comes off again; the vehicle's harness is not touched.");
    adapter.possible = !job.ecu.plugIn;
    adapter.verdict = adapter.possible ? phrase("Doubles the connectors, and does not depend on a good tap.")
                                       : phrase("This ECU takes the vehicle's own plugs: there is nothing to adapt.");

    HarnessOption& tap = out[1];
    tap.kind = job::HarnessKind::Tap;
    tap.name = phrase("Tap or re-pin");
    tap.joints = circuits;
    tap.wire_m = circuits * harness::kPlannedLength_m;
    tap.hours = kTapHours * circuits;
    tap.money = price.tap * circuits + price.metre * tap.wire_m + tap.hours * price.hour;
    tap.rework = chance(kTapFault, circuits);
    tap.reworkSource = phrase("common practice: about half of hand taps are revisited");
    tap.reversible = phrase("Leaves marks: pierced insulation stays pierced.");
    tap.verdict =
        phrase("Cheapest, and the one people go back to; solder or crimp each tap, and test it before it is wrapped.");

    HarnessOption& full = out[2];
    full.kind = job::HarnessKind::Full;
    full.name = phrase("Full harness");
    full.connectors = plugs + circuits;
    full.joints = 2 * wires;
    full.wire_m = wires * harness::kPlannedLength_m;
    full.hours = kPinHours * full.joints + kConnectorHours * full.connectors + kRouteHours * circuits;
    full.money = price.connector * full.connectors + price.terminal * full.joints + price.metre * full.wire_m +
                 full.hours * price.hour;
    full.rework = chance(kCrimpFault, full.joints);
    full.reworkSource = phrase("made joints only, typical");
    full.reversible = phrase("The old harness comes out whole, and can go back.");
    full.possible = !job.ecu.plugIn;
    full.verdict = full.possible
                       ? phrase("Every joint is new and yours; nothing of an old harness is trusted.")
                       : phrase("The plug-in ECU keeps the vehicle's harness: a full one would throw that away.");

    for (HarnessOption& o : out)
        o.chosen = o.kind == brief.harness;
    return out;
}

} // namespace vicegrip::brief
