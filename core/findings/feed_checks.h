#pragma once

#include "core/feeds/feeds.h"
#include "core/findings/finding.h"

#include <vector>

/// Checks on fuses: what is drawn behind them, and the wires. Only analysis includes this.
namespace vicegrip::findings {

/// "fuse-small": more hangs on a fuse than it carries for long. A wire that does not outlast its fuse is "wire-thin",
/// and what has no fuse "load-no-fuse" or "feed-no-fuse": those are said elsewhere.
void checkFeeds(std::vector<Finding>& out, const std::vector<feeds::Feed>& feeds);

} // namespace vicegrip::findings
