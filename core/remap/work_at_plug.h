#pragma once

#include "core/remap/remap.h"

/// The order of hands at a plug whose wires move. Only remap.cpp includes this.
namespace vicegrip::remap {

/// In a housing that stays, a wire can only go home where nothing sits: what goes is pulled first, then wires move into
/// what is free, the last of a chain first; in a ring one wire is taken out and tagged, and goes home at the end. Then
/// what is new, blank plugs where a sealed cavity is left open, and the second count. Into another housing wires move
/// one by one, so that only one is ever loose.
[[nodiscard]] std::vector<RemapStep> workOf(const job::Connector& connector, const job::OldPlug& old,
                                            const std::vector<Remapped>& rows);

} // namespace vicegrip::remap
