#include "core/electrics/powered.h"

#include "core/circuit/bounds.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace vicegrip::electrics {
namespace {

/// A source that some good car leaves without enough supply, or another one has enough for, may be off or on: its
/// bounds are wide enough for both.
Result<circuit::Solution> orElseOff(circuit::Network& net, const std::vector<Powered>& powered,
                                    circuit::Solution solution)
{
    std::vector<circuit::Probes> probes;
    for (const Powered& p : powered)
        probes.push_back({p.supply, p.ground});
    constexpr double kNoLoad = 1e15, kDoubt = 2; // of the first order
    const auto supplies = solution.voltmeters(probes, kNoLoad);
    std::optional<circuit::Bounds> bounds; // most cars leave nothing in doubt
    bool changed = false;
    for (size_t i = 0; i < powered.size(); ++i) {
        const Powered& p = powered[i];
        if (!p.source || std::abs(supplies[i].value - p.least_v) > kDoubt * supplies[i].worstCase(solution.network()))
            continue;
        if (!bounds)
            bounds.emplace(solution);
        const auto [low, high] = bounds->voltmeter(probes[i], 0, supplies[i]);
        if (p.on ? low >= p.least_v : high < p.least_v)
            continue;
        const circuit::Element& e = net.element(*p.source);
        net.setBounds(*p.source, e.value, std::min(p.asOn.first, 0.0), std::max(p.asOn.second, 0.0));
        changed = true;
    }
    return changed ? circuit::solve(net) : Result<circuit::Solution>(std::move(solution));
}

} // namespace

/// Everything starts on; what turns out to have too little supply is switched off, until nothing changes. Switching off
/// only ever removes load, and nothing is switched on again, so this ends.
Result<circuit::Solution> solvePowered(circuit::Network& net, std::vector<Powered>& powered, bool bounded)
{
    for (Powered& p : powered)
        if (p.source)
            p.asOn = {net.element(*p.source).least, net.element(*p.source).most};
    for (;;) {
        auto solution = circuit::solve(net);
        if (!solution)
            return solution;
        bool changed = false;
        for (Powered& p : powered) {
            if (!p.on || solution->volts(p.supply, p.ground) >= p.least_v)
                continue;
            p.on = false;
            if (p.source)
                net.setValue(*p.source, 0);
            changed = true;
        }
        if (!changed && bounded)
            return orElseOff(net, powered, std::move(*solution));
        if (!changed)
            return solution;
    }
}

} // namespace vicegrip::electrics
