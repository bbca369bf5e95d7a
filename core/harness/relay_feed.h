#pragma once

#include "core/job/job.h"

/// What a relay switches, drawn: fuse, contact, plug and wires.
namespace vicegrip::harness {

/// Draws a load that the key's contact feeds on its own: from the battery over a fuse of `fuse_a` and a relay's contact
/// to a plug of two cavities, and back to the battery, so that its current lifts nobody's ground; its wires outlast the
/// fuse. The name is what it is called; its plug and load have ids made of `id`.
void addRelayFeed(job::Job& job, const std::string& id, const std::string& name, double amps, double fuse_a);

} // namespace vicegrip::harness
