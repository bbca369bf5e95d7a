#pragma once

/// What must be read where, and whether what was read still proves it.
#include "core/proof/circuit_view.h" // what stands of one circuit
#include "core/proof/expected.h" // the promise at every place a probe can reach
#include "core/proof/place.h" // where a circuit can be read, and whether anything can be promised there
#include "core/proof/verdict.h" // readings against promises; what makes a proof stale
