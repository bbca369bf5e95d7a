#pragma once

/// What can be wrong with a car, as edits of its wiring and its network.
#include "core/faults/fault_list.h" // every kind, lists of them, and their files
#include "core/faults/network_edits.h" // what is changed in a network
