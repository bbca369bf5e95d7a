#pragma once

#include "core/circuit/bounds.h"
#include "core/electrics/electrics.h"

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <tuple>
#include <vector>

namespace vicegrip::electrics {

/// Where the meter's red and black lead are.
struct Leads
{
    job::PointRef red, black;
};

/// Where a circuit's signal is seen as its input sees it: at the ECU's cavity, a coil's between its two wires there,
/// any other against the battery's negative post. None: it has no seat, or a coil's ground is not drawn.
[[nodiscard]] std::optional<Leads> leadsAtInput(const job::Job& job, const job::Circuit& circuit);

/// What a meter and the ECU's inputs show of one car, with bounds. It keeps what it has worked out, since circuits
/// share splices and grounds: for one thread at a time, and the car must outlive it.
class Readings
{
  public:
    /// Without bounds it is quicker by far: values, what they rest on and how they spread are wanted then, and nothing
    /// else.
    explicit Readings(const Electrics& car, bool withBounds = true);

    [[nodiscard]] const Electrics& car() const { return m_car; }

    /// What a meter shows between two places each. No value when a place is not in the network. Several together are
    /// quicker than one by one.
    [[nodiscard]] std::vector<std::optional<Bounded>> voltmeters(const std::vector<Leads>& leads,
                                                                 const job::Meter& meter);
    [[nodiscard]] std::vector<std::optional<Bounded>> ohmmeters(const std::vector<Leads>& leads);

    /// What the ECU takes the input's voltage for, in volts of its nominal full scale: a ratiometric input divides by
    /// its own supply. No value with the ECU off.
    [[nodiscard]] std::optional<Bounded> inputVolts(const job::Job& job, const job::Circuit& circuit);

    /// Its bounds while only those elements are off their nominal values whose label `moves` agrees to.
    [[nodiscard]] std::optional<circuit::Interval>
    inputRange(const job::Job& job, const job::Circuit& circuit,
               const std::function<bool(const std::string& label)>& moves);

    /// What moves the input's volts, and how far, thing by thing. The squares of `sigma` add up to that of
    /// inputVolts, where its bounds let it.
    /// Empty with the ECU off.
    [[nodiscard]] std::vector<Share> inputShares(const job::Job& job, const job::Circuit& circuit);

  private:
    struct Seen;

    [[nodiscard]] std::vector<std::optional<Bounded>> remembered(const std::vector<Leads>& leads,
                                                                 std::optional<double> meter_ohm);
    [[nodiscard]] circuit::Bounds& bounds();
    [[nodiscard]] std::optional<Seen> seenAt(const job::Job& job, const job::Circuit& circuit);

    const Electrics& m_car;
    bool m_withBounds;
    std::optional<circuit::Bounds> m_bounds; ///< made when first asked for
    std::map<std::tuple<circuit::Node, circuit::Node, bool>, Bounded> m_known; ///< red, black, in Ohm
    std::map<size_t, circuit::Reading> m_supplies; ///< by unit
};

} // namespace vicegrip::electrics
