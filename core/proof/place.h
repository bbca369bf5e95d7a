#pragma once

#include "core/electrics/electrics.h"
#include "core/electrics/wiring.h"
#include "core/job/job.h"

#include <string>
#include <string_view>
#include <vector>

/// Every place a circuit can be read at, where the leads go, and whether anything can be promised there. That takes no
/// more than the wiring: what must be read is worked out for those who ask (expected.h).
namespace vicegrip::proof {

/// What stands for a station where an output is clicked.
inline constexpr std::string_view kClick = "click";
/// And where an input is watched while hands move its wires.
inline constexpr std::string_view kWiggle = "wiggle";

enum class StationKind {
    Probe, ///< a meter's red lead goes there
    Input, ///< volts the ECU reports
    Counts, ///< counts the ECU reports
    Value ///< the scaled value the ECU reports
};

struct Station
{
    std::string key; ///< as kept in job::Proof
    StationKind kind = StationKind::Probe;
    parts::PinRole role = parts::PinRole::Signal;
    job::PointRef point; ///< for Probe
    std::string label; ///< "Cavity A7"
    bool operator==(const Station&) const = default;
};

struct Place
{
    Station station;
    job::Condition condition = job::Condition::KeyOn;
    units::Dimension dimension = units::Dimension::Voltage;
    std::string unit;
    job::PointRef blackPoint; ///< where the black lead goes; empty for what the ECU reports
    std::string black; ///< the same as people say it: "Battery –"
    bool needed = false; ///< proving these proves the circuit
    std::string trouble; ///< why nothing can be promised here

    bool operator==(const Place&) const = default;
    [[nodiscard]] bool promises() const { return trouble.empty(); }

    /// `si`, as read here; infinite: open.
    [[nodiscard]] job::Reading reading(double si) const;
};

/// The places of a circuit under one condition: signal from sensor to value, then supply, then ground. `car` is the car
/// with the key on, whatever the engine does; null for ohms. Without a table counts and volts are still promised.
[[nodiscard]] std::vector<Place> places(const job::Job& job, const electrics::Electrics* car, job::Condition condition,
                                        const job::Circuit& circuit, const std::vector<electrics::Path>& paths,
                                        bool hasTable);

} // namespace vicegrip::proof
