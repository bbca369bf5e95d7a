#pragma once

#include "core/job/job.h"

/// What a relay switches, drawn: fuse, contact, plug and wires.
namespace vicegrip::harness {

/// A fuse at this place; where it leads on: a splice of its own.
job::PointRef addFuse(job::Job& job, const std::string& name, const job::PointRef& from, double rating_a);

/// What a relay's contact feeds.
struct RelayFed
{
    std::string name;
    std::string coil; ///< the device that pulls it in; empty: the key's relay does
    job::PointRef to;
    double amps = 0, fuse_a = 0;
};

/// Feeds a place from the battery, over a fuse and a contact; the wire outlasts the fuse. Nothing where the drawing has
/// no battery.
void addRelayContact(job::Job& job, const RelayFed& fed);

/// Draws a load that this coil switches: fed so, and back to the battery, that its current lifts nobody's ground. Its
/// plug and load have ids made of the coil's plug.
void addRelayFeed(job::Job& job, const job::Device& coil, const std::string& name, double amps, double fuse_a);

} // namespace vicegrip::harness
