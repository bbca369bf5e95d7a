#pragma once

#include "core/job/job.h"

#include <string>
#include <vector>

/// What is cut and what is bought for the wires of a job.
namespace vicegrip::harness {

inline constexpr double kSlack = 0.03; ///< of the drawn length: a loom does not lie straight (typical)
inline constexpr double kServiceLoop_m = 0.08; ///< at a plug, so that it can be pinned again (typical)
inline constexpr double kStagger_m = 0.04; ///< from splice to splice, so that their bulges do not pile up (typical)

/// A wire as it is cut.
struct Cut
{
    job::WireId wire;
    std::string from, to; ///< in words
    std::string colour; ///< IEC 60757
    double area_m2 = 0;
    double drawn_m = 0;
    double cut_m = 0; ///< with slack, service loops and stagger, rounded up to whole centimetres
    double stripFrom_m = 0, stripTo_m = 0; ///< what the terminal or splice at each end needs
    std::string note; ///< why it is longer than its neighbours; empty where it is not
};

/// Every wire, thickest first, then by colour and length, so that one reel is cut through before the next. Splices are
/// staggered in the order they are drawn: each sits kStagger_m further from the plug than the one before.
[[nodiscard]] std::vector<Cut> cutList(const job::Job& job);

/// Something to buy.
struct Item
{
    std::string what;
    std::string unit; ///< "pcs" or "m"
    double needed = 0, spare = 0;
    std::string why; ///< of the spares
};

inline constexpr double kShrink_m = 0.05; ///< over the end of a sleeve at a plug (typical)

/// Wire by area and colour, terminals and seals by family, blank plugs, plugs, resistors, splices; sleeves, shrink and
/// grommets for the stretches of the harness. One terminal and
/// seal more than needed for each three (common practice: a small kit of three, order one more); a metre more of each
/// wire.
[[nodiscard]] std::vector<Item> shoppingList(const job::Job& job);

/// RFC 4180, a header line first. Lengths in m, areas in mm², strips in mm.
[[nodiscard]] std::string toCsv(const std::vector<Cut>& cuts);
[[nodiscard]] std::string toCsv(const std::vector<Item>& items);

} // namespace vicegrip::harness
