#pragma once

#include "core/findings/finding.h"
#include "core/pinning/pinning.h"

/// Checks of the stage Pins: terminals, seals and cavities.
namespace vicegrip::findings {

/// Judges every connector: wrong pins, wires that its terminals or seals do not take, two wires in a sealed cavity, and
/// open cavities of a sealed plug that is otherwise done.
void checkPins(std::vector<Finding>& out, const job::Job& job, const pinning::Pins& pins);

} // namespace vicegrip::findings
