#pragma once

#include "core/job/job.h"

#include <string>
#include <vector>

namespace vicegrip::hand_test {

/// A sensor that is not plugged into its circuit: a battery feeds it, and a resistor pulls its signal up to that.
struct Loose
{
    double feed_v = 12.6;
    double feedWithin_v = 0.4;
    double pullUp_ohm = 2200;
    double pullUpWithin = 0.05; ///< share
};

/// What a meter must read while the engine is turned by hand, its tolerance counted in.
struct Due
{
    double tooth_v = 0, toothMost_v = 0; ///< while a tooth stands before the sensor
    double gap_v = 0, gapLeast_v = 0, gapMost_v = 0; ///< while none does
    job::PointRef red, black; ///< where its leads are; empty of a loose sensor
    std::vector<std::string> subjects; ///< fact subjects that it rests on
};

/// Whether a circuit's sensor reads a wheel and can be turned by hand at all: one that switches. A coil makes volts
/// only while it moves fast.
[[nodiscard]] bool switchesByHand(const job::Job& job, const job::Circuit& circuit);

/// In its circuit with the key on, at the sensor's plug against the battery's negative post: by the network, with its
/// own pull-up, grounds and wires. Errors (Range): it does not switch by hand, it has no supply, its wires lead
/// nowhere, or no pull-up parts its two levels.
[[nodiscard]] Result<Due> due(const job::Job& job, const job::Circuit& circuit);

/// At the sensor's own plug, the harness off: signal against ground. Errors (Range): the same.
[[nodiscard]] Result<Due> dueLoose(const job::Job& job, const job::Circuit& circuit, const Loose& loose);

/// The feed that such a sensor wants while it is loose: the battery, or 5 V.
[[nodiscard]] Loose looseFor(const job::Job& job, const job::Circuit& circuit);

/// What a reading shows.
enum class Shown { Tooth, Gap, Neither };
[[nodiscard]] Shown shownBy(const Due& due, double volts);

/// Why a reading is neither, and what hands do about it.
[[nodiscard]] std::string whyNeither(const Due& due, double volts);

} // namespace vicegrip::hand_test
