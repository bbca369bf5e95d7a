#include "core/diagnosis/follow.h"

namespace vicegrip::diagnosis {

Followed follow(Finder& finder, std::vector<Taken> start, job::Condition now, const Shown& shown, int most)
{
    Followed out;
    out.taken = std::move(start);
    while (true) {
        out.last = finder.diagnosis(out.taken, now, 0);
        if (out.last.enough || out.probes == most)
            return out;
        if (out.last.probes.empty())
            return out;
        const Probe& p = out.last.probes.front();
        const proof::Place& place = p.spot.place; // an ECU that says nothing says something by that
        out.taken.push_back({p.spot.circuit, place.station.key,
                             shown(p.spot).value_or(job::Reading::beyond(place.dimension, place.condition))});
        out.seconds += p.seconds;
        ++out.probes;
        now = place.condition;
    }
}

} // namespace vicegrip::diagnosis
