#pragma once

#include "core/electrics/electrics.h"
#include "core/electrics/wiring.h"
#include "core/findings/finding.h"

#include <vector>

/// Whether a current finds another way into a unit that the key should switch off. Only analysis includes this: it
/// solves the network with the key out.
namespace vicegrip::findings {

/// A key feed takes the key for on from here (typical).
inline constexpr double kTakenForOn_v = 5;

/// "back-feed": a unit that stays awake with the key off, and the way of the current. Only units that the drawing feeds
/// from behind a contact that needs the key (its `to`) are looked at.
/// `car` with the key on says first, with its contacts opened, whether that can be: solving anew is for those cars
/// only.
void checkBackFeed(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring,
                   const electrics::Electrics& car);

} // namespace vicegrip::findings
