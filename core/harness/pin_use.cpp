#include "core/harness/pin_use.h"

#include "core/electrics/wiring.h"

#include <array>
#include <set>

namespace vicegrip::harness {
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
    const char* what = role == PinRole::Ground ? "Sensor ground" : role == PinRole::Supply ? "Sensor supply" : "Signal";
    return std::string(what) + " of " + std::to_string(circuits);
}

std::string ofUnit(EcuPinRole role)
{
    switch (role) {
    case EcuPinRole::SensorSupply:
        return "Sensor supply";
    case EcuPinRole::SensorGround:
        return "Sensor ground";
    case EcuPinRole::PowerFeed:
        return "Power feed";
    case EcuPinRole::PowerGround:
        return "Power ground";
    case EcuPinRole::Input:
        break;
    }
    return {};
}

std::string colourWord(std::string_view letters)
{
    static constexpr std::array<std::pair<std::string_view, std::string_view>, 12> kWords = {{{"BK", "black"},
                                                                                              {"BN", "brown"},
                                                                                              {"RD", "red"},
                                                                                              {"OG", "orange"},
                                                                                              {"YE", "yellow"},
                                                                                              {"GN", "green"},
                                                                                              {"BU", "blue"},
                                                                                              {"VT", "violet"},
                                                                                              {"GY", "grey"},
                                                                                              {"WH", "white"},
                                                                                              {"PK", "pink"},
                                                                                              {"TQ", "turquoise"}}};
    for (const auto& [code, word] : kWords)
        if (code == letters)
            return std::string(word);
    return std::string(letters);
}

} // namespace

std::map<job::PointRef, PinUse> pinUses(const job::Job& job)
{
    std::map<job::PointRef, PinUse> out;
    for (const parts::Ecu* unit : job::units(job))
        for (const parts::EcuPin& pin : unit->pins) {
            const parts::EcuInput* input = pin.input.empty() ? nullptr : job::findInput(job, pin.input);
            out[job::PointRef::fromText(pin.at)] = {
                input == nullptr ? ofUnit(pin.role) : "Input " + input->id.value + ", free", {}};
        }
    std::map<job::PointRef, Served> served;
    const electrics::Wiring wiring(job);
    for (const job::Circuit& c : job.circuits)
        for (const electrics::Path& path : wiring.paths(c))
            for (const job::PointRef& place : path.points) {
                served[place].role = path.role;
                served[place].circuits.insert(c.id);
            }
    for (const auto& [place, who] : served) {
        const job::Circuit& first = *job::find(job, *who.circuits.begin());
        if (who.circuits.size() == 1)
            out[place] = {first.name + ", " + std::string(fields::enumName(who.role)), first.id};
        else
            out[place] = {shared(who.role, who.circuits.size()), {}};
    }
    return out;
}

std::string colourName(std::string_view letters)
{
    const auto slash = letters.find('/');
    std::string out = colourWord(letters.substr(0, slash));
    if (slash != std::string_view::npos)
        out += ", " + colourWord(letters.substr(slash + 1)) + " tracer";
    return out;
}

} // namespace vicegrip::harness
