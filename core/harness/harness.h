#pragma once

/// Changes of the wiring that belong together, each of which leaves a job that holds.
#include "core/harness/bus_wires.h" // how a further device joins a bus
#include "core/harness/edits.h" // circuits, seats and sensors with their wires
#include "core/harness/lead_plan.h" // which wires are twisted, and where a shield lands
#include "core/harness/missing_wires.h" // what a seated circuit lacks, drawn
#include "core/harness/places.h" // places of a drawing by what they are for, and wires between them
#include "core/harness/relay_feed.h" // what a relay switches, drawn
#include "core/harness/resistors.h" // pull-ups and dividers that are added in the harness
#include "core/harness/start.h" // a new job, another ECU, one more expander
#include "core/harness/unit_port.h" // how a unit comes onto the ECU's bus
