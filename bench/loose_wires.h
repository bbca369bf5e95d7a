#pragma once

#include "core/faults/fault_list.h"

#include <random>
#include <set>
#include <string>
#include <vector>

namespace vicegrip::bench {

/// Wires that let go for moments: at random, about once a second while hands move them and once in two minutes else,
/// for a tenth of a second or so (common practice, no source).
class LooseWires
{
  public:
    explicit LooseWires(unsigned seed) : m_random(seed) {}

    /// What hands hold, as faults::Loose::heldAs; empty: they are off.
    void hold(std::set<std::string> held) { m_held = std::move(held); }

    /// So many seconds later. Whether another set of them is open now.
    bool pass(double seconds, const faults::FaultList& faults);

    /// What is open now, as faults.
    [[nodiscard]] const faults::FaultList& open() const { return m_open; }

  private:
    std::mt19937 m_random;
    std::set<std::string> m_held;
    faults::FaultList m_open;
};

} // namespace vicegrip::bench
