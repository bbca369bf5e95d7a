#pragma once

#include "core/electrics/wiring.h"
#include "core/findings/finding.h"

#include <vector>

namespace vicegrip::findings {

/// "driver-shared" and "companions-together": several parts whose wires lead to one output, with the current that it
/// would switch; "bank-grounds": what fires both banks returns over one bolt.
void checkShared(std::vector<Finding>& out, const electrics::Wiring& wiring,
                 const std::vector<std::vector<electrics::Path>>& paths);

/// "relay-loop": relays whose coils are only fed through contacts that these coils pull in.
void checkRelayLoops(std::vector<Finding>& out, const job::Job& job);

} // namespace vicegrip::findings
