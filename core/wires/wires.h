#pragma once

/// What a wire is: how thick, what colour, how it goes on at its ends.
#include "core/wires/area.h" // the area each wire must have, and why
#include "core/wires/colour.h" // IEC 60757 letters, read and spoken
#include "core/wires/colour_plan.h" // colours nobody mixes up in a plug
#include "core/wires/joins.h" // splices, pairs, and wires that serve nothing
#include "core/wires/leads.h" // wires that lie twisted as one, and their shields
#include "core/wires/wire_typed.h" // lengths and areas as people type them
