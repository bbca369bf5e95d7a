#pragma once

/// What is bought: sensors, ECUs, connectors, terminals, wire; and the library they come from.
#include "core/parts/conductor.h" // resistance, thickness and pull of wire and joints
#include "core/parts/describe.h" // parts written in lines
#include "core/parts/e_series.h" // preferred resistances
#include "core/parts/ecu.h" // an ECU or expander: inputs, pins, supplies
#include "core/parts/layout.h" // connector faces
#include "core/parts/library.h" // the folders of parts, shipped and own
#include "core/parts/lines.h" // inside: the lines of a description
#include "core/parts/resistance_curve.h" // resistance over temperature
#include "core/parts/sensor.h" // what each kind of sensor puts between its pins (a new kind begins here)
#include "core/parts/terminal.h" // terminal families
