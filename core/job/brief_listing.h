#pragma once

#include "core/job/brief_facts.h"

/// How the brief's members are listed in the file, and their names. Lengths and pressures in everyday units there.
namespace vicegrip::fields {

template <> struct EnumNames<job::Aspiration>
{
    static constexpr std::pair<job::Aspiration, std::string_view> kNames[] = {
        {job::Aspiration::Natural, "natural"},
        {job::Aspiration::Turbo, "turbo"},
        {job::Aspiration::Supercharged, "supercharged"}};
};

template <> struct EnumNames<job::Fuel>
{
    static constexpr std::pair<job::Fuel, std::string_view> kNames[] = {
        {job::Fuel::Petrol, "petrol"}, {job::Fuel::Flex, "flex"}, {job::Fuel::Ethanol, "ethanol"}};
};

template <> struct EnumNames<job::ThrottleKind>
{
    static constexpr std::pair<job::ThrottleKind, std::string_view> kNames[] = {{job::ThrottleKind::Cable, "cable"},
                                                                                {job::ThrottleKind::ByWire, "by-wire"}};
};

template <> struct EnumNames<job::AirMethod>
{
    static constexpr std::pair<job::AirMethod, std::string_view> kNames[] = {
        {job::AirMethod::SpeedDensity, "speed-density"},
        {job::AirMethod::MassAir, "mass-air"},
        {job::AirMethod::Hybrid, "hybrid"},
        {job::AirMethod::ThrottleAngle, "throttle-angle"}};
};

template <> struct EnumNames<job::IdleControl>
{
    static constexpr std::pair<job::IdleControl, std::string_view> kNames[] = {
        {job::IdleControl::None, "none"},
        {job::IdleControl::Valve, "valve"},
        {job::IdleControl::Stepper, "stepper"},
        {job::IdleControl::Throttle, "throttle"}};
};

template <> struct EnumNames<job::Ignition>
{
    static constexpr std::pair<job::Ignition, std::string_view> kNames[] = {
        {job::Ignition::Distributor, "distributor"},
        {job::Ignition::WastedSpark, "wasted-spark"},
        {job::Ignition::Sequential, "sequential"}};
};

template <> struct EnumNames<job::Gearbox>
{
    static constexpr std::pair<job::Gearbox, std::string_view> kNames[] = {{job::Gearbox::Manual, "manual"},
                                                                           {job::Gearbox::Automatic, "automatic"},
                                                                           {job::Gearbox::Sequential, "sequential"}};
};

template <> struct EnumNames<job::ChargeCooling>
{
    static constexpr std::pair<job::ChargeCooling, std::string_view> kNames[] = {
        {job::ChargeCooling::None, "none"}, {job::ChargeCooling::Air, "air"}, {job::ChargeCooling::Water, "water"}};
};

template <> struct EnumNames<job::HarnessKind>
{
    static constexpr std::pair<job::HarnessKind, std::string_view> kNames[] = {
        {job::HarnessKind::Adapter, "adapter"}, {job::HarnessKind::Tap, "tap"}, {job::HarnessKind::Full, "full"}};
};

} // namespace vicegrip::fields

namespace vicegrip::job {

template <class A> void listFields(A& a, Prices& p)
{
    a("hour", p.hour);
    a("connector", p.connector);
    a("tap", p.tap);
    a("terminal", p.terminal);
    a("metre", p.metre);
    a("adapter", p.adapter);
    a.rest(p.extra);
}

template <class A> void listFields(A& a, Bank& b)
{
    a("name", b.name);
    a("cylinders", b.cylinders);
    a.rest(b.extra);
}

template <class A> void listFields(A& a, Brief& b)
{
    a("cylinders", b.cylinders);
    a.scaled("displacement_l", b.displacement_m3, 1e-3);
    a("aspiration", b.aspiration);
    a.scaled("target_kpa", b.target_pa, 1e3);
    a.scaled("overshoot_kpa", b.overshoot_pa, 1e3);
    a("altitude_m", b.altitude_m);
    a("fuel", b.fuel);
    a.scaled("fuel_kpa", b.fuel_pa, 1e3);
    a("throttle", b.throttle);
    a("air_method", b.airMethod);
    a("idle", b.idle);
    a("ignition", b.ignition);
    a("firing_order", b.firingOrder);
    a("coil_driver", b.coilDriver);
    a("banks", b.banks);
    a("injectors", b.injectors);
    a("injector_ohm", b.injector_ohm);
    a("fans", b.fans);
    a("tachometer", b.tachometer);
    a("warning_lamp", b.warningLamp);
    a("display", b.display);
    a("gearbox", b.gearbox);
    a("charge_cooling", b.chargeCooling);
    a("watch", b.watch);
    a("harness", b.harness);
    a("tuner", b.tuner);
    a("agreed", b.agreed);
    a("drawn", b.drawn);
    a("declined", b.declined);
    a("kept", b.kept);
    a("answers", b.answers);
    a("prices", b.prices);
    a.rest(b.extra);
}

} // namespace vicegrip::job
