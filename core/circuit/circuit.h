#pragma once

/// A linear network, its answer, and how far that can be off.
#include "core/circuit/bounds.h" // the least and the most a reading can be
#include "core/circuit/climb.h" // inside: the way to the worst corner
#include "core/circuit/corner.h" // inside: a network with some elements elsewhere
#include "core/circuit/factors.h" // inside: the factored system
#include "core/circuit/network.h" // nodes, elements, tolerances, and what moves together
#include "core/circuit/solution.h" // the DC answer with all sensitivities
#include "core/circuit/topology.h" // inside: what hangs together before any arithmetic
