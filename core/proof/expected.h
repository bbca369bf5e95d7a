#pragma once

#include "core/electrics/readings.h"
#include "core/electrics/wiring.h"
#include "core/job/facts.h"
#include "core/job/job.h"
#include "core/scaling/table.h"

#include <optional>
#include <string>
#include <vector>

/// What must be read at every place a probe can reach, before it is touched.
namespace vicegrip::proof {

/// From here on a hand meter shows overload (typical); what is recorded for it.
inline constexpr double kOverload_ohm = 20e6, kOpen_ohm = 1e9;

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
};

/// A promise: the reading, its bounds, and what it rests on.
struct Expectation
{
    Station station;
    units::Dimension dimension = units::Dimension::Voltage;
    std::string unit;
    double value = 0, low = 0, high = 0; ///< bounds: the circuit's worst corner, and the meter's own error there
    double sigma = 0; ///< standard deviation, the meter's not included
    job::PointRef blackPoint; ///< where the black lead goes; empty for what the ECU reports
    std::string black; ///< the same as people say it: "Battery –"
    bool needed = false; ///< proving these proves the circuit
    std::string trouble; ///< why nothing can be promised here; value and bounds are then void
    std::vector<std::string> subjects; ///< fact subjects it rests on

    [[nodiscard]] bool promises() const { return trouble.empty(); }
    [[nodiscard]] bool allows(double reading) const { return promises() && reading >= low && reading <= high; }
};

/// What a circuit's thread promises under one condition, sensor to value.
/// `table` is the circuit's scaling, where there is one; without it counts and volts are still promised.
[[nodiscard]] std::vector<Expectation> expectations(const job::Job& job, electrics::Readings& readings,
                                                    job::Condition condition, const job::Circuit& circuit,
                                                    const std::vector<electrics::Path>& paths,
                                                    const scaling::Table* table);

/// A reading as it is shown: three decimals for volts, Ohm or kOhm by size, "open" above 20 MOhm, counts whole, values
/// in the circuit's unit.
[[nodiscard]] std::string readingText(const Expectation& e, double value);

/// "2.36 to 2.68 V".
[[nodiscard]] std::string boundsText(const Expectation& e);

} // namespace vicegrip::proof
