#include "bench/loose_wires.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::bench {
namespace {

constexpr double kMoved_s = 0.8, kAlone_s = 120, kOpen_s = 0.12; // between, and how long: means of exponentials

} // namespace

bool LooseWires::pass(double seconds, const faults::FaultList& faults)
{
    const auto happens = [&](double mean_s) {
        return std::bernoulli_distribution(1 - std::exp(-seconds / mean_s))(m_random);
    };
    const auto isOpen = [&](const faults::Loose& f) {
        return std::ranges::any_of(
            m_open, [&](const faults::Fault& open) { return std::get<faults::OpenWire>(open).wire == f.wire; });
    };
    faults::FaultList open;
    bool changed = false;
    for (const faults::Fault& fault : faults) {
        const auto* loose = std::get_if<faults::Loose>(&fault);
        if (loose == nullptr)
            continue;
        const bool was = isOpen(*loose);
        const bool is = was ? !happens(kOpen_s) : happens(m_held.contains(loose->heldAs()) ? kMoved_s : kAlone_s);
        if (is)
            open.push_back(faults::OpenWire{loose->wire});
        changed = changed || was != is;
    }
    changed = changed || open.size() != m_open.size(); // one that was open has been mended
    m_open = std::move(open);
    return changed;
}

} // namespace vicegrip::bench
