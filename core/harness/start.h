#pragma once

#include "core/job/job.h"

#include <string>

/// Where a drawing begins: a new job, another ECU, one more unit on CAN.
namespace vicegrip::harness {

/// A job with a battery, a main fuse, a key relay, a ground stud and this ECU wired to them.
[[nodiscard]] job::Job startJob(const std::string& name, const parts::EcuProfile& profile);

/// The same drawing for another car of the kind: what hands did, read, taught and wrote down in this one is left out.
[[nodiscard]] job::Job anotherLike(job::Job job, const std::string& name);

/// Puts another ECU in place: circuits lose their seats, and the old one's plugs go with the wires in them.
[[nodiscard]] Result<void> setEcu(job::Job& job, const parts::EcuProfile& profile);

/// Adds a unit that hangs on the ECU's bus, wired to feed, ground and the bus. Names that are taken get a number behind
/// them.
void addExpander(job::Job& job, const parts::EcuProfile& profile);

} // namespace vicegrip::harness
