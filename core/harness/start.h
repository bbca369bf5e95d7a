#pragma once

#include "core/job/job.h"

#include <string>

/// Where a drawing begins: a new job, another ECU, one more unit on CAN.
namespace vicegrip::harness {

/// A job with a battery, a main fuse, a key relay, a ground stud and this ECU wired to them.
[[nodiscard]] job::Job startJob(const std::string& name, const parts::EcuProfile& profile);

/// Puts another ECU in place: circuits lose their seats, and the old one's plugs go with the wires in them.
[[nodiscard]] Result<void> setEcu(job::Job& job, const parts::EcuProfile& profile);

/// Adds a unit that brings inputs over CAN, wired to feed and ground. Names that are taken get a number behind them.
void addExpander(job::Job& job, const parts::EcuProfile& profile);

} // namespace vicegrip::harness
