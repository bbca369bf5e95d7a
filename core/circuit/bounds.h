#pragma once

#include "core/circuit/solution.h"

#include <map>
#include <memory>
#include <vector>

/// The least and the most a reading can be while every element lies within its bounds (Element::least, most) and those
/// that move together (Network::together) take one of their settings.
///
/// A reading of a linear network is a quotient of two functions that are linear in each element alone: (a + b p) /
/// (c + d p). It rises or falls all along each element, so its extremes lie where every element is at one of its ends,
/// at a corner. Which corner is found by climbing: the signs of the sensitivities say where to go; the network is
/// solved there, exactly; where a sign has turned on the way its element is turned back, until no single one would
/// lead farther.
///
///     Bounds bounds(solution);
///     const Interval volts = bounds.voltmeter({middle, kReference}, 10e6, solution.voltmeter(...));
///
/// A corner is solved as a change of low rank (Sherman, Morrison, Woodbury) of the elements that weigh in the reading;
/// those that weigh less than a part in two thousand, at the corner as well as nominally, enter by twice their first
/// order there, and the whole with a thousandth to spare.
namespace vicegrip::circuit {

struct Interval
{
    double low = 0, high = 0;
};

/// Which elements may move; none: all.
using Moving = std::vector<bool>;

/// Keeps what it has worked out for the next reading: not for two threads at once. `solution` must outlive it, and may
/// be moved.
class Bounds
{
  public:
    explicit Bounds(const Solution& solution);
    ~Bounds();
    Bounds(Bounds&&) noexcept;
    Bounds& operator=(Bounds&&) noexcept;

    /// Solves for several probes together, which is quicker than one by one as they are asked for.
    void prepare(const std::vector<Probes>& probes);

    /// Of Solution::voltmeter; `nominal` is what that returned.
    [[nodiscard]] Interval voltmeter(const Probes& probes, double meterOhms, const Reading& nominal,
                                     const Moving& moving = {});
    /// Of Solution::ohmmeter.
    [[nodiscard]] Interval ohmmeter(const Probes& probes, const Reading& nominal, const Moving& moving = {});
    /// Of `times` V(probes) / V(over): what a ratiometric input makes of its supply. No meter loads it.
    [[nodiscard]] Interval ratio(const Probes& probes, const Probes& over, double times, const Reading& nominal,
                                 const Moving& moving = {});

  private:
    struct Candidate;
    struct Work;
    std::unique_ptr<Work> m_work;
};

} // namespace vicegrip::circuit
