#include "core/harness/bus_wires.h"

#include "core/base/phrase.h"
#include "core/harness/missing_wires.h"
#include "core/harness/places.h"

#include <algorithm>

namespace vicegrip::harness {
namespace {

using job::PointRef;

bool isSplice(const job::Job& job, const PointRef& place)
{
    const job::Joint* joint = job::findJoint(job, place.owner);
    return joint != nullptr && joint->kind == job::JointKind::Splice;
}

} // namespace

PointRef joinBus(job::Job& job, const job::Circuit& circuit, parts::PinRole role)
{
    for (auto last = job.circuits.crbegin(); last != job.circuits.crend(); ++last) {
        const job::Circuit& other = *last;
        if (other.id == circuit.id || other.output != circuit.output)
            continue;
        const PointRef plug = plugOf(job, other, role);
        const auto wire = std::ranges::find_if(
            job.wires, [&](const job::Wire& w) { return !plug.empty() && (w.from == plug || w.to == plug); });
        if (wire == job.wires.end())
            continue;
        const PointRef& far = wire->from == plug ? wire->to : wire->from;
        if (isSplice(job, far) && wire->length_m <= kLongestStub_m)
            return far;
        const PointRef splice{freeName(job, "S"), {}};
        const job::Wire cut = *wire;
        (wire->from == plug ? wire->from : wire->to) = splice;
        job::Joint& joint = job.joints.emplace_back();
        joint.id = splice.owner;
        joint.label = phrase("Y lead of the bus");
        drawWire(job, splice, plug, kPlannedStub_m, cut.area_m2, cut.colour);
        return splice;
    }
    return job::seatCavities(job, circuit).at(parts::legOf(role));
}

} // namespace vicegrip::harness
