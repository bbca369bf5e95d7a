#pragma once

#include "core/electrics/readings.h"
#include "core/job/facts.h"
#include "core/proof/place.h"
#include "core/scaling/table.h"

#include <optional>
#include <string>
#include <vector>

/// What must be read at every place a probe can reach, before it is touched.
namespace vicegrip::proof {

/// A promise: the reading due at a place, its bounds, and what it rests on. All void where the place promises nothing.
struct Expectation : Place
{
    job::Reading due;
    double low = 0, high = 0; ///< SI: the circuit's worst corner and the meter's error there; infinite: open is as good
    double sigma = 0; ///< standard deviation, the meter's not included
    std::optional<electrics::PulseLevels> switches; ///< of a signal that does: its volts, off and on, where nothing
                                                    ///< else is promised
    std::vector<std::string> subjects; ///< fact subjects it rests on

    [[nodiscard]] bool allows(const job::Reading& reading) const
    {
        return promises() && reading.dimension() == dimension && reading.si() >= low && reading.si() <= high;
    }
};

/// What a meter must show at a place where this is due, its own error at each end of the bounds; trouble where nothing
/// is.
void dueOnMeter(Expectation& e, const std::optional<electrics::Bounded>& reading, const job::Meter& meter);

/// What is promised at each of a circuit's places, all of them under one condition, in their order.
[[nodiscard]] std::vector<Expectation> expectations(const job::Job& job, electrics::Readings& readings,
                                                    const job::Circuit& circuit,
                                                    const std::vector<electrics::Path>& paths,
                                                    const scaling::Table* table, const std::vector<Place>& places);

/// The same of a car that cannot be solved.
[[nodiscard]] std::vector<Expectation> nothingPromised(const std::vector<Place>& places, const std::string& trouble);

/// "2.36 to 2.68 V".
[[nodiscard]] std::string boundsText(const Expectation& e);

/// "2.52 V"; "0.09 / 4.99 V" of a signal that switches; empty where nothing is promised.
[[nodiscard]] std::string dueText(const Expectation& e);

} // namespace vicegrip::proof
