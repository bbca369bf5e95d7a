#pragma once

/// Lists that somebody has, pasted in.
#include "core/pasted/pasted_list.h" // cells, headings and units of any list, and places as people write them
#include "core/pasted/pasted_wires.h" // wires from such a list
