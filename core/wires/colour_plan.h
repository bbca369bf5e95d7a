#pragma once

#include "core/job/job.h"

#include <map>
#include <string>

/// Wire colours that nobody mixes up in a plug.
namespace vicegrip::wires {

/// What is wrong with a wire's colour, and a better one.
struct ColourAdvice
{
    std::string colour; ///< IEC 60757; the wire's own where nothing is wrong
    std::string why; ///< "w7 beside it in A8 is GY too"; empty where nothing is wrong
};

/// For every wire. Two conductors clash when they have one colour and sit in neighbouring cavities of a plug. A
/// conductor keeps its colour through splices and bulkheads, so what is proposed is one colour for all of its wires.
[[nodiscard]] std::map<job::WireId, ColourAdvice> adviseColours(const job::Job& job);

/// A colour for a new signal wire between two places: one that no other wire in their plugs has, while there are any;
/// then the one that is used least.
[[nodiscard]] std::string freeColour(const job::Job& job, const job::PointRef& from, const job::PointRef& to);

} // namespace vicegrip::wires
