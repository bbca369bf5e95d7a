#pragma once

/// What is bought: sensors, ECUs, connectors, terminals, wire; and the library they come from.
#include "core/parts/alternative.h" // inside: one of several, as a member of a file
#include "core/parts/conductor.h" // resistance, thickness and pull of wire and joints
#include "core/parts/describe.h" // parts written in lines
#include "core/parts/e_series.h" // preferred resistances
#include "core/parts/ecu.h" // an ECU or expander: inputs, pins, supplies
#include "core/parts/elements.h" // what a part puts between its terminals
#include "core/parts/kind.h" // what every kind of device answers (a new kind begins here)
#include "core/parts/layout.h" // connector faces
#include "core/parts/library.h" // the folders of parts, shipped and own
#include "core/parts/lines.h" // inside: the lines of a description
#include "core/parts/models.h" // the list of kinds, each a file in kinds/
#include "core/parts/part.h" // a sensor or an actuator, and what can be asked of it
#include "core/parts/pin_role.h" // what its terminals are for
#include "core/parts/resistance_curve.h" // resistance over temperature
#include "core/parts/terminal.h" // terminal families
#include "core/parts/transceiver.h" // what a CAN transceiver shows a meter
