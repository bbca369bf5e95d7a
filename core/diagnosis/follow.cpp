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
        bool read = false;
        for (const Probe& p : out.last.probes) // what cannot be read is passed over
            if (const auto reading = shown(p.spot)) {
                out.taken.push_back({p.spot.circuit, p.spot.place.station.key, *reading});
                out.seconds += p.seconds;
                ++out.probes;
                now = p.spot.place.condition;
                read = true;
                break;
            }
        if (!read)
            return out;
    }
}

} // namespace vicegrip::diagnosis
