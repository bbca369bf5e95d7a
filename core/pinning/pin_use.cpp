#include "core/pinning/pin_use.h"

#include "core/base/phrase.h"
#include "core/electrics/wiring.h"

#include <set>

namespace vicegrip::pinning {
namespace {

using parts::EcuPinRole;
using parts::PinRole;

struct Served
{
    PinRole role = PinRole::Signal;
    std::set<job::CircuitId> circuits;
};

std::string shared(PinRole role, size_t circuits)
{
    const std::string n = std::to_string(circuits);
    return role == PinRole::Ground   ? phrase("Sensor ground of {}", n)
           : role == PinRole::Supply ? phrase("Sensor supply of {}", n)
                                     : phrase("Signal of {}", n);
}

std::string ofUnit(EcuPinRole role)
{
    switch (role) {
    case EcuPinRole::SensorSupply:
        return phrase("Sensor supply");
    case EcuPinRole::SensorGround:
        return phrase("Sensor ground");
    case EcuPinRole::PowerFeed:
        return phrase("Power feed");
    case EcuPinRole::KeyFeed:
        return phrase("Key feed");
    case EcuPinRole::PowerGround:
        return phrase("Power ground");
    case EcuPinRole::Input:
    case EcuPinRole::Output:
        break;
    }
    return {};
}

} // namespace

std::string_view stateName(PinState state)
{
    switch (state) {
    case PinState::Open:
        return key("nothing");
    case PinState::BlankDue:
        return key("blank plug");
    case PinState::BlankIn:
        return key("blank plug in");
    case PinState::Planned:
        return key("planned");
    case PinState::InHand:
        return key("in hand");
    case PinState::Seated:
        return key("in, not counted again");
    case PinState::Counted:
        return key("in, counted twice");
    case PinState::Wrong:
        break;
    }
    return key("wrong");
}

std::map<job::PointRef, PinUse> pinUses(const job::Job& job)
{
    std::map<job::PointRef, PinUse> out;
    for (const parts::Ecu* unit : job::units(job))
        for (const parts::EcuPin& pin : unit->pins) {
            out[job::PointRef::fromText(pin.at)] = {
                pin.role == EcuPinRole::Input    ? phrase("Input {}, free", pin.input.value)
                : pin.role == EcuPinRole::Output ? phrase("Output {}, free", pin.output.value)
                                                 : ofUnit(pin.role),
                {}};
        }
    std::map<job::PointRef, Served> served;
    const auto paths = electrics::Wiring(job).paths();
    for (size_t i = 0; i < paths.size(); ++i)
        for (const electrics::Path& path : paths[i])
            for (const job::PointRef& place : path.points) {
                served[place].role = path.role;
                served[place].circuits.insert(job.circuits[i].id);
            }
    for (const auto& [place, who] : served) {
        const job::Circuit& first = *job::find(job, *who.circuits.begin());
        if (who.circuits.size() == 1)
            out[place] = {phrase("{}, {}", first.name, parts::roleWords(*job::partOf(job, first), who.role)), first.id};
        else
            out[place] = {shared(who.role, who.circuits.size()), {}};
    }
    return out;
}

} // namespace vicegrip::pinning
