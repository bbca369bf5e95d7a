#include "core/diagnosis/reach.h"

#include "core/work/sites.h"

namespace vicegrip::diagnosis {
namespace {

constexpr double kReported_s = 3, kProbe_s = 20, kDash_s = 60, kUnderCar_s = 300, kSleeve_s = 240, kBuried_s = 1800,
                 kOtherCondition_s = 60; // typical

double placeSeconds(const job::Job& job, const job::Circuit& circuit, const job::PointRef& at)
{
    if (const job::Joint* joint = job::findJoint(job, at.owner))
        return joint->kind == job::JointKind::Splice ? kSleeve_s : kProbe_s;
    const job::Connector* plug = job::findConnector(job, at.owner);
    if (plug == nullptr)
        return kProbe_s;
    if (plug->kind == job::ConnectorKind::Ecu)
        return kDash_s;
    if (plug->kind == job::ConnectorKind::Inline)
        return kProbe_s;
    const std::string place = plug->place.empty() ? work::siteOf(circuit).place : plug->place;
    return place == work::kIntake || place == work::kFront ? kBuried_s
           : place == work::kUnder                         ? kUnderCar_s
           : place == work::kCabin                         ? kDash_s
                                                           : kProbe_s;
}

} // namespace

double secondsFor(const job::Job& job, const Spot& spot, job::Condition now)
{
    const double there = spot.place.station.kind == proof::StationKind::Probe
                             ? placeSeconds(job, *job::find(job, spot.circuit), spot.place.station.point)
                             : kReported_s;
    return there + (spot.place.condition == now ? 0 : kOtherCondition_s);
}

} // namespace vicegrip::diagnosis
