#include "core/proof/circuit_view.h"

namespace vicegrip::proof {

const std::vector<Standing>& stations(const CircuitView& view, job::Condition condition)
{
    static const std::vector<Standing> kNone;
    const auto it = view.stations.find(condition);
    return it == view.stations.end() ? kNone : it->second;
}

int nextStation(const std::vector<Standing>& stations)
{
    int untouched = -1;
    for (size_t i = 0; i < stations.size(); ++i) {
        const Standing& s = stations[i];
        if (s.place.station.kind != StationKind::Probe || !s.place.promises())
            continue;
        const bool open = s.state == State::Untouched || s.state == State::Stale || s.state == State::Failing;
        if (s.place.needed && open)
            return static_cast<int>(i);
        if (open && untouched < 0)
            untouched = static_cast<int>(i);
    }
    return untouched;
}

} // namespace vicegrip::proof
