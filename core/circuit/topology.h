#pragma once

#include "core/base/result.h"
#include "core/circuit/network.h"

#include <optional>
#include <vector>

/// What can be said of a network before any arithmetic.
namespace vicegrip::circuit {

/// The parts that no resistor or voltage branch ties to the reference, each as its nodes.
[[nodiscard]] std::vector<std::vector<Node>> floatingParts(const Network& network);

/// The first thing that forbids an answer: a bad value, a missing node, a loop of voltage sources.
[[nodiscard]] std::optional<Error> contradiction(const Network& network);

} // namespace vicegrip::circuit
