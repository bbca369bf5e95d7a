#pragma once

/// What is cut and what is bought for a harness.
#include "core/materials/cut_list.h" // how long each wire is cut and how far it is stripped
#include "core/materials/habits.h" // slack, service loops and spares of a workshop
#include "core/materials/shopping_list.h" // wire, terminals, seals, plugs, sleeves, with spares
