#include "core/findings/bus_checks.h"

#include "core/base/phrase.h"
#include "core/harness/bus_wires.h"
#include "core/parts/transceiver.h"

#include <cmath>

namespace vicegrip::findings {
namespace {

using units::Dimension;

std::string across(const bus::Bus& bus)
{
    return std::isinf(bus.ohm) ? phrase("open") : units::format(bus.ohm, Dimension::Resistance, "Ω", 0);
}

std::string metres(double m)
{
    return units::format(m, Dimension::Length, "m", 2);
}

std::string terminator()
{
    return units::format(parts::kTerminator_ohm, Dimension::Resistance, "Ω", 0);
}

std::string fewer(const bus::Bus& bus)
{
    return phrase("Bus {} reads {} across high and low, where {} is due", bus.port.value, across(bus),
                  units::format(parts::kClosedBus_ohm, Dimension::Resistance, "Ω", 0));
}

/// The circuit of this end, or of anybody on the bus.
job::CircuitId circuitAt(const bus::Bus& bus, size_t node)
{
    if (!bus.nodes[node].circuit.empty())
        return bus.nodes[node].circuit;
    for (const bus::Node& n : bus.nodes)
        if (!n.circuit.empty())
            return n.circuit;
    return {};
}

void checkBusEnds(std::vector<Finding>& out, const job::Job& job, const bus::Bus& bus)
{
    const std::string why = phrase("A signal comes back from an end that nothing closes, and meets itself: the bus "
                                   "fails when it is warm, long or busy.");
    const auto at = [&](size_t node) {
        return phrase("{} ({})", bus.nodes[node].name, job::spoken(job, bus.nodes[node].high));
    };
    if (bus.open[0] && bus.open[1]) {
        out.push_back({"bus-ends", Severity::Fix, circuitAt(bus, *bus.open[1]),
                       bus.terminators.empty() ? phrase("{}: nothing closes it", fewer(bus))
                                               : phrase("Bus {}: nothing closes either end", bus.port.value),
                       why,
                       phrase("Fit {} across high and low at {} and at {}, and nowhere else.", terminator(),
                              at(*bus.open[0]), at(*bus.open[1]))});
        return;
    }
    for (const size_t end : {0U, 1U})
        if (const auto open = bus.open[end])
            out.push_back({"bus-ends", Severity::Fix, circuitAt(bus, *open),
                           bus.within.empty()
                               ? phrase("{}: the end at {} is open", fewer(bus), at(*open))
                               : phrase("Bus {} is closed by {}, {} from the end at {}", bus.port.value,
                                        bus.terminators[bus.within.front()].name,
                                        metres(bus.terminators[bus.within.front()].apart_m[end]), at(*open)),
                           why,
                           phrase("Fit {} across high and low at {}, or make the one that has it the last on the line.",
                                  terminator(), at(*open))});
    if (bus.open[0] || bus.open[1])
        return;
    if (bus.within.empty()) {
        if (std::abs(bus.ohm - parts::kClosedBus_ohm) > parts::kClosedWithin * parts::kClosedBus_ohm)
            out.push_back({"bus-ends", Severity::Fix, circuitAt(bus, 0),
                           phrase("{}: what closes its ends is not {}", fewer(bus), terminator()), why,
                           phrase("Fit {} at each end in their place.", terminator())});
    } else
        out.push_back(
            {"bus-ends", Severity::Fix, circuitAt(bus, 0),
             phrase("{}: {} closes it where it goes on", fewer(bus), bus.terminators[bus.within.front()].name),
             phrase("Each driver has to pull through all of them: what it reaches is too little at the far "
                    "end."),
             phrase("Take out or switch off the terminator of {}.", bus.terminators[bus.within.front()].name)});
}

} // namespace

void checkBuses(std::vector<Finding>& out, const job::Job& job, const std::vector<bus::Bus>& buses)
{
    for (const bus::Bus& bus : buses) {
        checkBusEnds(out, job, bus);
        for (const bus::Node& n : bus.nodes)
            if (n.stub_m > harness::kLongestStub_m)
                out.push_back({"bus-stub", Severity::Fix, n.circuit,
                               phrase("{} hangs {} beside the bus, and {} is the most at 1 Mbit/s", n.name,
                                      metres(n.stub_m), metres(harness::kLongestStub_m)),
                               phrase("A long lead beside the line sends every edge back into it."),
                               phrase("Bring the line to it and back, or let it be the end.")});
    }
}

} // namespace vicegrip::findings
