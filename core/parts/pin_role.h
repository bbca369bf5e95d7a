#pragma once

#include "core/base/fields.h"

#include <array>

/// What the terminals of a part are for.
namespace vicegrip::parts {

enum class PinRole {
    Signal, ///< what a sensor tells the ECU; what the ECU drives an actuator by
    Supply,
    Ground,
    Signal2, ///< further ones of an actuator that several outputs drive together: a motor, a stepper
    Signal3,
    Signal4
};

/// All of them, in the order people work through them.
inline constexpr std::array kPinRoles = {PinRole::Signal,  PinRole::Signal2, PinRole::Signal3,
                                         PinRole::Signal4, PinRole::Supply,  PinRole::Ground};

/// Whether the conductor leads to the circuit's seat at the ECU.
[[nodiscard]] constexpr bool isSignal(PinRole role)
{
    return role != PinRole::Supply && role != PinRole::Ground;
}

/// Which pin of its seat such a conductor leads to: 0 for the first.
[[nodiscard]] constexpr size_t legOf(PinRole role)
{
    return role == PinRole::Signal2 ? 1 : role == PinRole::Signal3 ? 2 : role == PinRole::Signal4 ? 3 : 0;
}

} // namespace vicegrip::parts

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::PinRole>
{
    static constexpr std::pair<vicegrip::parts::PinRole, std::string_view> kNames[] = {
        {vicegrip::parts::PinRole::Signal, "signal"},    {vicegrip::parts::PinRole::Supply, "supply"},
        {vicegrip::parts::PinRole::Ground, "ground"},    {vicegrip::parts::PinRole::Signal2, "signal-2"},
        {vicegrip::parts::PinRole::Signal3, "signal-3"}, {vicegrip::parts::PinRole::Signal4, "signal-4"}};
};
