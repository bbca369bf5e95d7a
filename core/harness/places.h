#pragma once

#include "core/job/job.h"

/// Places of a drawing by what they are for, made where there is none; and the wires between them.
namespace vicegrip::harness {

/// The place switched battery voltage is taken from: behind the key's relay, else the battery's post.
[[nodiscard]] job::PointRef switchedFeed(const job::Job& job);

/// The splice of the unit's sensor supply, or sensor ground; drawn next to the unit when there is none.
[[nodiscard]] job::PointRef sensorSplice(job::Job& job, const parts::Ecu& unit, parts::EcuPinRole role);

/// Where the unit's own ground wire ends: heaters return there and not through the sensor ground.
[[nodiscard]] job::PointRef powerGround(const job::Job& job, const parts::Ecu& unit);

/// Draws a wire with the next free number.
void drawWire(job::Job& job, const job::PointRef& from, const job::PointRef& to, double length_m, double area_m2,
              const std::string& colour);

/// A joint's or resistor's name that is not taken yet: S6, R2.
[[nodiscard]] std::string freeName(const job::Job& job, const std::string& prefix);

/// Forgets what was said of plugs and cavities that are no longer there: what was pinned, what an old plug held, loads.
void dropLost(job::Job& job);

} // namespace vicegrip::harness
