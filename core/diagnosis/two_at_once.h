#pragma once

#include "core/diagnosis/belief.h"

#include <utility>
#include <vector>

/// Two faults at once, where no single one explains what was read.
namespace vicegrip::diagnosis {

/// Two suspects, by their places in the list; the first comes before the second.
using Pair = std::pair<size_t, size_t>;

/// The short list: the `most` likeliest pairs, as far as that can be told before the network is solved with both. Where
/// one of the two moves a reading and the other does not, it reads as with that one alone. What has a size stands in it
/// with the one that fits best. The first suspect is the sound car.
[[nodiscard]] std::vector<Pair> likelyPairs(const std::vector<Suspect>& suspects,
                                            const std::vector<std::vector<Prediction>>& predicted,
                                            const std::vector<Evidence>& evidence, const std::vector<double>& spans,
                                            size_t most);

/// Both of them, as one suspect. Of all pairs together the weight is that of their family: a pair's is as large a part
/// of it as the product of its two weights is of all such products.
[[nodiscard]] Suspect both(const std::vector<Suspect>& suspects, const Pair& pair, const Families& families);

/// What half a step of the size of either moves: that is as it is with it alone.
void growAsAlone(std::vector<Prediction>& ofPair, const std::vector<Prediction>& one,
                 const std::vector<Prediction>& other);

} // namespace vicegrip::diagnosis
