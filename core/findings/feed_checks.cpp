#include "core/findings/feed_checks.h"

#include "core/base/phrase.h"

namespace vicegrip::findings {

void checkFeeds(std::vector<Finding>& out, const std::vector<feeds::Feed>& feeds)
{
    for (const feeds::Feed& f : feeds)
        if (!f.fuse.empty() && f.rating_a > 0 && f.rating_a * feeds::kLoaded < f.amps)
            out.push_back({"fuse-small",
                           Severity::Fix,
                           {},
                           phrase("Fuse {}: {}", f.fuse, f.reason),
                           phrase("A fuse that is loaded for long ages, and blows on the road."),
                           phrase("Take the rating that is said, where its wires outlast it, or split what hangs on "
                                  "it.")});
}

} // namespace vicegrip::findings
