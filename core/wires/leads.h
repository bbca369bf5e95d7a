#pragma once

#include "core/job/job.h"

#include <vector>

/// Leads: wires that lie twisted as one, with a shield round them or without.
namespace vicegrip::wires {

/// One turn of a twist, m (thirty turns a metre: common practice, no source), and how much longer it makes each core:
/// along a helix whose radius is half the wire's diameter d, sqrt(1 + (pi d / pitch)^2).
inline constexpr double kTwistPitch_m = 1.0 / 30;
[[nodiscard]] double twistFactor(double area_m2);

/// The wires that run beside this one to the same plug of a sensor or of what the ECU drives, this one first: what
/// could lie in one lead. The wire alone where there are none.
[[nodiscard]] std::vector<job::WireId> besides(const job::Job& job, const job::WireId& wire);

/// Leads lose cores that are no wires any more and drains that land nowhere; what is no lead then goes.
void dropLostLeads(job::Job& job);

/// These wires lie in one lead and no other, with this shield; its name is kept where the first lay in one already.
void setLead(job::Job& job, const std::vector<job::WireId>& cores, bool shield, std::vector<job::PointRef> drain);

/// The lead that this wire lies in goes; its wires lie alone.
void takeLead(job::Job& job, const job::WireId& wire);

} // namespace vicegrip::wires
