#pragma once

/// How the harness lies, how thick it is where, and what goes over it.
#include "core/branches/bundle.h" // wires packed round, sleeve, shrink and grommet
#include "core/branches/tree.h" // the way of each wire along the stretches, and their lengths
