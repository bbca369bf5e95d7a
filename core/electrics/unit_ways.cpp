#include "core/electrics/unit_ways.h"

namespace vicegrip::electrics {

std::vector<Path> unitWays(const job::Job& job, const Wiring& wiring, const job::Circuit& circuit)
{
    std::vector<Path> out;
    const parts::Ecu* unit =
        circuit.output.empty() ? job::unitOf(job, circuit.input) : job::unitOf(job, circuit.output);
    if (unit == nullptr)
        return out;
    const auto post = [&](job::JointKind kind) {
        return [&wiring, kind](const job::PointRef& p) {
            const job::Joint* j = wiring.joint(p);
            return j != nullptr &&
                   (j->kind == kind || (kind == job::JointKind::BatteryNegative && j->kind == job::JointKind::Stud));
        };
    };
    for (const parts::EcuPin& pin : unit->pins)
        if (pin.role == parts::EcuPinRole::PowerFeed)
            out.push_back(wiring.way(job::PointRef::fromText(pin.at), post(job::JointKind::BatteryPositive)));
        else if (pin.role == parts::EcuPinRole::PowerGround)
            out.push_back(wiring.way(job::PointRef::fromText(pin.at), post(job::JointKind::BatteryNegative)));
    return out;
}

} // namespace vicegrip::electrics
