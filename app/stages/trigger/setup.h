#pragma once

#include "app/desk/desk.h"
#include "core/trigger/wheel.h"

#include <functional>
#include <optional>

namespace vicegrip::app {

/// Of the selected circuit: its wheel and how its sensor stands, as far as that is said.
[[nodiscard]] job::TriggerSetup setupOf(const Desk& desk);

/// Its wheel; none: not said, or not understood.
[[nodiscard]] std::optional<trigger::Wheel> wheelOf(const Desk& desk);

/// Changes that of the selected circuit.
void changeSetup(const Desk& desk, const QString& what, const std::function<void(job::TriggerSetup&)>& change);

/// "35 teeth, a gap of 20° between tooth 35 and 1".
[[nodiscard]] QString wheelText(const trigger::Wheel& wheel);

} // namespace vicegrip::app
