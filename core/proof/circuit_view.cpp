#include "core/proof/circuit_view.h"

namespace vicegrip::proof {

const std::vector<Judged>& stations(const CircuitView& view, job::Condition condition)
{
    static const std::vector<Judged> kNone;
    const auto it = view.stations.find(condition);
    return it == view.stations.end() ? kNone : it->second;
}

int nextStation(const std::vector<Judged>& stations)
{
    int untouched = -1;
    for (size_t i = 0; i < stations.size(); ++i) {
        const Judged& j = stations[i];
        if (j.expectation.station.kind != StationKind::Probe || !j.expectation.promises())
            continue;
        const bool open = j.state == State::Untouched || j.state == State::Stale || j.state == State::Failing;
        if (j.expectation.needed && open)
            return static_cast<int>(i);
        if (open && untouched < 0)
            untouched = static_cast<int>(i);
    }
    return untouched;
}

} // namespace vicegrip::proof
