#pragma once

#include "app/desk/desk.h"
#include "core/trigger/air_gap.h"

#include <functional>
#include <optional>

namespace vicegrip::app {

/// Of the selected circuit: its wheel and how its sensor stands, as far as that is said.
[[nodiscard]] job::TriggerSetup setupOf(const Desk& desk);

/// Its wheel; none: not said, or not understood.
[[nodiscard]] std::optional<trigger::Wheel> wheelOf(const Desk& desk);

/// Changes that of the selected circuit.
void changeSetup(const Desk& desk, const QString& what, const std::function<void(job::TriggerSetup&)>& change);

/// Whether its sensor is a coil.
[[nodiscard]] bool readsCoil(const Desk& desk);

/// Where its sensor stands, and may: the usual window of its kind where none is said, the run-out that feelers say, and
/// its strip where that is said far enough.
[[nodiscard]] trigger::AirGap airGapOf(const Desk& desk);

/// "35 teeth, a gap of 20° between tooth 35 and 1".
[[nodiscard]] QString wheelText(const trigger::Wheel& wheel);

} // namespace vicegrip::app
